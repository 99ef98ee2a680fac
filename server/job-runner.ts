import { randomUUID } from "node:crypto";

import { LEVEL_YEAR, levelYear } from "~/ahead/workload.server";
import { BUNDLES } from "~/book/bundles/bundles.server";
import { ASSESS_REGISTER, assessRegister } from "~/duties/assess-job.server";
import { clearOldJobs } from "~/kit/jobs/jobs.server";
import { runJobs } from "~/kit/jobs/run-jobs.server";
import { sendMessages } from "~/kit/messages/messages.server";
import { takeLease } from "~/kit/server/leases.server";
import { logError } from "~/kit/server/log.server";
import { sendDigests } from "~/round/firm/digest.server";
import { keepMissingWear } from "~/sheet/log/wear-missing.server";
import { summariseMissing } from "~/sheet/summaries/summaries.server";
import { LOOK_AHEAD, lookAhead } from "~/stores/items/outlook.server";
import { anyStale, foreseeStale } from "~/wear/foresee.server";

const EVERY_MS = 1000;
/** Soon again makes no sense while the database is away. */
const AFTER_FAULT_MS = 10_000;
/** While processes of an older version still run, they close sheets without a summary. */
const CATCH_UP_MS = 600_000;
const CATCH_UP_LEASE = "summaries";
/** Seconds each, and somebody looks at what they are for. */
const QUICK = { [LEVEL_YEAR]: levelYear, [LOOK_AHEAD]: lookAhead };
const QUICK_LEASE = "quick jobs";
const WEAR_LEASE = "wear";
const WEAR_LEASE_MS = 60_000;
const LOOKED_BACK_MS = 7 * 86_400_000;

/**
 * Looks for long work that waits and for messages, each by itself: a message does not wait behind a bundle. Of all processes one
 * at a time does either.
 *
 * @returns stops it, after the running steps
 */
export function startJobs(): () => Promise<void> {
  const holder = randomUUID();
  let stopped = false;
  const stopping = (): boolean => stopped;
  let caughtUpAt = 0;
  const loops = [
    new Loop("Jobs", async () => {
      if (Date.now() - caughtUpAt > CATCH_UP_MS) {
        await tidyUp(holder);
        caughtUpAt = Date.now();
      }
      await runJobs({ ...BUNDLES, [ASSESS_REGISTER]: assessRegister }, holder, stopping);
    }),
    // Not behind what takes minutes.
    new Loop("Quick jobs", () => runJobs(QUICK, holder, stopping, QUICK_LEASE)),
    new Loop("Messages", () => sendMessages(holder, new Date(), { stopping })),
    // One process is enough, and two would only wait for each other.
    new Loop("Wear", async () => {
      if ((await anyStale(new Date())) && (await takeLease(WEAR_LEASE, holder, WEAR_LEASE_MS, new Date())))
        await foreseeStale(new Date());
    }),
  ];
  return async () => {
    stopped = true;
    await Promise.all(loops.map((loop) => loop.stop()));
  };
}

/** Does something again and again, a while after it was done. */
class Loop {
  readonly #name: string;
  readonly #work: () => Promise<unknown>;
  #timer: NodeJS.Timeout | undefined;
  #running: Promise<void> = Promise.resolve();
  #stopped = false;

  constructor(name: string, work: () => Promise<unknown>) {
    this.#name = name;
    this.#work = work;
    this.#schedule(EVERY_MS);
  }

  #schedule(wait: number): void {
    if (this.#stopped) return;
    this.#timer = setTimeout(() => {
      this.#running = this.#once();
    }, wait);
    this.#timer.unref();
  }

  async #once(): Promise<void> {
    let wait = EVERY_MS;
    try {
      await this.#work();
    } catch (error) {
      logError(`${this.#name}: ${(error as Error).message}`);
      wait = AFTER_FAULT_MS;
    }
    this.#schedule(wait);
  }

  async stop(): Promise<void> {
    this.#stopped = true;
    clearTimeout(this.#timer);
    await this.#running;
  }
}

async function tidyUp(holder: string): Promise<void> {
  const now = new Date();
  if (!(await takeLease(CATCH_UP_LEASE, holder, CATCH_UP_MS, now))) return;
  await clearOldJobs(now);
  await summariseMissing(new Date(now.getTime() - LOOKED_BACK_MS));
  await keepMissingWear(now);
  await sendDigests(now);
}
