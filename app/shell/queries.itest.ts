import { must } from "@core";
import { getDb } from "@db";

import { getDuty, listDue } from "~/duties/due.server";
import { heldAmong, openHolds } from "~/duties/holds.server";
import type { Actor } from "~/kit/actor";
import { listMachines } from "~/machines/machines.server";
import { procedureTakes } from "~/procedures/procedures.server";
import { appendEntries } from "~/sheet/log/append-entries.server";
import { loadSheet, openSheet } from "~/sheet/log/sheets.server";
import { openSheetsOf } from "~/sheet/open-sheets.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { entryOf } from "~/testing/sheets";

/** What a page or a tap costs in queries stays the same however much there is. */
const NOW = new Date("2026-06-10T09:00:00Z");
let ada: Actor;
const runs: string[] = [];

beforeAll(async () => {
  await freshDatabase();
  await publishShipped("all");
  ada = await addActor("Ada", "lead");
  await importLines(
    ada,
    Array.from(
      { length: 12 },
      (_, n) => `Co,Site ${n % 3},,Europe/Lisbon,,,Hall,Q-${n},Oven ${n},conveyor-oven,,2026-05-01`,
    ),
    NOW,
  );
  for (let n = 0; n < 12; n++)
    runs.push(
      await openSheet(ada, await dutyOf(`Q-${n}`, "conveyor-oven-weekly"), "phone", new Date(NOW.getTime() + n)),
    );
});
afterAll(closeDatabase);

async function count(work: () => Promise<unknown>): Promise<number> {
  getDb().takeQueryCount();
  await work();
  return getDb().takeQueryCount();
}

it("the sheets in one's hands cost two queries, for one or for twelve", async () => {
  expect(await count(() => openSheetsOf(ada.id))).toBe(2);
  const sheets = await openSheetsOf(ada.id);
  expect(sheets).toHaveLength(12);
  expect(sheets.map((one) => one.machineTag)).toEqual(Array.from({ length: 12 }, (_, n) => `Q-${n}`));
  const nobody = await addActor("Nobody");
  expect(await count(() => openSheetsOf(nobody.id))).toBe(1);
});

it("a tap costs the same on a long log as on a short one", async () => {
  const [sheetId] = runs;
  const tap = (minute: number) => [
    entryOf(ada, must(sheetId), new Date(NOW.getTime() + minute * 60_000), { type: "note", text: "tap" }),
  ];
  const first = await count(() => appendEntries(ada, must(sheetId), tap(1), new Date(NOW.getTime() + 3_600_000)));
  for (let n = 2; n < 60; n++) await appendEntries(ada, must(sheetId), tap(n), new Date(NOW.getTime() + 3_600_000));
  expect(await count(() => appendEntries(ada, must(sheetId), tap(60), new Date(NOW.getTime() + 3_700_000)))).toBe(
    first,
  );
  expect(first).toBeLessThanOrEqual(10);
});

it.each([
  ["a sheet", () => loadSheet(must(runs[0])), 8],
  ["the round", () => listDue({}, NOW), 4],
  ["a duty", async () => getDuty(await dutyOf("Q-1", "conveyor-oven-daily"), NOW), 16],
  ["the register's page", () => listMachines({}), 1],
  ["machines out of service", () => openHolds(), 1],
  ["what procedures take", () => procedureTakes(["conveyor-oven-weekly", "conveyor-oven-daily", "own-duty"]), 1],
] as const)("%s costs a fixed number of queries", async (_name, work, most) => {
  expect(await count(work)).toBeLessThanOrEqual(most);
});

/** The plan of a statement reads no whole table of those that grow. */
it.each([
  ["sheets in hand", "SELECT id FROM sheets WHERE status = 'open' AND held_by = 'x' ORDER BY opened_at DESC LIMIT 16"],
  [
    "holds of machines",
    "SELECT DISTINCT machine_id FROM machine_holds WHERE cleared_at IS NULL AND machine_id IN ('a', 'b')",
  ],
  ["a hold's machine", "SELECT id FROM machine_holds WHERE machine_id = 'a' ORDER BY since DESC LIMIT 30"],
  ["a record's chain", "SELECT seq FROM record_chain WHERE subject_id = 'a' ORDER BY seq"],
  ["instruments of a kind", "SELECT id FROM instruments WHERE kind IN ('caliper') AND retired_at IS NULL"],
  ["a machine's slots", "SELECT slot FROM machine_slots WHERE machine_id = 'a'"],
])("%s are found by an index", async (_name, sql) => {
  const plan = await getDb().select<{ key: string | null; type: string }>(`EXPLAIN ${sql}`);
  for (const row of plan) {
    expect(row.type).not.toBe("ALL");
    expect(row.key).not.toBeNull();
  }
});

it("nobody held is asked without a query", async () => expect(await count(() => heldAmong([]))).toBe(0));

it("what procedures take is that of the newest version, nested ones included", async () => {
  const takes = await procedureTakes(["conveyor-oven-weekly"]);
  expect(must(takes.get("conveyor-oven-weekly")).handsOn).toBe(65);
  expect(
    must(takes.get("conveyor-oven-weekly"))
      .materials.map((one) => one.item)
      .sort(),
  ).toEqual(["degreaser-mild", "mild-soap", "soil-repellent", "stainless-polish"]);
});
