import { type Searches, searches } from "./searches";

/** What a worker thread is asked: bundled beside the server by the build. */
export default function run<K extends keyof Searches>({
  name,
  args,
}: {
  name: K;
  args: Parameters<Searches[K]>;
}): unknown {
  return (searches[name] as (...all: Parameters<Searches[K]>) => unknown)(...args);
}
