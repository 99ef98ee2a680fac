import { must } from "@core";
import { getDb } from "@db";

import { loadRecord } from "~/book/records.server";
import type { Actor } from "~/kit/actor";
import { verifyChain } from "~/kit/server/record-chain.server";
import { visitToSign } from "~/sheet/signing/visit-to-sign.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { entryOf } from "~/testing/sheets";

import { appendEntries } from "./append-entries.server";
import { openSheet } from "./sheets.server";
import { signSheets, type ToSign } from "./sign-sheets.server";

const NOW = new Date("2026-06-10T09:00:00Z");
const later = (minutes: number): Date => new Date(NOW.getTime() + minutes * 60_000);
const DAILY = "ride-on-sweeper-daily";
const DESK = { customer: { method: "drawn", name: "Desk", drawing: "M1 1L9 9" }, device: "phone" } as const;
let ada: Actor;
let bo: Actor;
let machine = 0;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  [ada, bo] = [await addActor("Ada"), await addActor("Bo")];
  const line = (site: string, i: number): string =>
    `Co,${site},,Europe/Lisbon,,,Hall,V-${i},Sweeper ${i},ride-on-sweeper,,2026-06-01`;
  await importLines(
    await addActor("Lea", "lead"),
    [...Array.from({ length: 40 }, (_, i) => line("Yard", i)), line("Quay", 40), line("Quay", 41)],
    NOW,
  );
});
afterAll(closeDatabase);

/** Opens sheets of machines that had none, with a note on each. */
async function visit(count: number): Promise<string[]> {
  const ids: string[] = [];
  for (let i = 0; i < count; i++) {
    const sheetId = await openSheet(ada, await dutyOf(`V-${machine++}`, DAILY), "phone", NOW);
    await appendEntries(ada, sheetId, [entryOf(ada, sheetId, later(1), { type: "note", text: "swept" })], later(2));
    ids.push(sheetId);
  }
  return ids;
}

const because = (ids: readonly string[]): ToSign[] => ids.map((sheetId) => ({ sheetId, missingReason: "half of it" }));

async function statusOf(ids: readonly string[]): Promise<string[]> {
  const rows = await getDb().models.Sheet.findAll({ attributes: ["id", "status"], where: { id: ids }, raw: true });
  return ids.map((id) => must(rows.find((row) => row.id === id)).status);
}

const inChain = (ids: readonly string[]) =>
  getDb().models.RecordChain.findAll({ where: { subjectId: ids }, order: ["seq"], raw: true });

describe("one signature for a visit", () => {
  it("makes five records with an entry of the chain each, and says on each what it was given for", async () => {
    const ids = await visit(5);
    expect(await signSheets(ada, because(ids), DESK, later(10))).toEqual({ signed: true });
    expect(await statusOf(ids)).toEqual(ids.map(() => "signed"));
    const chain = await inChain(ids);
    expect(chain.map((one) => one.kind)).toEqual(ids.map(() => "record"));
    expect(new Set(chain.map((one) => one.subjectId))).toEqual(new Set(ids));
    expect((await verifyChain()).faults).toEqual([]);
    for (const id of ids) {
      const record = await loadRecord(id, later(11));
      expect(record.state.customerSignature).toMatchObject({ name: "Desk", drawing: "M1 1L9 9" });
      expect([...must(must(record.state.customerSignature).sheets)].sort()).toEqual([...ids].sort());
      expect(record.state.technicianSignature).toMatchObject({ name: "Ada", missingReason: "half of it" });
      expect(record.together.map((one) => one.sheetId).sort()).toEqual(ids.filter((one) => one !== id).sort());
    }
  });

  it("signs none when one has steps missing and no reason", async () => {
    const ids = await visit(3);
    const [first, ...rest] = because(ids);
    const answer = await signSheets(ada, [...rest, { ...must(first), missingReason: null }], DESK, later(10));
    expect(answer).toMatchObject({ signed: false, missing: [{ sheetId: ids[0] }] });
    expect(await statusOf(ids)).toEqual(["open", "open", "open"]);
    expect(await inChain(ids)).toEqual([]);
  });

  it("signs none when one was ended meanwhile, nor over two sites", async () => {
    const [ended, ...rest] = await visit(3);
    const sheetId = must(ended);
    await appendEntries(
      ada,
      sheetId,
      [entryOf(ada, sheetId, later(3), { type: "outcome", outcome: "no-access", reason: "locked" })],
      later(4),
    );
    await expect(signSheets(ada, because([sheetId, ...rest]), DESK, later(10))).rejects.toMatchObject({
      code: "ended",
    });
    const elsewhere = await openSheet(ada, await dutyOf("V-40", DAILY), "phone", NOW);
    await expect(signSheets(ada, because([...rest, elsewhere]), DESK, later(10))).rejects.toMatchObject({
      code: "several-sites",
    });
    expect(await statusOf([...rest, elsewhere])).toEqual(["open", "open", "open"]);
  });

  it("sent twice at once, in any order, with taps in between, signs each once", async () => {
    const ids = await visit(4);
    const tap = must(ids[1]);
    const [one, other, tapped] = await Promise.all([
      signSheets(ada, because(ids), DESK, later(10)),
      signSheets(bo, because([...ids].reverse()), DESK, later(10)),
      appendEntries(bo, tap, [entryOf(bo, tap, later(9), { type: "note", text: "and dry" })], later(10)),
    ]);
    expect([one, other]).toEqual([{ signed: true }, { signed: true }]);
    expect(tapped.refused).toEqual([]);
    expect((await inChain(ids)).filter((row) => row.kind === "record")).toHaveLength(4);
    const by = await Promise.all(ids.map(async (id) => (await loadRecord(id, later(11))).sheet.closedBy));
    expect(new Set(by).size).toBe(1);
    expect((await verifyChain()).faults).toEqual([]);
  });

  it("of one that is signed already signs the rest", async () => {
    const ids = await visit(3);
    await signSheets(ada, because([must(ids[2])]), DESK, later(8));
    await signSheets(ada, because(ids), DESK, later(10));
    expect(await statusOf(ids)).toEqual(["signed", "signed", "signed"]);
    expect((await loadRecord(must(ids[2]), later(11))).together).toEqual([]);
    expect((await loadRecord(must(ids[0]), later(11))).together).toHaveLength(1);
  });
});

describe("what is signed with a sheet", () => {
  it("is what is open in the person's hands at the site, told before it is signed", async () => {
    const carl = await addActor("Carl");
    const ids: string[] = [];
    for (const tag of ["V-30", "V-31", "V-41"])
      ids.push(await openSheet(carl, await dutyOf(tag, DAILY), "phone", later(ids.length)));
    const [first, second] = ids as [string, string];
    const log = (body: Parameters<typeof entryOf>[3]) =>
      appendEntries(carl, second, [entryOf(carl, second, later(5), body)], later(6));
    await log({ type: "finding", severity: "major", text: "Skirt torn" });
    await log({ type: "consumable-used", item: "degreaser", qty: 0.1, unit: "L" });
    await log({ type: "consumable-used", item: "degreaser", qty: 0.2, unit: "L" });
    const told = must(await visitToSign(carl.id, first, later(7)));
    expect(told.sheets.map((one) => one.sheetId)).toEqual([first, second]);
    const [, other] = told.sheets;
    expect(other).toMatchObject({
      machine: { tag: "V-31" },
      found: ["Major: Skirt torn"],
      done: 0,
      next: { stays: true },
    });
    expect(must(other).materials).toEqual([expect.stringContaining("0.3 L")]);
    expect(must(other).left.length).toBeGreaterThan(0);
    expect(must(other).next.because.length).toBeGreaterThan(0);
    await signSheets(carl, because([first]), DESK, later(8));
    expect(await visitToSign(carl.id, first, later(9))).toBeNull();
  });
});
