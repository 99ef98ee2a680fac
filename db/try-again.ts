import { errorNumber } from "./error-number";
import { dbWatch } from "./watch";

/** Deadlock, a lock that was waited for too long, a row that was changed since it was read: another writer won, nothing is written. */
const CONFLICTS = new Set([1213, 1205, 1020]);
/** Tries at most, and for how long at most: who waits for an answer is told by then. */
const TRIES = 12;
const LONGEST_MS = 15_000;
const FIRST_WAIT_MS = 20;
const LONGEST_WAIT_MS = 1000;

interface Trying {
  /** Whether something else than a conflict is worth another try. */
  also?: (error: unknown) => Promise<boolean>;
  random?: () => number;
  wait?: (ms: number) => Promise<void>;
  now?: () => number;
}

/**
 * Does a piece of work that wrote nothing when it failed, and does it again when another writer on the same rows won: on a cluster that
 * shows at the commit alone. Waits a random time in between, longer each time, so that those who met do not meet again.
 */
export async function tryAgain<T>(
  work: () => Promise<T>,
  {
    also = () => Promise.resolve(false),
    random = Math.random,
    wait = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms)),
    now = Date.now,
  }: Trying = {},
): Promise<T> {
  const began = now();
  for (let attempt = 1; ; attempt++) {
    try {
      return await work();
    } catch (error) {
      const isOver = attempt >= TRIES || now() - began > LONGEST_MS;
      const number = errorNumber(error);
      if (isOver || !(CONFLICTS.has(number) || (await also(error)))) throw error;
      dbWatch().again(number);
      await wait(random() * Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** attempt));
    }
  }
}
