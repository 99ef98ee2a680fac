import { useSyncExternalStore } from "react";

const never = (): (() => void) => () => undefined;

/** False on the server and until the page's script is up: what is tapped before then would be lost. */
export function useHydrated(): boolean {
  return useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
}
