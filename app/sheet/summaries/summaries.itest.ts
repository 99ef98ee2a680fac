import { must } from "@core";
import { getDb } from "@db";

import { printed } from "~/book/print/printed.server";
import { loadRecord } from "~/book/records.server";
import type { Actor } from "~/kit/actor";
import { changeMachines } from "~/machines/machines.server";
import { appendEntries } from "~/sheet/log/append-entries.server";
import { correctFact, openSheet } from "~/sheet/log/sheets.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { entryOf, workAndSign } from "~/testing/sheets";

import { exceptionsIn } from "./exceptions";
import { summariseMissing } from "./summaries.server";

const NOW = new Date("2026-06-10T22:30:00Z");
const later = (minutes: number): Date => new Date(NOW.getTime() + minutes * 60_000);
const DAILY = "ride-on-sweeper-daily";
let ada: Actor;
let lead: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  [ada, lead] = [await addActor("Ada"), await addActor("Lea", "lead")];
  await importLines(
    lead,
    [
      ...[1, 2, 3, 4].map((n) => `Co,Yard,1 Quay,Europe/Berlin,,,Hall,S-${n},Sweeper ${n},ride-on-sweeper,,2026-06-01`),
      "Other,Pier,2 Quay,America/New_York,,,Shed,P-1,Pier sweeper,ride-on-sweeper,,2026-06-01",
    ],
    NOW,
  );
});
afterAll(closeDatabase);

/** What is kept of a record, and what finds it. */
async function kept(sheetId: string) {
  const { models } = getDb();
  const links = await models.RecordLink.findAll({ where: { sheetId }, order: ["kind", "value"], raw: true });
  return { row: await models.RecordSummary.findOne({ where: { sheetId }, raw: true }), links };
}

const found = async (sheetId: string, kind: string): Promise<string[]> =>
  (await kept(sheetId)).links.filter((one) => one.kind === kind).map((one) => one.value);

async function ended(tag: string, reason: string): Promise<string> {
  const sheetId = await openSheet(ada, await dutyOf(tag, DAILY), "phone", NOW);
  const outcome = entryOf(ada, sheetId, later(1), { type: "outcome", outcome: "no-access", reason });
  await appendEntries(ada, sheetId, [outcome], later(1));
  return sheetId;
}

it("is written when a sheet is signed or ended, and not before", async () => {
  const open = await openSheet(ada, await dutyOf("S-4", DAILY), "phone", NOW);
  expect(await kept(open)).toEqual({ row: null, links: [] });
  const { sheetId } = await workAndSign(ada, "S-1", DAILY, NOW);
  const { row } = await kept(sheetId);
  const machine = must(await getDb().models.Machine.findOne({ where: { tag: "S-1" }, raw: true }));
  // Half past midnight where the site is.
  expect(row).toMatchObject({
    onDay: "2026-06-11",
    machineId: machine.id,
    siteId: machine.siteId,
    procedureId: DAILY,
    tag: "S-1",
    outcome: "signed",
    closedBy: ada.id,
    exceptions: 0,
  });
  expect(await found(sheetId, "person")).toEqual([ada.id]);

  const notDone = await ended("S-2", "Gate was locked");
  expect((await kept(notDone)).row).toMatchObject({ outcome: "no-access" });
  expect(await found(notDone, "exception")).toEqual(["any", "ended"]);
  expect(await found(notDone, "word")).toEqual(["gate", "locked", "was"]);
});

it("follows corrections and what comes late, and stays of the site at which it was worked", async () => {
  const { sheetId, entries } = await workAndSign(ada, "S-3", DAILY, later(60));
  const before = must((await kept(sheetId)).row);
  const pier = must(await getDb().models.Site.findOne({ where: { name: "Pier" }, raw: true }));
  await changeMachines(
    lead,
    [before.machineId],
    { area: null, siteId: pier.id, addOption: null, dropOption: null },
    later(120),
  );
  const reading = must(entries.find((one) => one.type === "reading"));
  await correctFact(lead, sheetId, { ref: reading.id, set: { value: 2.25 }, why: "Misread gauge" }, later(180));
  expect(exceptionsIn(must((await kept(sheetId)).row).exceptions)).toEqual(["corrected"]);
  expect(await found(sheetId, "word")).toEqual(["gauge", "misread"]);
  expect(await found(sheetId, "person")).toEqual([ada.id, lead.id].sort());

  const note = entryOf(ada, sheetId, later(70), { type: "note", text: "Squeak" });
  await appendEntries(ada, sheetId, [note], later(200));
  const { row, links } = await kept(sheetId);
  expect(exceptionsIn(must(row).exceptions)).toEqual(["corrected", "late"]);
  expect(await found(sheetId, "word")).toEqual(["gauge", "misread", "squeak"]);
  // The other zone's day would be another: the record stays where it is in the book.
  expect(row).toEqual({ ...before, exceptions: must(row).exceptions });
  expect(new Set(links.map((one) => `${one.onDay} ${one.exceptions}`))).toEqual(
    new Set([`${before.onDay} ${must(row).exceptions}`]),
  );
  const view = await loadRecord(sheetId, later(300));
  expect(view.machine).toMatchObject({ siteName: "Yard", customerName: "Co", address: "1 Quay", area: "", tag: "S-3" });
  expect(view.timeZone).toBe("Europe/Berlin");
  expect(printed(view).facts.find(([name]) => name === "Site")?.[1]).toBe("Co, Yard, 1 Quay");
});

it("is written for sheets of an older version as it would have been, and once", async () => {
  const { models } = getDb();
  const order = ["sheetId", "kind", "value"];
  const all = async () => ({
    rows: await models.RecordSummary.findAll({ order: ["sheetId"], raw: true }),
    links: await models.RecordLink.findAll({ order, raw: true }),
  });
  const before = await all();
  expect(before.rows.length).toBeGreaterThan(2);
  expect(await summariseMissing()).toBe(0);
  await models.RecordLink.destroy({ where: {} });
  await models.RecordSummary.destroy({ where: {} });
  expect(await summariseMissing(later(600))).toBe(0);
  const told: number[] = [];
  expect(await summariseMissing(new Date(0), (done) => told.push(done))).toBe(before.rows.length);
  expect(told.at(-1)).toBe(before.rows.length);
  const after = await all();
  // What only the summary knew is taken from what was kept for the minutes: the site at which it was signed.
  expect(after.rows.map(({ onDay: _, ...row }) => row)).toEqual(before.rows.map(({ onDay: _, ...row }) => row));
  expect(after.links.map(({ onDay: _, ...link }) => link)).toEqual(before.links.map(({ onDay: _, ...link }) => link));
});
