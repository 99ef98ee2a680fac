import { availableParallelism } from "node:os";

import { CoreError } from "@core";
import { Piscina } from "piscina";

import { type Searches, searches } from "./searches";

const IDLE_MS = 60_000;

let pool: Piscina | null = null;

/**
 * Runs a search in a worker thread, so that other requests are answered meanwhile. `server.js` says where the built worker
 * is; without one (development, tests of the services) the search runs here.
 *
 * @throws what the search throws
 */
export async function search<K extends keyof Searches>(
  name: K,
  ...args: Parameters<Searches[K]>
): Promise<Awaited<ReturnType<Searches[K]>>> {
  type Found = Awaited<ReturnType<Searches[K]>>;
  const filename = process.env.HOUND_SEARCH_WORKER;
  if (!filename) return await (searches[name] as (...all: Parameters<Searches[K]>) => Found | Promise<Found>)(...args);
  pool ??= new Piscina({
    filename,
    minThreads: 0,
    maxThreads: Math.max(1, availableParallelism() - 1),
    idleTimeout: IDLE_MS,
  });
  try {
    return (await pool.run({ name, args })) as Found;
  } catch (error) {
    // Errors lose their class on the way between threads.
    const { code, path, message } = error as Partial<CoreError> & { message: string };
    throw code && path !== undefined ? new CoreError(code, path, message) : error;
  }
}
