import { randomUUID } from "node:crypto";

import { BUNDLES } from "~/book/bundles/bundles.server";
import { runJobs } from "~/kit/jobs/run-jobs.server";
import { logError } from "~/kit/server/log.server";

const EVERY_MS = 1000;

/**
 * Looks for long work that waits, and does it while this process is the one of all that may.
 *
 * @returns stops it, after the running step
 */
export function startJobs(): () => Promise<void> {
  const holder = randomUUID();
  let stopped = false;
  let timer: NodeJS.Timeout | undefined;
  let running: Promise<void> = Promise.resolve();
  const look = async (): Promise<void> => {
    try {
      await runJobs(BUNDLES, holder, () => stopped);
    } catch (error) {
      logError(`Jobs: ${(error as Error).message}`);
    }
    if (!stopped) schedule();
  };
  const schedule = (): void => {
    timer = setTimeout(() => {
      running = look();
    }, EVERY_MS);
    timer.unref();
  };
  schedule();
  return async () => {
    stopped = true;
    clearTimeout(timer);
    await running;
  };
}
