import { must, type RunEventBody } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import { printed } from "~/book/print/printed.server";
import { recordPdf } from "~/book/print/record-pdf.server";
import { loadRecord } from "~/book/records.server";
import type { Actor } from "~/kit/actor";
import { contentHash } from "~/kit/server/content-hash.server";
import { verifyChain } from "~/kit/server/record-chain.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { entryOf, workAndSign } from "~/testing/sheets";

import { appendEntries } from "./append-entries.server";
import { loadSheet, openSheet } from "./sheets.server";
import { signSheet } from "./sign-sheets.server";

const NOW = new Date("2026-06-10T09:00:00Z");
const later = (minutes: number): Date => new Date(NOW.getTime() + minutes * 60_000);
const DAILY = "ride-on-sweeper-daily";
const AT_THE_DESK = {
  customer: { method: "typed", name: "Desk" },
  missingReason: "half of it",
  device: "phone",
} as const;
let ada: Actor;
let bo: Actor;
let lead: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  [ada, bo, lead] = [await addActor("Ada"), await addActor("Bo"), await addActor("Lea", "lead")];
  await importLines(
    lead,
    Array.from(
      { length: 24 },
      (_, i) => `Co,Yard,,Europe/Lisbon,,,Hall,S-${i},Sweeper ${i},ride-on-sweeper,,2026-06-01`,
    ),
    NOW,
  );
});
afterAll(closeDatabase);

/** What a sheet has led to, wherever it is kept. */
async function consequences(sheetId: string) {
  const db = getDb();
  const of = { where: { sheetId }, raw: true } as const;
  const record = await loadRecord(sheetId, later(5000));
  return {
    record: { ...record, cameLate: [], late: [], chain: [], persons: {} },
    sheet: await db.models.Sheet.findByPk(sheetId, { raw: true }),
    completions: await db.models.Completion.findAll(of),
    readings: await db.models.Reading.findAll({ ...of, order: ["id"] }),
    meters: await db.models.MeterReading.findAll({ ...of, order: ["id"] }),
    moves: await db.models.StockMove.findAll({ ...of, order: ["id"] }),
    minutes: await db.models.SheetMinutes.findAll(of),
  };
}

/** Everything that anybody signed in may send, dated into the middle of the work. */
function attempts(step: string, ref: string): RunEventBody[] {
  return [
    { type: "outcome", outcome: "no-access", reason: "Never was there" },
    { type: "undone", ref },
    { type: "reading", step: "hour-meter", round: 1, value: 99_999, unit: "h" },
    { type: "step-skipped", step, round: 1, reason: "No time" },
    { type: "step-done", step, round: 1 },
    { type: "note", text: "All was fine" },
    { type: "finding", severity: "minor", text: "A scratch" },
    { type: "consumable-used", item: "squeegee", qty: 5, unit: "pc" },
    { type: "signed", role: "customer", method: "typed", name: "Somebody else" },
    { type: "handed-over", to: bo.id },
    { type: "paused" },
  ];
}

describe("a signed record", () => {
  it("is changed by nothing that comes later, whatever time it names, and shows it beside the record", async () => {
    const { sheetId, entries } = await workAndSign(ada, "S-0", DAILY, NOW);
    const before = await consequences(sheetId);
    const reading = must(entries.find((one) => one.type === "reading"));
    const step = must(entries.find((one) => one.type === "step-done"));
    const sent = attempts((step as { step: string }).step, reading.id).flatMap((body) => [
      entryOf(ada, sheetId, later(1), body),
      entryOf(bo, sheetId, later(2), body.type === "undone" ? { type: "note", text: "From Bo" } : body),
    ]);
    for (const [who, name] of [
      [ada, "Ada"],
      [bo, "Bo"],
    ] as const) {
      const own = sent.filter((one) => one.by === who.id);
      const { accepted, refused } = await appendEntries(who, sheetId, own, later(600));
      expect({ name, refused }).toEqual({
        name,
        refused: [],
      });
      expect(accepted).toEqual(own.map((one) => one.id));
    }
    expect(await consequences(sheetId)).toEqual(before);
    const record = await loadRecord(sheetId, later(601));
    expect(record.cameLate).toHaveLength(sent.length);
    expect(record.cameLate.map((one) => one.words)).toEqual(
      expect.arrayContaining(["No access, Never was there", "All was fine", "Signature of Somebody else"]),
    );
    expect((await recordPdf(printed(record))).subarray(0, 5).toString()).toBe("%PDF-");
    expect(record.uncertain).toEqual([]);
    expect((await verifyChain()).faults).toEqual([]);
  });

  it("names in its signature everything that it saw, and takes a correction of it afterwards", async () => {
    const { sheetId, entries, state } = await workAndSign(ada, "S-1", DAILY, NOW);
    const signature = must(state.technicianSignature);
    expect(new Set(signature.entries)).toEqual(
      new Set(entries.filter((one) => one.id !== signature.id).map((one) => one.id)),
    );
    const reading = must(entries.find((one) => one.type === "reading"));
    const corrected = entryOf(ada, sheetId, later(1), {
      type: "corrected",
      ref: reading.id,
      set: { value: 1234 },
      why: "Misread",
    });
    expect((await appendEntries(ada, sheetId, [corrected], later(700))).refused).toEqual([]);
    const after = await loadRecord(sheetId, later(701));
    expect(after.cameLate).toEqual([]);
    expect(Object.values(after.state.steps).flatMap((at) => at.readings)).toContainEqual(
      expect.objectContaining({ eventId: reading.id, value: 1234 }),
    );
  });

  it("is told from one that was tampered with: an entry slipped in, and one set aside", async () => {
    const { sheetId, entries } = await workAndSign(ada, "S-2", DAILY, NOW);
    const slipped = entryOf(ada, sheetId, later(1), { type: "note", text: "Slipped in" });
    await getDb().models.LogEntry.create({
      id: slipped.id,
      sheetId,
      byPerson: ada.id,
      type: "note",
      body: slipped,
      contentHash: contentHash(slipped),
      receivedAt: NOW,
    });
    const told = async () =>
      (await verifyChain()).faults.filter((one) => one.subjectId === sheetId).map((one) => one.what);
    expect(await told()).toEqual([
      `the log holds ${entries.length + 1} entries, the chain vouches for ${entries.length}`,
    ]);
    await getDb().models.LogEntry.destroy({ where: { id: slipped.id } });
    expect(await told()).toEqual([]);
    const aside = async (late: boolean) =>
      getDb().models.LogEntry.update({ late }, { where: { id: must(entries[3]).id } });
    await aside(true);
    expect(await told()).toEqual(["what it vouches for was set aside, as if it had come late"]);
    await aside(false);
    expect(await told()).toEqual([]);
  });
});

describe("a sheet that was ended without the work", () => {
  it("stays ended, whatever comes later", async () => {
    const sheetId = await openSheet(ada, await dutyOf("S-3", DAILY), "phone", NOW);
    const note = entryOf(ada, sheetId, later(3), { type: "note", text: "Gate shut" });
    const end = entryOf(ada, sheetId, later(10), { type: "outcome", outcome: "no-access", reason: "Shut" });
    expect((await appendEntries(ada, sheetId, [note, end], later(10))).status).toBe("ended");
    const before = await consequences(sheetId);
    const late = attempts("make-safe", note.id).map((body) => entryOf(ada, sheetId, later(1), body));
    expect((await appendEntries(ada, sheetId, late, later(20))).refused).toEqual([]);
    expect(await consequences(sheetId)).toEqual(before);
    expect((await loadRecord(sheetId, later(21))).cameLate).toHaveLength(late.length);
    await expect(signSheet(ada, sheetId, AT_THE_DESK, later(30))).rejects.toMatchObject({ code: "ended" });
  });
});

describe("two at once", () => {
  it("open one sheet of a duty, twenty times", async () => {
    for (let i = 4; i < 24; i++) {
      const dutyId = await dutyOf(`S-${i}`, DAILY);
      const ids = await Promise.all([ada, bo, lead].map((who) => openSheet(who, dutyId, "phone", NOW)));
      expect(new Set(ids).size).toBe(1);
      expect(await getDb().models.Sheet.count({ where: { dutyId, status: "open" } })).toBe(1);
    }
  });

  it("sign a sheet once, twenty times, and each is told that it is signed", async () => {
    for (let i = 4; i < 24; i++) {
      const sheetId = await openSheet(ada, await dutyOf(`S-${i}`, DAILY), "phone", NOW);
      const answers = await Promise.all([ada, bo, lead].map((who) => signSheet(who, sheetId, AT_THE_DESK, later(60))));
      expect(answers).toEqual([{ signed: true }, { signed: true }, { signed: true }]);
      const { entries, sheet } = await loadSheet(sheetId);
      expect(entries.filter((one) => one.type === "signed")).toHaveLength(2);
      expect(sheet).toMatchObject({ status: "signed", openDutyId: null });
    }
    expect((await verifyChain()).faults).toEqual([]);
  });

  it("keeps what a device logged that had opened the duty while it was away", async () => {
    const dutyId = await dutyOf("S-3", DAILY);
    const first = await openSheet(ada, dutyId, "phone", later(100));
    const second = uuidv7();
    const started = entryOf(bo, second, later(90), {
      type: "started",
      planId: dutyId,
      procedureId: DAILY,
      procedureVersion: (await loadSheet(first)).procedure.version,
    });
    const note = entryOf(bo, second, later(91), { type: "note", text: "Without a signal" });
    expect((await appendEntries(bo, second, [started, note], later(110))).refused).toEqual([]);
    expect((await loadSheet(second)).entries).toHaveLength(2);
    // Who opens the duty goes on with the sheet that was open.
    expect(await openSheet(lead, dutyId, "phone", later(120))).toBe(first);
  });
});
