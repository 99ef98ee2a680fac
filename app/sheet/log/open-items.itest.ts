import { must, type RunEvent } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import { assessAll } from "~/duties/assess.server";
import { listDue } from "~/duties/due.server";
import { WHAT_WAS_LEFT } from "~/duties/general-procedures";
import { clearHold, openHolds } from "~/duties/holds.server";
import { openItemsOf } from "~/duties/left/open-items.server";
import { putOnDay } from "~/round/day/put-on-day.server";
import { changeItem, closeItem } from "~/sheet/left/change-items.server";
import { receive } from "~/stores/ledger/stock.server";
import { fetchForDay, holdForDay } from "~/stores/load/hold-load.server";
import { loadView } from "~/stores/load/load.server";
import { addActor, closeDatabase, dutyOf } from "~/testing/database";
import {
  ada,
  at,
  beginLeft,
  depot,
  done,
  finding,
  fitted,
  lea,
  machine,
  on,
  read,
  REST,
  rowsOf,
  skipped,
  START,
  van,
  work,
  workDuty,
} from "~/testing/left";

import { appendEntries } from "./append-entries.server";
import { correctFact, openSheet } from "./sheets.server";

beforeAll(beginLeft);
afterAll(closeDatabase);

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
    await expect(closeItem(ada, { machineId: id, id: must(item).id, reason }, at(2))).rejects.toMatchObject({
      status: 403,
    });
    await closeItem(lea, { machineId: id, id: must(item).id, reason }, at(2));
    expect(await heldAt()).toEqual([]);
    expect(await getDb().models.OrderLine.count({ where: { itemId: "test-broom" } })).toBe(0);
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
    expect(item).toMatchObject({ severity: "unsafe", title: "Found: Gas smell", wantedBy: "2026-06-01" });
    await expect(closeItem(lea, { machineId: id, id: must(item).id, reason: "x" }, at(1))).rejects.toMatchObject({
      code: "unsafe",
    });
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
    expect(await openItemsOf(id, { closed: 5 })).toMatchObject([
      { closedNote: "Joint renewed, tested tight", closedByName: "Gus" },
    ]);
    expect(must(await workDuty(id)).active).toBe(false);
  });

  it("is not there when the machine was cleared before the sheet was signed", async () => {
    const { tag, id } = await machine();
    const dutyId = await dutyOf(tag, "check");
    const sheetId = await openSheet(ada, dutyId, "phone", at(0));
    const entry: RunEvent = {
      id: uuidv7(),
      runId: sheetId,
      at: at(0, 1).toISOString(),
      by: ada.id,
      device: "phone",
      ...finding("Sharp edge", "unsafe"),
    };
    await appendEntries(ada, sheetId, [entry], at(0, 2));
    const hold = must((await openHolds()).find((one) => one.machineId === id));
    await clearHold(lea, hold.id, "Filed off", at(0, 5));
    await work(dutyId, at(0, 6), [read(3), ...REST]);
    expect(await openItemsOf(id)).toEqual([]);
    expect(await openItemsOf(id, { closed: 5 })).toMatchObject([
      { title: "Found: Sharp edge", closedNote: "Filed off" },
    ]);
  });

  it("goes when its sheet is corrected, and comes back with another correction", async () => {
    const { tag, id } = await machine();
    const dutyId = await dutyOf(tag, "check");
    const bodies = [read(1.5), skipped("new"), ...REST];
    const { sheetId, entries } = await work(dutyId, at(0), bodies);
    const later = await work(dutyId, at(0, 40), [read(3), ...REST]);
    expect(await openItemsOf(id)).toHaveLength(1);
    const ref = must(entries[0]).id;
    await correctFact(ada, sheetId, { ref, set: { value: 2.5 }, why: "Read 1.5 for 2.5" }, at(1));
    expect(await openItemsOf(id, { closed: 5 })).toMatchObject([
      { closedNote: "Corrected on its sheet: it was not so." },
    ]);
    // A later sheet that is corrected after that does not bring it back.
    const other = { ref: must(later.entries[0]).id, set: { value: 2.9 }, why: "Read 3 for 2.9" };
    await correctFact(ada, later.sheetId, other, at(1, 30));
    expect(await openItemsOf(id)).toEqual([]);
    await correctFact(ada, sheetId, { ref, set: { value: 1.5 }, why: "It was 1.5" }, at(2));
    // Open again, its piece is held again.
    expect(await openItemsOf(id)).toMatchObject([{ heldAt: "Depot" }]);
  });

  it("stays on what was said when a visit ends without the work, with the part that was missing", async () => {
    const { tag, id } = await machine();
    const dutyId = await dutyOf(tag, "check");
    await putOnDay(lea, [dutyId], { on: "2026-06-01", personId: ada.id }, START);
    await work(dutyId, at(0), [
      finding("Dent", "minor"),
      {
        type: "outcome",
        outcome: "part-missing",
        reason: "No broom",
        part: { item: "test-broom", slot: "front" },
        again: "2026-06-04",
      },
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

  it("is left alone when every duty is assessed anew", async () => {
    const before = await getDb().models.Duty.findAll({ attributes: ["id", "dueOn"], order: ["id"], raw: true });
    await assessAll(at(14));
    const after = await getDb().models.Duty.findAll({
      attributes: ["id", "dueOn"],
      where: { procedureId: WHAT_WAS_LEFT },
      order: ["id"],
      raw: true,
    });
    const known = new Map(before.map((one) => [one.id, one.dueOn]));
    for (const one of after) expect(one.dueOn).toBe(known.get(one.id));
  });
});
