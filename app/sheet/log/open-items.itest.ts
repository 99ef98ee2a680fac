import { foldRun,must, openItems, type Procedure, type RunEvent, type RunEventBody, sheetEffects } from "@core";
import { getDb, type OpenItemRow } from "@db";
import { v7 as uuidv7 } from "uuid";

import { assessAll } from "~/duties/assess.server";
import { listDue } from "~/duties/due.server";
import { addDuty } from "~/duties/duties.server";
import { WHAT_WAS_LEFT } from "~/duties/general-procedures";
import { clearHold, openHolds } from "~/duties/holds.server";
import { changeItem, closeItem, openItemsOf } from "~/duties/left/open-items.server";
import type { Actor } from "~/kit/actor";
import { publishProcedures } from "~/procedures/procedures.server";
import { putOnDay } from "~/round/day/put-on-day.server";
import { addPlace } from "~/stores/ledger/places.server";
import { receive } from "~/stores/ledger/stock.server";
import { fetchForDay,holdForDay } from "~/stores/load/hold-load.server";
import { loadView } from "~/stores/load/load.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";

import { base2 } from "../../../core/sheet/testing/lint-cases-2";
import { appendEntries } from "./append-entries.server";
import { procedureOf, readEntries } from "./sheet-context.server";
import { correctFact, openSheet, signSheet } from "./sheets.server";

const START = new Date("2026-06-01T09:00:00Z");
const at = (days: number, minutes = 0): Date => new Date(START.getTime() + days * 86_400_000 + minutes * 60_000);
const CHECK: Procedure = {
  ...base2([
    { id: "gap", kind: "measure", title: "Bristle", reading: "bristle", unit: "in", limits: { min: 2 } },
    {
      id: "new",
      kind: "replace",
      title: "New broom",
      item: "test-broom",
      slots: ["front"],
      when: [{ step: "gap", is: "low" }],
      minutes: 12,
    },
    { id: "wipe", kind: "do", title: "Wipe down" },
    { id: "grease", kind: "do", title: "Grease", critical: true },
    { id: "proof", kind: "prove", title: "Runs", expect: "Runs" },
  ]),
  id: "check",
  family: "ride-on-sweeper",
  plan: { triggers: [{ kind: "calendar", every: 7, unit: "day", basis: "completion" }] },
  options: [],
  materials: [],
  parts: [{ item: "test-broom", name: "Test broom", slots: [{ id: "front", name: "Front" }] }],
};
let ada: Actor;
let lea: Actor;
let machines = 0;
let depot: string;
let van: string;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  await publishProcedures([CHECK], START);
  [ada, lea] = [await addActor("Ada"), await addActor("Lea", "lead")];
  depot = await addPlace(lea, { kind: "depot", name: "Depot", personId: null, siteId: null }, START);
  van = await addPlace(lea, { kind: "van", name: "Van", personId: ada.id, siteId: null }, START);
});
afterAll(closeDatabase);

interface Machine {
  tag: string;
  id: string;
}
async function machine(): Promise<Machine> {
  const tag = `S-${machines++}`;
  await importLines(lea, [`Co,Works,,Europe/Lisbon,,,Hall,${tag},Sweeper,ride-on-sweeper,,2026-05-01`], START);
  const id = must(await getDb().models.Machine.findOne({ where: { tag }, raw: true })).id;
  if ((await getDb().models.Duty.count({ where: { machineId: id, procedureId: "check" } })) === 0)
    await addDuty(lea, id, { procedureId: "check", title: null }, START);
  return { tag, id };
}

const on = (step: string) => ({ step, round: 1 });
const done = (step: string): RunEventBody => ({ type: "step-done", ...on(step) });
const skipped = (step: string, reason = "No broom on the van"): RunEventBody => ({
  type: "step-skipped",
  ...on(step),
  reason,
});
const read = (value: number): RunEventBody => ({ type: "reading", ...on("gap"), value, unit: "in", asked: { answer: "right" } });
const REST = [done("wipe"), done("grease"), { type: "step-done", ...on("proof"), answer: "ok" } as RunEventBody];
const fitted: RunEventBody = { type: "part-fitted", ...on("new"), item: "test-broom", slot: "front", qty: 1 };
const finding = (text: string, severity: "minor" | "major" | "unsafe"): RunEventBody => ({ type: "finding", text, severity });

/** Works the duty's sheet on a day and signs it, or ends it. */
async function work(dutyId: string, day: Date, bodies: RunEventBody[]): Promise<{ sheetId: string; entries: RunEvent[] }> {
  const sheetId = await openSheet(ada, dutyId, "phone", day);
  const entries = bodies.map((body, i): RunEvent => ({
    id: uuidv7(),
    runId: sheetId,
    at: new Date(day.getTime() + (i + 1) * 60_000).toISOString(),
    by: ada.id,
    device: "phone",
    ...body,
  }));
  const end = new Date(day.getTime() + 30 * 60_000);
  expect((await appendEntries(ada, sheetId, entries, end)).refused).toEqual([]);
  if (!bodies.some((one) => one.type === "outcome"))
    await signSheet(
      ada,
      sheetId,
      { customer: { method: "typed", name: "Desk" }, missingReason: "as it was", device: "phone" },
      end,
    );
  return { sheetId, entries };
}

const rowsOf = (machineId: string): Promise<OpenItemRow[]> =>
  getDb().models.OpenItem.findAll({ where: { machineId }, order: ["arisenAt", "id"], raw: true });
const workDuty = (machineId: string) =>
  getDb().models.Duty.findOne({
    where: { machineId, procedureId: WHAT_WAS_LEFT },
    order: [["active", "DESC"]],
    raw: true,
  });
const heldAt = async (): Promise<(string | null)[]> =>
  (await getDb().models.Reservation.findAll({ where: { itemId: "test-broom", endedAt: null }, raw: true })).map(
    (row) => row.placeId,
  );

describe("what a sheet leaves open", () => {
  it("is held, planned, loaded, fitted and closed: a broom below its limit that the van did not have", async () => {
    const { tag, id } = await machine();
    const dutyId = await dutyOf(tag, "check");
    await work(dutyId, at(0), [done("wipe"), ...REST.slice(1), read(3)]);
    await receive(lea, { itemId: "test-broom", placeId: depot, qty: 1, lot: null, expiresOn: null, note: "" }, at(0));
    const { sheetId } = await work(dutyId, at(7), [read(1.5), skipped("new"), ...REST]);

    const [item] = await openItemsOf(id);
    expect(item).toMatchObject({
      kind: "fit-part",
      severity: "major",
      title: "Fit Test broom",
      because: "New broom: left out: No broom on the van",
      item: "test-broom",
      slot: "front",
      wantedBy: "2026-06-15",
      ownerName: "Ada",
      heldAt: "Depot",
      sheetId,
    });
    // Planned like a duty, and on the round at once.
    const duty = must(await workDuty(id));
    expect(duty).toMatchObject({ title: "Fit Test broom", active: true, dueOn: "2026-06-15", minutes: 12 });
    expect((await listDue({}, at(7, 60))).rows.map((row) => row.dutyId)).toContain(duty.id);

    await putOnDay(lea, [duty.id], { on: "2026-06-10", personId: ada.id }, at(8));
    const load = await loadView(ada.id, "2026-06-10", at(8));
    expect(load.lines.find((line) => line.item.id === "test-broom")).toMatchObject({
      qty: 1,
      chance: 1,
      short: 0,
      from: [{ placeId: depot, qty: 1 }],
    });
    // Held once, whatever else is held for the day; and fetched, it stays held in the van.
    expect(await holdForDay(ada, ada.id, "2026-06-10", at(8))).toEqual({ held: 0, gone: 0 });
    await fetchForDay(ada, ada.id, "2026-06-10", { itemId: "test-broom", from: depot, to: van, qty: 1 }, at(8));
    expect(await heldAt()).toEqual([van]);

    const settled = await work(duty.id, at(9), [
      { type: "safety-confirmed", ...on("make-safe") },
      { ...fitted, ...on("put-right") },
      done("put-right"),
      { type: "step-done", ...on("prove"), answer: "ok" },
    ]);
    expect(await openItemsOf(id)).toEqual([]);
    expect(await heldAt()).toEqual([]);
    const [row] = await rowsOf(id);
    expect(row).toMatchObject({ closedSheetId: settled.sheetId, closedBy: null });
    expect(must(await workDuty(id))).toMatchObject({ active: false, plannedOn: null, dueOn: null });
    expect(
      (await getDb().models.MachineSlot.findAll({ where: { machineId: id, slot: "front" }, raw: true })).map(
        (one) => one.item,
      ),
    ).toEqual(["test-broom"]);
  });

  it("is ordered when no piece is free anywhere, and held when one comes in", async () => {
    const { tag, id } = await machine();
    const supplierId = uuidv7();
    await getDb().models.Supplier.create({ id: supplierId, name: "Brooms and Co" });
    await getDb().models.Item.update({ supplierId }, { where: { id: "test-broom" } });
    await work(await dutyOf(tag, "check"), at(0), [read(1.5), skipped("new"), ...REST]);
    const [item] = await openItemsOf(id);
    expect(item).toMatchObject({ heldAt: null, orderStatus: "draft" });
    await receive(lea, { itemId: "test-broom", placeId: depot, qty: 2, lot: null, expiresOn: null, note: "" }, at(1));
    expect(must((await openItemsOf(id))[0]).heldAt).toBe("Depot");
    // A lead closes it: the piece is free again, and the draft's line goes.
    const reason = "Machine goes out of the contract";
    const release = jest.fn(() => Promise.resolve());
    await expect(closeItem(ada, { machineId: id, id: must(item).id, reason }, at(2), release)).rejects.toMatchObject({
      status: 403,
    });
    await closeItem(lea, { machineId: id, id: must(item).id, reason }, at(2), release);
    expect(release).toHaveBeenCalledTimes(1);
    expect(await openItemsOf(id, { closed: 5 })).toMatchObject([{ closedNote: reason, closedByName: "Lea" }]);
  });

  it("keeps the duty due when critical work was left, and is settled by doing it", async () => {
    const { tag, id } = await machine();
    const dutyId = await dutyOf(tag, "check");
    const before = must(await getDb().models.Duty.findByPk(dutyId, { raw: true })).dueOn;
    await work(dutyId, at(0), [read(3), done("wipe"), skipped("grease", "No grease"), ...REST.slice(2)]);
    expect(must(await getDb().models.Duty.findByPk(dutyId, { raw: true })).dueOn).toBe(before);
    // Its own duty carries it: no second one for the same work.
    expect(await openItemsOf(id)).toMatchObject([{ kind: "incomplete", severity: "major", workDutyId: dutyId }]);
    expect(await workDuty(id)).toBeNull();
    await work(dutyId, at(1), [read(3), ...REST]);
    expect(await openItemsOf(id)).toEqual([]);
  });

  it("that is unsafe closes with the signature that returns the machine, by who has what it takes", async () => {
    const { tag, id } = await machine();
    const dutyId = await dutyOf(tag, "check");
    await work(dutyId, at(0), [read(3), ...REST, finding("Gas smell", "unsafe")]);
    const [item] = await openItemsOf(id);
    expect(item).toMatchObject({ severity: "unsafe", title: "Gas smell", wantedBy: "2026-06-01" });
    await expect(
      closeItem(lea, { machineId: id, id: must(item).id, reason: "x" }, at(1), () => Promise.resolve()),
    ).rejects.toMatchObject({ code: "unsafe" });
    await changeItem(
      lea,
      id,
      must(item).id,
      {
        ownerId: lea.id,
        wantedBy: "2026-06-02",
        who: "licensed",
        authorisation: "gas",
        askedWhom: "Island gas service",
        askedOn: "2026-06-01",
        bookedFor: "2026-06-02",
      },
      at(0, 90),
    );
    // The duty that carries it takes the same authorisation.
    const duty = must(await workDuty(id));
    expect(duty).toMatchObject({ who: "licensed", authorisation: "gas", active: true });
    const hold = must((await openHolds()).find((one) => one.machineId === id));
    await expect(clearHold(lea, hold.id, "Fine now", at(1))).rejects.toMatchObject({ code: "not-authorised" });
    const gus = { ...(await addActor("Gus")), authorisations: [{ kind: "gas", expiresOn: null }] };
    await clearHold(gus, hold.id, "Joint renewed, tested tight", at(1));
    expect(await openItemsOf(id, { closed: 5 })).toMatchObject([{ closedNote: "Joint renewed, tested tight", closedByName: "Gus" }]);
    expect(must(await workDuty(id)).active).toBe(false);
  });

  it("is not there when the machine was cleared before the sheet was signed", async () => {
    const { tag, id } = await machine();
    const dutyId = await dutyOf(tag, "check");
    const sheetId = await openSheet(ada, dutyId, "phone", at(0));
    const entry: RunEvent = { id: uuidv7(), runId: sheetId, at: at(0, 1).toISOString(), by: ada.id, device: "phone", ...finding("Sharp edge", "unsafe") };
    await appendEntries(ada, sheetId, [entry], at(0, 2));
    const hold = must((await openHolds()).find((one) => one.machineId === id));
    await clearHold(lea, hold.id, "Filed off", at(0, 5));
    await work(dutyId, at(0, 6), [read(3), ...REST]);
    expect(await openItemsOf(id)).toEqual([]);
    expect(await openItemsOf(id, { closed: 5 })).toMatchObject([{ title: "Sharp edge", closedNote: "Filed off" }]);
  });

  it("goes when its sheet is corrected, and comes back with another correction", async () => {
    const { tag, id } = await machine();
    const dutyId = await dutyOf(tag, "check");
    const bodies = [read(1.5), skipped("new"), ...REST];
    const { sheetId, entries } = await work(dutyId, at(0), bodies);
    expect(await openItemsOf(id)).toHaveLength(1);
    const ref = must(entries[0]).id;
    await correctFact(ada, sheetId, { ref, set: { value: 2.5 }, why: "Read 1.5 for 2.5" }, at(1));
    expect(await openItemsOf(id, { closed: 5 })).toMatchObject([{ closedNote: "Corrected on its sheet: it was not so." }]);
    await correctFact(ada, sheetId, { ref, set: { value: 1.5 }, why: "It was 1.5" }, at(2));
    expect(await openItemsOf(id)).toHaveLength(1);
  });

  it("stays on what was said when a visit ends without the work, with the part that was missing", async () => {
    const { tag, id } = await machine();
    const dutyId = await dutyOf(tag, "check");
    await putOnDay(lea, [dutyId], { on: "2026-06-01", personId: ada.id }, START);
    await work(dutyId, at(0), [
      finding("Dent", "minor"),
      { type: "outcome", outcome: "part-missing", reason: "No broom", part: { item: "test-broom", slot: "front" }, again: "2026-06-04" },
    ]);
    expect((await openItemsOf(id)).map((one) => [one.kind, one.severity, one.item])).toEqual([
      ["fit-part", "major", "test-broom"],
      ["finding", "minor", null],
    ]);
    // Off the day, and on the day that was agreed.
    expect(must(await getDb().models.Duty.findByPk(dutyId, { raw: true }))).toMatchObject({
      plannedOn: "2026-06-04",
      plannedFor: ada.id,
    });
  });

  it("is the same as worked out anew from its signed sheets, whatever was logged and in whatever order", async () => {
    const random = draws(20261128);
    for (let round = 0; round < 8; round++) {
      const { tag, id } = await machine();
      const dutyId = await dutyOf(tag, "check");
      const worked: { sheetId: string; entries: RunEvent[] }[] = [];
      for (let day = 0, n = 3 + random(5); day < n; day++) {
        const said: RunEventBody[] = (await openItemsOf(id))
          .filter(() => random(4) === 0)
          .map((one) => ({ type: "put-right", item: one.name }));
        const bodies: RunEventBody[] = [
          read(random(2) === 0 ? 1.5 : 3),
          random(2) === 0 ? skipped("new") : fitted,
          random(3) === 0 ? skipped("wipe", "No time") : done("wipe"),
          random(3) === 0 ? skipped("grease", "No grease") : done("grease"),
          ...REST.slice(2),
          ...(random(3) === 0 ? [finding(random(2) === 0 ? "Dent" : "Scratch", random(2) === 0 ? "minor" : "major")] : []),
          ...(random(5) === 0 ? [{ type: "interim", text: "Tied up", until: "a new hose" } as RunEventBody] : []),
          ...said,
        ];
        // A device that was away ends a visit that is older than what the server has by now.
        if (random(5) === 0) bodies.push({ type: "outcome", outcome: "no-access", reason: "Locked" });
        const late = random(4) === 0 ? -1.5 : 0;
        worked.push(await work(dutyId, at(Math.max(0, day + late), day), bodies));
        const open = await openItemsOf(id);
        if (random(6) === 0 && open[0])
          await closeItem(lea, { machineId: id, id: open[0].id, reason: "Seen" }, at(day, 45), () => Promise.resolve());
        const earlier = must(worked[random(worked.length)]);
        if (random(3) === 0)
          await correctFact(
            ada,
            earlier.sheetId,
            { ref: must(earlier.entries[0]).id, set: { value: random(2) === 0 ? 1.5 : 3 }, why: "slip" },
            at(day, 50),
          );
      }
      const anew = await workedOutAnew(id);
      const stored = (await rowsOf(id)).filter((row) => row.closedAt === null).map((row) => row.name);
      expect(stored.sort()).toEqual(anew);
      const carried = await getDb().models.OpenItem.count({ where: { machineId: id, closedAt: null, workDutyId: null } });
      expect(carried).toBe(0);
    }
  });

  it("is left alone when every duty is assessed anew", async () => {
    const before = await getDb().models.Duty.findAll({ attributes: ["id", "dueOn"], order: ["id"], raw: true });
    await assessAll(at(14));
    const after = await getDb().models.Duty.findAll({ attributes: ["id", "dueOn"], where: { procedureId: WHAT_WAS_LEFT }, order: ["id"], raw: true });
    const known = new Map(before.map((one) => [one.id, one.dueOn]));
    for (const one of after) expect(one.dueOn).toBe(known.get(one.id));
  });
});

/** From all closed sheets of the machine and what a lead has closed, with nothing of what the server keeps. */
async function workedOutAnew(machineId: string): Promise<string[]> {
  const sheets = await getDb().models.Sheet.findAll({
    where: { machineId, status: ["signed", "ended"] },
    raw: true,
  });
  const effects = await Promise.all(
    sheets.map(async (sheet) => {
      const procedure = await procedureOf(sheet);
      const state = foldRun(procedure, await readEntries(sheet.id));
      return sheetEffects({ id: sheet.id, closedAt: must(sheet.closedAt).toISOString() }, procedure, state, { options: [] });
    }),
  );
  const closings = (await rowsOf(machineId)).flatMap((row) =>
    row.closedBy === null ? [] : [{ item: row.name, at: must(row.closedAt).toISOString() }],
  );
  return openItems(effects, closings)
    .filter((one) => one.closed === null)
    .map((one) => one.id)
    .sort();
}

/** Whole numbers below a bound, the same each time. */
function draws(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
}
