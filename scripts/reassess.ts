/**
 * Assesses every duty of the register anew: after an upgrade of the engine, or to refresh forecasts. It is a job in the database: whichever
 * process takes it, this one or one of the app's, the next goes on when that one ends.
 */
import { randomUUID } from "node:crypto";

import { ASSESS_REGISTER, assessRegister } from "../app/duties/assess-job.server";
import { askOnce, progressOf } from "../app/kit/jobs/jobs.server";
import { runJobs } from "../app/kit/jobs/run-jobs.server";
import { getDb } from "../db/index";

const LOOK_EVERY_MS = 500;
const started = performance.now();
const id = await askOnce({ kind: ASSESS_REGISTER, title: "Every duty worked out anew", what: {} }, new Date());
const holder = randomUUID();
let shown = 0;
let working: Promise<unknown> | null = null;
for (;;) {
  working ??= runJobs({ [ASSESS_REGISTER]: assessRegister }, holder).finally(() => (working = null));
  await Promise.race([working, new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS))]);
  const job = await progressOf(id);
  if (!job || job.state === "done" || job.state === "failed" || job.state === "stopped") {
    await working;
    const seconds = ((performance.now() - started) / 1000).toFixed(1);
    process.stdout.write(`${job?.message ?? "It is not there any more."} (${job?.state ?? "gone"}, ${seconds} s)\n`);
    process.exitCode = job?.state === "done" ? 0 : 1;
    break;
  }
  if (job.done - shown >= 5000) {
    shown = job.done;
    process.stdout.write(`  ${job.done.toLocaleString("en")} of ${job.total.toLocaleString("en")} machines\n`);
  }
}
await getDb().close();
