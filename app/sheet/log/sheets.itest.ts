import type { RunEvent } from "@core";
import { must } from "@core";
import { getDb } from "@db";
import sharp from "sharp";
import { v7 as uuidv7 } from "uuid";

import { aheadPage } from "~/ahead/ahead.server";
import { printed } from "~/book/print/printed.server";
import { recordPdf } from "~/book/print/record-pdf.server";
import { loadRecord } from "~/book/records.server";
import { listDue, listMachineDuties } from "~/duties/due.server";
import { clearHold, heldAmong, holdsOf, openHolds } from "~/duties/holds.server";
import type { Actor } from "~/kit/actor";
import { changesOf } from "~/kit/server/audit.server";
import { findLink, makeLink } from "~/kit/server/links.server";
import { readPhoto } from "~/kit/server/photos.server";
import { chainEnd, lostSince, readKeptEnd, verifyChain } from "~/kit/server/record-chain.server";
import { listMachines } from "~/machines/machines.server";
import { machineTrail } from "~/machines/trail.server";
import { operatorView } from "~/outside/operator.server";
import { addInstrument, changeInstrument, instrumentsOfKinds, listInstruments } from "~/sheet/instruments.server";
import { openSheetsOf } from "~/sheet/open-sheets.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { entryOf, workAndSign } from "~/testing/sheets";

import { appendEntries } from "./append-entries.server";
import { storePastSheets } from "./history.server";
import { storeSheetPhoto } from "./sheet-photos.server";
import { correctFact, loadSheet, openSheet } from "./sheets.server";
import { signSheet } from "./sign-sheets.server";

const NOW = new Date("2026-06-10T09:00:00Z");
const later = (minutes: number): Date => new Date(NOW.getTime() + minutes * 60_000);
const OVEN = "conveyor-oven-weekly";
let ada: Actor;
let bo: Actor;
let lead: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped("all");
  [ada, bo, lead] = [await addActor("Ada"), await addActor("Bo"), await addActor("Lea", "lead")];
  await importLines(
    lead,
    ["sweeper", "sweeper-b", "sweeper-c"]
      .map((tag) => `Co,Site,,Europe/Lisbon,,,Yard,${tag},Machine ${tag},ride-on-sweeper,,2026-06-01`)
      .concat(
        "Co,Site,,Europe/Lisbon,,,Kitchen,oven,Oven,conveyor-oven,,2026-05-01",
        "Co,Site,,Europe/Lisbon,,,Kitchen,ice,Ice,flake-ice-maker,,2026-01-01",
      ),
    NOW,
  );
});
afterAll(closeDatabase);

const machineOf = async (tag: string): Promise<string> =>
  must(await getDb().models.Machine.findOne({ where: { tag }, raw: true })).id;
const log = (actor: Actor, sheetId: string, minutes: number, body: Parameters<typeof entryOf>[3]): RunEvent =>
  entryOf(actor, sheetId, later(minutes), body);

describe("an unsafe finding", () => {
  it("takes the machine out of service at once, everywhere, until a lead clears it", async () => {
    const machineId = await machineOf("sweeper");
    const sheetId = await openSheet(ada, await dutyOf("sweeper", "ride-on-sweeper-daily"), "phone", NOW);
    const finding = log(ada, sheetId, 1, { type: "finding", text: "Brake does not hold", severity: "unsafe" });
    await appendEntries(ada, sheetId, [finding], later(2));
    await appendEntries(ada, sheetId, [finding], later(3));
    expect(await openHolds()).toMatchObject([{ machineId, reason: "Brake does not hold", byName: "Ada" }]);
    expect((await listMachineDuties(machineId, NOW)).every((duty) => duty.outOfService)).toBe(true);
    const { rows } = await listDue({}, NOW);
    expect(new Set(rows.filter((row) => row.outOfService).map((row) => row.machineTag))).toEqual(new Set(["sweeper"]));
    const filter = { q: null, siteId: null, family: null, who: null, personId: null, after: null };
    const ahead = (await aheadPage(filter, NOW)).sites.flatMap((site) => site.duties);
    expect(new Set(ahead.filter((duty) => duty.outOfService).map((duty) => duty.machineTag))).toEqual(
      new Set(["sweeper"]),
    );
    expect((await listMachines({})).rows.filter((row) => row.outOfService).map((row) => row.tag)).toEqual(["sweeper"]);
    const link = await findLink(["operator"], await makeLink(lead, "operator", machineId, NOW));
    expect((await operatorView(must(link), NOW)).outOfService).toBe("Brake does not hold");

    // Taking the tap back is no clearance.
    await appendEntries(ada, sheetId, [log(ada, sheetId, 3, { type: "undone", ref: finding.id })], later(4));
    expect(await heldAmong([machineId])).toEqual(new Set([machineId]));
    const [hold] = await holdsOf(machineId);
    await expect(clearHold(ada, must(hold).id, "adjusted", later(5))).rejects.toMatchObject({ status: 403 });
    await clearHold(lead, must(hold).id, "Brake adjusted, held on the ramp twice", later(6));
    expect(await heldAmong([machineId])).toEqual(new Set());
    expect((await operatorView(must(link), NOW)).outOfService).toBeNull();
    expect((await machineTrail(machineId)).items.map((one) => one.title)).toEqual(
      expect.arrayContaining(["Out of service", "Returned to service"]),
    );
    expect(await holdsOf(machineId)).toMatchObject([
      { clearedByName: "Lea", clearedNote: "Brake adjusted, held on the ramp twice" },
    ]);
    await expect(clearHold(lead, must(hold).id, "again", later(7))).rejects.toMatchObject({ status: 409 });
    const [entry] = await getDb().models.RecordChain.findAll({ where: { kind: "return-to-service" }, raw: true });
    expect(must(entry).subjectId).toBe(must(hold).id);
  });

  it("of lesser weight holds nothing", async () => {
    const sheetId = await openSheet(ada, await dutyOf("sweeper-b", "ride-on-sweeper-daily"), "phone", NOW);
    await appendEntries(
      ada,
      sheetId,
      [log(ada, sheetId, 1, { type: "finding", text: "Skirt torn", severity: "major" })],
      later(2),
    );
    expect(await heldAmong([await machineOf("sweeper-b")])).toEqual(new Set());
  });
});

describe("several sheets of one visit", () => {
  it("are in a person's hands with their clocks, and change hands in the middle", async () => {
    const ice = await openSheet(ada, await dutyOf("ice", "flake-ice-maker-clean-sanitise"), "phone", later(10));
    await appendEntries(
      ada,
      ice,
      [log(ada, ice, 11, { type: "timer-started", step: "soak-cleaner", round: 1 })],
      later(12),
    );
    const mine = await openSheetsOf(ada.id);
    expect(mine.map((sheet) => sheet.machineTag)).toEqual(["sweeper", "sweeper-b", "ice"]);
    const sheet = must(mine.find((one) => one.sheetId === ice));
    expect(sheet.clocks["soak-cleaner"]).toEqual({ title: "Let the cleaner stand", minMinutes: 15, maxMinutes: 20 });
    expect(sheet.clockEntries.map((entry) => entry.type)).toEqual(["timer-started"]);

    const { refused } = await appendEntries(
      ada,
      ice,
      [log(ada, ice, 13, { type: "handed-over", to: bo.id, note: "Out by 20 min" })],
      later(14),
    );
    expect(refused).toEqual([]);
    expect((await openSheetsOf(ada.id)).map((one) => one.sheetId)).not.toContain(ice);
    expect(await openSheetsOf(bo.id)).toMatchObject([{ sheetId: ice, handedBy: ada.id }]);
    // The colleague stops the clock that the first one started.
    const answer = await appendEntries(
      bo,
      ice,
      [log(bo, ice, 28, { type: "timer-stopped", step: "soak-cleaner", round: 1 })],
      later(29),
    );
    expect(answer.refused).toEqual([]);
    const record = await loadRecord(ice, later(30));
    expect(record.state.steps["soak-cleaner"]).toMatchObject({
      by: bo.id,
      timer: { startedBy: ada.id, minutes: 17, verdict: "in" },
    });
  });

  it("are not handed to nobody", async () => {
    const [sheet] = await openSheetsOf(bo.id);
    const { refused } = await appendEntries(
      bo,
      must(sheet).sheetId,
      [log(bo, must(sheet).sheetId, 31, { type: "handed-over", to: uuidv7() })],
      later(32),
    );
    expect(refused).toMatchObject([{ code: "no-such-person" }]);
  });
});

describe("pictures", () => {
  it("arrive under their own id, once, without position, and only as pictures", async () => {
    const sheetId = await openSheet(ada, await dutyOf("sweeper-b", "ride-on-sweeper-daily"), "phone", NOW);
    const id = uuidv7();
    const bytes = await sharp({ create: { width: 2400, height: 1200, channels: 3, background: "tan" } })
      .withExif({ IFD0: { Copyright: "somebody" }, IFD3: { GPSLatitudeRef: "N", GPSLatitude: "38/1 32/1 0/1" } })
      .jpeg()
      .toBuffer();
    expect((await sharp(bytes).metadata()).exif).toBeDefined();
    const send = (what: Buffer, { photo = id, sheet = sheetId, who = ada } = {}) =>
      storeSheetPhoto(who, sheet, photo, what, NOW);
    // Its id belongs to the entry that names it: none comes before, and nobody else's.
    await expect(send(bytes)).rejects.toMatchObject({ status: 409 });
    const other = uuidv7();
    await appendEntries(
      ada,
      sheetId,
      [
        log(ada, sheetId, 2, { type: "photo", photo: id, caption: "Skirt" }),
        log(ada, sheetId, 3, { type: "photo", photo: other }),
      ],
      later(4),
    );
    await expect(send(bytes, { who: lead })).rejects.toMatchObject({ status: 403 });
    await expect(send(bytes, { sheet: uuidv7() })).rejects.toMatchObject({ status: 404 });
    await send(bytes);
    await send(bytes);
    const stored = await readPhoto(id);
    const metadata = await sharp(Buffer.from(stored.bytes)).metadata();
    expect([metadata.width, metadata.exif]).toEqual([1600, undefined]);
    const drawing = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><rect width="9" height="9"/></svg>';
    for (const none of [drawing, "GIF89a", "%PDF-1.7", "", "RIFF....AVI "])
      await expect(send(Buffer.from(none), { photo: other })).rejects.toMatchObject({ status: 422 });
    const record = await loadRecord(sheetId, later(5));
    expect(record.state.photos).toHaveLength(2);
    expect(record.photos).toEqual([id]);
  });
});

describe("instruments", () => {
  it("are recorded with a reading, an expired one flagged for good", async () => {
    const id = await addInstrument(
      lead,
      { code: "C-1", kind: "caliper", name: "Caliper", calibrationDue: "2026-06-01", certificate: "" },
      NOW,
    );
    await expect(
      addInstrument(lead, { code: "C-1", kind: "caliper", name: "Twin", calibrationDue: null, certificate: "" }, NOW),
    ).rejects.toMatchObject({
      code: "code",
    });
    const sheetId = await openSheet(ada, await dutyOf("sweeper-c", "ride-on-sweeper-daily"), "phone", NOW);
    await appendEntries(
      ada,
      sheetId,
      [
        log(ada, sheetId, 1, {
          type: "reading",
          step: "polish-mark",
          round: 1,
          value: 1.2,
          unit: "in",
          instrument: id,
          calibrationDue: "2026-06-01",
        }),
      ],
      later(2),
    );
    await changeInstrument(
      lead,
      id,
      {
        code: "C-1",
        kind: "caliper",
        name: "Caliper",
        calibrationDue: "2027-06-01",
        certificate: "https://c.example",
        retired: false,
      },
      "Calibrated",
      later(3),
    );
    const record = await loadRecord(sheetId, later(4));
    expect(must(record.state.steps["polish-mark"]).readings[0]).toMatchObject({
      instrument: id,
      instrumentExpired: true,
    });
    expect(record.instruments).toEqual({ [id]: "C-1, Caliper" });
    const [change] = await changesOf("instrument", [id]);
    expect(must(change).details).toMatchObject({
      why: "Calibrated",
      old: { calibrationDue: "2026-06-01" },
      new: { calibrationDue: "2027-06-01" },
    });
    await changeInstrument(
      lead,
      id,
      { code: "C-1", kind: "caliper", name: "Caliper", calibrationDue: null, certificate: "", retired: true },
      "Dropped",
      later(5),
    );
    expect(await instrumentsOfKinds(["caliper"])).toEqual([]);
    expect(await listInstruments()).toHaveLength(1);
  });
});

describe("the chain of records", () => {
  it("holds every signature and what is added later; a change anywhere breaks it", async () => {
    const { sheetId, entries } = await workAndSign(ada, "oven", OVEN, later(60), {
      readings: { "belt-time": [300, 301, 299] },
    });
    const reading = must(entries.find((entry) => entry.type === "reading" && entry.step === "belt-time"));
    await correctFact(
      lead,
      sheetId,
      { ref: reading.id, set: { value: 330 }, why: "Read from the stopwatch again" },
      later(300),
    );
    const record = await loadRecord(sheetId, later(301));
    expect(record.chain.map((entry) => entry.kind)).toEqual(["record", "addition"]);
    expect(must(record.state.steps["belt-time"]).readings[0]).toMatchObject({
      value: 330,
      corrections: [{ old: { value: 300 }, why: "Read from the stopwatch again" }],
    });
    // What goes on from the record knows the corrected value.
    const [stored] = await getDb().select<{ value: number }>("SELECT value FROM readings WHERE id = :id", {
      id: reading.id,
    });
    expect(must(stored).value).toBe(330);
    expect((await recordPdf(printed(record))).subarray(0, 5).toString()).toBe("%PDF-");

    const whole = await verifyChain();
    const kept = must(await chainEnd());
    expect(await lostSince(readKeptEnd(JSON.stringify(kept)))).toEqual([]);
    expect((await lostSince({ ...kept, hash: "0".repeat(64) }))[0]?.what).toMatch(/went another way/);
    expect((await lostSince({ ...kept, seq: kept.seq + 1 }))[0]?.what).toMatch(
      /ends at \d+, but \d+ was kept: this is an older copy/,
    );
    for (const text of ["", "{}", '{"seq":1}', "null", '{"seq":1,"hash":"x"}'])
      expect(() => readKeptEnd(text)).toThrow(/no kept end/);
    expect(whole.faults).toEqual([]);
    expect(whole.entries).toBeGreaterThanOrEqual(3);

    const faultsAfter = async (sql: string, back: string): Promise<string[]> => {
      await getDb().run(sql, { id: reading.id, sheetId });
      const { faults } = await verifyChain();
      await getDb().run(back, { id: reading.id, sheetId });
      return faults.map((fault) => fault.what);
    };
    const set = (value: number): string =>
      `UPDATE log_entries SET body = JSON_SET(body, '$.value', ${value}) WHERE id = :id`;
    expect(await faultsAfter(set(999), set(300))).toEqual(["what it vouches for was changed"]);
    const move = (from: string, to: string): string => `UPDATE log_entries SET id = '${to}' WHERE id = '${from}'`;
    expect(await faultsAfter(move(reading.id, uuidv7()), "SELECT 1")).toEqual([
      "what it vouches for is not there any more",
    ]);
    await getDb().run("UPDATE log_entries SET id = JSON_VALUE(body, '$.id')", {});
    const [entry] = await getDb().models.RecordChain.findAll({
      where: { subjectId: sheetId, kind: "record" },
      raw: true,
    });
    const shift = (years: number): string =>
      `UPDATE record_chain SET at = at + INTERVAL ${years} YEAR WHERE seq = ${must(entry).seq}`;
    expect(await faultsAfter(shift(1), shift(-1))).toEqual(["the entry was changed"]);
    await getDb().run("DELETE FROM record_chain WHERE seq = :seq", { seq: must(entry).seq });
    const { faults } = await verifyChain();
    expect(faults.map((fault) => fault.what)).toEqual(expect.arrayContaining([`entry ${must(entry).seq} is missing`]));
    await getDb().models.RecordChain.create(must(entry));
    expect((await verifyChain()).faults).toEqual([]);
  });

  it("keeps its order when records are signed at the same time", async () => {
    const runs = await Promise.all(
      ["sweeper-b", "sweeper-c"].map(async (tag) =>
        openSheet(ada, await dutyOf(tag, "ride-on-sweeper-daily"), "phone", NOW),
      ),
    );
    const signed = await Promise.all(
      runs.map((sheetId) =>
        signSheet(
          ada,
          sheetId,
          { customer: { method: "typed", name: "Desk" }, missingReason: "half of it", device: "phone" },
          later(400),
        ),
      ),
    );
    expect(signed).toEqual([{ signed: true }, { signed: true }]);
    expect((await verifyChain()).faults).toEqual([]);
  });

  it("takes over signed sheets of the past in bulk, and no open ones", async () => {
    const { sheet, procedure, machine, entries } = await loadSheet(
      (await workAndSign(ada, "oven", OVEN, later(500))).sheetId,
    );
    const copyId = uuidv7();
    const copy = entries.map((entry) => ({ ...entry, id: uuidv7(), runId: copyId }));
    const past = {
      sheetId: copyId,
      dutyId: sheet.dutyId,
      machineId: sheet.machineId,
      options: machine.options,
      timeZone: "Europe/Lisbon",
      procedure,
      entries: copy,
    };
    await storePastSheets([past], later(900));
    expect((await loadRecord(copyId, later(901))).sheet).toMatchObject({ status: "signed", doneOn: "2026-06-10" });
    expect((await verifyChain()).faults).toEqual([]);
    await expect(storePastSheets([{ ...past, entries: copy.slice(0, 3) }], NOW)).rejects.toThrow(/not signed/);
  });
});
