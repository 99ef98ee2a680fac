import { must } from "@core";
import { getDb } from "@db";

import { askOnce, progressOf } from "~/kit/jobs/jobs.server";
import { type JobKind, runJobs } from "~/kit/jobs/run-jobs.server";
import { dropLease } from "~/kit/server/leases.server";
import { addActor, closeDatabase, freshDatabase, importLines, publishShipped } from "~/testing/database";

import { ASSESS_REGISTER, assessRegister } from "./assess-job.server";

const NOW = new Date("2026-06-10T09:00:00Z");
const MACHINES = 450;
const JOB = { kind: ASSESS_REGISTER, title: "Every duty anew", what: {} };

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  const line = (_: unknown, i: number): string =>
    `Co,Yard,,Europe/Lisbon,,,Hall,V-${i},Sweeper,ride-on-sweeper,,2026-06-01`;
  await importLines(await addActor("Lea", "lead"), Array.from({ length: MACHINES }, line), NOW);
});
afterAll(closeDatabase);

/** What no rule asks for. */
const wrong = (): Promise<unknown> => getDb().models.Duty.update({ dueOn: "2031-01-01" }, { where: {} });
const wrongOnes = (): Promise<number> => getDb().models.Duty.count({ where: { dueOn: "2031-01-01" } });

it("works every duty out anew, in parts, and says how far it is", async () => {
  await wrong();
  const id = await askOnce(JOB, NOW);
  // Asked for twice, it is done once.
  expect(await askOnce(JOB, NOW)).toBe(id);
  const seen: (number | undefined)[] = [];
  const watched: JobKind = async (job) => {
    seen.push((await progressOf(id))?.done);
    return assessRegister(job);
  };
  expect(await runJobs({ [ASSESS_REGISTER]: watched }, "one")).toBe(1);
  expect(seen).toEqual([0, 200, 400, 450]);
  expect(await wrongOnes()).toBe(0);
  expect(await progressOf(id)).toMatchObject({ state: "done", done: MACHINES, total: MACHINES });
  expect(await askOnce(JOB, NOW)).not.toBe(id);
  expect(await runJobs({ [ASSESS_REGISTER]: assessRegister }, "one")).toBe(1);
});

it("another process goes on where one was ended", async () => {
  await wrong();
  const id = await askOnce(JOB, NOW);
  let steps = 0;
  const ending: JobKind = async (job) => {
    steps += 1;
    if (steps === 2) throw new Error("its process is ended here");
    return assessRegister(job);
  };
  const quiet = jest.spyOn(console, "error").mockImplementation();
  await runJobs({ [ASSESS_REGISTER]: ending }, "one", () => steps >= 2);
  quiet.mockRestore();
  const left = await wrongOnes();
  expect(left).toBeGreaterThan(0);
  expect(must((await progressOf(id)) ?? undefined)).toMatchObject({ state: "running", done: 200 });
  await dropLease("jobs", "one");
  expect(await runJobs({ [ASSESS_REGISTER]: assessRegister }, "two")).toBe(1);
  expect(await wrongOnes()).toBe(0);
  expect(await progressOf(id)).toMatchObject({ state: "done", done: MACHINES });
});
