import { randomUUID } from "node:crypto";

import { BUNDLES } from "~/book/bundles/bundles.server";
import { clearOldJobs } from "~/kit/jobs/jobs.server";
import { runJobs } from "~/kit/jobs/run-jobs.server";
import { sendMessages } from "~/kit/messages/messages.server";
import { takeLease } from "~/kit/server/leases.server";
import { logError } from "~/kit/server/log.server";
import { sendDigests } from "~/round/firm/digest.server";
import { summariseMissing } from "~/sheet/summaries/summaries.server";

const EVERY_MS = 1000;
/** Soon again makes no sense while the database is away. */
const AFTER_FAULT_MS = 10_000;
/** While processes of an older version still run, they close sheets without a summary. */
const CATCH_UP_MS = 600_000;
const CATCH_UP_LEASE = "summaries";
const LOOKED_BACK_MS = 7 * 86_400_000;

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
  let caughtUpAt = 0;
  const look = async (): Promise<void> => {
    let wait = EVERY_MS;
    try {
      if (Date.now() - caughtUpAt > CATCH_UP_MS) {
        await tidyUp(holder);
        caughtUpAt = Date.now();
      }
      await runJobs(BUNDLES, holder, () => stopped);
      await sendMessages(holder, new Date(), { stopping: () => stopped });
    } catch (error) {
      logError(`Jobs: ${(error as Error).message}`);
      wait = AFTER_FAULT_MS;
    }
    if (!stopped) schedule(wait);
  };
  const schedule = (wait: number): void => {
    timer = setTimeout(() => {
      running = look();
    }, wait);
    timer.unref();
  };
  schedule(EVERY_MS);
  return async () => {
    stopped = true;
    clearTimeout(timer);
    await running;
  };
}

async function tidyUp(holder: string): Promise<void> {
  const now = new Date();
  if (!(await takeLease(CATCH_UP_LEASE, holder, CATCH_UP_MS, now))) return;
  await sendDigests(now);
  await clearOldJobs(now);
  await summariseMissing(new Date(now.getTime() - LOOKED_BACK_MS));
}
