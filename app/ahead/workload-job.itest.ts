import { must } from "@core";
import { getDb } from "@db";

import { type JobKind, runJobs } from "~/kit/jobs/run-jobs.server";
import { addActor, closeDatabase, freshDatabase, importLines, publishShipped } from "~/testing/database";

import { aheadFilter } from "./ahead-schemas";
import { askForYear, keptWorkload, LEVEL_YEAR, levelYear, workload } from "./workload.server";

const NOW = new Date("2026-06-10T10:00:00Z");
const TOMORROW = new Date("2026-06-11T10:00:00Z");
const ALL = aheadFilter(new URLSearchParams());
const PRINTERS = aheadFilter(new URLSearchParams({ family: "wide-format-printer" }));
const KINDS = { [LEVEL_YEAR]: levelYear };

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  await importLines(
    await addActor("Lea", "lead"),
    [
      "Aqua,Pier,,Europe/Lisbon,,,Kitchen,R-1,Ice one,flake-ice-maker,water-filter,2026-01-05",
      "Ferry,Quay,,Europe/Lisbon,,,Deck,R-2,Printer,wide-format-printer,,2026-06-10",
    ],
    NOW,
  );
});
beforeEach(async () => {
  await getDb().models.Job.destroy({ where: {} });
  await getDb().models.Workload.destroy({ where: {} });
});
afterAll(closeDatabase);

it("a year that many ask for at once is worked out once, and kept as it is", async () => {
  expect(await keptWorkload(ALL, NOW)).toEqual({ load: null, madeAt: null, current: false, job: null });
  await Promise.all(Array.from({ length: 8 }, () => askForYear(ALL, NOW)));
  await askForYear(PRINTERS, NOW);
  expect(await getDb().models.Job.count({ where: {} })).toBe(2);
  expect((await keptWorkload(ALL, NOW)).job).toMatchObject({ state: "waiting" });
  expect(await runJobs(KINDS, "one")).toBe(2);
  const kept = await keptWorkload(ALL, NOW);
  expect(kept).toMatchObject({ current: true, madeAt: NOW, job: { state: "done" } });
  expect(kept.load).toEqual(await workload(ALL, NOW));
  // Each filter has its own.
  const printers = must((await keptWorkload(PRINTERS, NOW)).load ?? undefined);
  expect(printers.occurrences).toBeLessThan(must(kept.load ?? undefined).occurrences);
});

it("what is not as things are now is still shown, and worked out again when asked for", async () => {
  await askForYear(PRINTERS, NOW);
  await runJobs(KINDS, "one");
  expect(await keptWorkload(PRINTERS, TOMORROW)).toMatchObject({
    current: false,
    madeAt: NOW,
    load: { today: "2026-06-10" },
  });
  await askForYear(PRINTERS, TOMORROW);
  await runJobs(KINDS, "one");
  expect(await keptWorkload(PRINTERS, TOMORROW)).toMatchObject({ current: true, load: { today: "2026-06-11" } });
});

it("the process that works it out may end, and one that cannot be worked out says so", async () => {
  await askForYear(PRINTERS, NOW);
  const quiet = jest.spyOn(console, "error").mockImplementation();
  let begun = 0;
  const ending: JobKind = () => {
    begun += 1;
    return Promise.reject(new Error("its process is ended here"));
  };
  expect(await runJobs({ [LEVEL_YEAR]: ending }, "one", () => begun > 0)).toBe(0);
  expect(await runJobs(KINDS, "two")).toBe(1);
  expect((await keptWorkload(PRINTERS, NOW)).current).toBe(true);

  await askForYear(PRINTERS, TOMORROW);
  expect(await runJobs({ [LEVEL_YEAR]: ending }, "two")).toBe(1);
  quiet.mockRestore();
  expect(await keptWorkload(PRINTERS, TOMORROW)).toMatchObject({
    current: false,
    job: { state: "failed", message: expect.stringMatching(/went wrong/u) },
  });
  // What failed long ago keeps nobody from asking.
  const ended = must(
    (await getDb().models.Job.findOne({ where: { state: "failed" }, raw: true })) ?? undefined,
  ).endedAt;
  const later = new Date(must(ended ?? undefined).getTime() + 3_700_000);
  expect((await keptWorkload(PRINTERS, later)).job).toBeNull();
  await askForYear(PRINTERS, TOMORROW);
  expect((await keptWorkload(PRINTERS, TOMORROW)).job).toMatchObject({ state: "waiting" });
});
