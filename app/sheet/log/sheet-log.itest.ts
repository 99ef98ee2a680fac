import { foldRun, must, nextSteps, type RunEvent, type RunEventBody } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import { printed } from "~/book/print/printed.server";
import { recordPdf } from "~/book/print/record-pdf.server";
import { loadRecord } from "~/book/records.server";
import { getDuty, listDue } from "~/duties/due.server";
import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { logOccurrence } from "~/machines/machines.server";
import { logMeterReading } from "~/machines/meters.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { entryOf } from "~/testing/sheets";

import { simulateSheet } from "../../../db/demo/simulate-sheet";
import { appendEntries, MAX_BATCH_ENTRIES } from "./append-entries.server";
import { loadSheet, openSheet } from "./sheets.server";
import { signSheet } from "./sign-sheets.server";

const NOW = new Date("2026-06-10T10:00:00Z");
const later = (minutes: number): Date => new Date(NOW.getTime() + minutes * 60_000);
let ada: Actor;
let bo: Actor;
let lead: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  [ada, bo, lead] = [await addActor("Ada"), await addActor("Bo"), await addActor("Lea", "lead")];
  await importLines(
    lead,
    [
      "Co,Soft site,,Europe/Lisbon,50,,Kitchen,T-1,Ice soft,flake-ice-maker,,2025-06-01",
      "Co,Hard site,,Europe/Lisbon,320,,Kitchen,T-2,Ice hard,flake-ice-maker,water-filter,2025-06-01",
      "Co,Soft site,,Europe/Lisbon,50,,Lab,T-3,Stainer,slide-stainer,,2026-06-01",
      "Co,Soft site,,Europe/Lisbon,50,,Shop,T-4,Printer,wide-format-printer,,2026-01-01",
      "Co,Far site,,Pacific/Kiritimati,,,Yard,T-5,Sweeper far,ride-on-sweeper,side-brooms,2026-06-10",
      "Co,Soft site,,Europe/Lisbon,50,,Yard,T-6,Sweeper near,ride-on-sweeper,,2026-06-10",
    ],
    NOW,
  );
});
afterAll(closeDatabase);

const entry = (actor: Actor, sheetId: string, body: RunEventBody, minutes = 0): RunEvent =>
  entryOf(actor, sheetId, later(minutes), body);

async function workedSheet(
  tag: string,
  procedureId: string,
  actor = ada,
  script = {},
): Promise<{ sheetId: string; entries: RunEvent[]; end: Date }> {
  const { procedure, machine, duty } = await (async () =>
    loadSheet(await openSheet(actor, await dutyOf(tag, procedureId), "phone", NOW)))();
  const sheetId = must(
    await getDb().models.Sheet.findOne({ where: { dutyId: duty.id, status: "open" }, raw: true }),
  ).id;
  const entries = simulateSheet({
    procedure,
    machine,
    sheetId,
    by: actor.id,
    startMs: NOW.getTime(),
    newId: uuidv7,
    started: { type: "started", planId: duty.id, procedureId, procedureVersion: 2 },
    script,
  }).slice(1);
  return { sheetId, entries, end: new Date(Date.parse(must(entries.at(-1)).at) + 60_000) };
}

describe("the log", () => {
  it("takes a batch once, however often it is sent, alone or at the same time", async () => {
    const { sheetId, entries, end } = await workedSheet("T-1", "flake-ice-maker-clean-sanitise");
    const answers = await Promise.all([1, 2, 3].map(() => appendEntries(ada, sheetId, entries, end)));
    for (const answer of answers) expect(answer).toMatchObject({ accepted: entries.map((one) => one.id), refused: [] });
    const [row] = await getDb().select<{ total: number }>(
      "SELECT COUNT(*) AS total FROM log_entries WHERE sheet_id = :sheetId",
      { sheetId },
    );
    expect(must(row).total).toBe(entries.length + 1);
  });

  it("gives the same sheet for two devices' batches in either order", async () => {
    const phone = await workedSheet("T-6", "ride-on-sweeper-daily");
    const half = Math.floor(phone.entries.length / 2);
    const tablet = phone.entries.slice(half).map((one) => ({ ...one, device: "tablet" }));
    await appendEntries(ada, phone.sheetId, tablet, phone.end);
    await appendEntries(ada, phone.sheetId, phone.entries.slice(0, half), phone.end);
    const { procedure, entries } = await loadSheet(phone.sheetId);
    expect(foldRun(procedure, entries).steps).toEqual(
      foldRun(procedure, [...phone.entries.slice(0, half), ...tablet]).steps,
    );
    expect(nextSteps(procedure, foldRun(procedure, entries), { options: [] })).toEqual([]);
  });

  it("refuses a known id with other content, and keeps the first", async () => {
    const sheetId = await openSheet(ada, await dutyOf("T-2", "flake-ice-maker-clean-sanitise"), "phone", NOW);
    const note = entry(ada, sheetId, { type: "note", text: "first" });
    await appendEntries(ada, sheetId, [note], NOW);
    const answer = await appendEntries(ada, sheetId, [{ ...note, text: "second" }], NOW);
    expect(answer).toMatchObject({ accepted: [], refused: [{ id: note.id, code: "id-taken" }] });
    expect((await loadSheet(sheetId)).entries.find((one) => one.id === note.id)).toMatchObject({ text: "first" });
  });

  it("keeps the person who is signed in, refuses events of others, and takes the good ones of a batch", async () => {
    const sheetId = await openSheet(ada, await dutyOf("T-2", "flake-ice-maker-clean-sanitise"), "phone", NOW);
    const own = entry(ada, sheetId, { type: "note", text: "mine" });
    const answer = await appendEntries(
      ada,
      sheetId,
      [
        entry(bo, sheetId, { type: "note", text: "forged" }),
        own,
        { ...own, id: "not-a-uuid" },
        { ...own, id: uuidv7(), more: 1 },
      ],
      NOW,
    );
    expect(answer.accepted).toEqual([own.id]);
    expect(answer.refused.map((one) => one.code).sort()).toEqual(["not-valid", "not-valid", "not-yours"]);
  });

  it("lets nobody but a lead take back or correct what another logged", async () => {
    const sheetId = await openSheet(ada, await dutyOf("T-2", "flake-ice-maker-clean-sanitise"), "phone", NOW);
    const note = entry(ada, sheetId, { type: "note", text: "ada's" });
    await appendEntries(ada, sheetId, [note], NOW);
    expect(
      (await appendEntries(bo, sheetId, [entry(bo, sheetId, { type: "undone", ref: note.id })], NOW)).refused,
    ).toMatchObject([{ code: "not-yours" }]);
    expect(
      (
        await appendEntries(
          lead,
          sheetId,
          [entry(lead, sheetId, { type: "corrected", ref: note.id, set: { text: "better" }, why: "typo" })],
          NOW,
        )
      ).refused,
    ).toEqual([]);
  });

  it("refuses oversized batches, clocks far ahead, other sheets, and signatures by this way", async () => {
    const sheetId = await openSheet(ada, await dutyOf("T-2", "flake-ice-maker-clean-sanitise"), "phone", NOW);
    await expect(
      appendEntries(
        ada,
        sheetId,
        Array.from({ length: MAX_BATCH_ENTRIES + 1 }, () => ({})),
        NOW,
      ),
    ).rejects.toMatchObject({ status: 413 });
    const codes = (
      await appendEntries(
        ada,
        sheetId,
        [
          entry(ada, sheetId, { type: "note", text: "x" }, 60),
          entry(ada, uuidv7(), { type: "note", text: "x" }),
          entry(ada, sheetId, { type: "signed", role: "technician", name: "Ada", method: "password", eventCount: 0 }),
        ],
        NOW,
      )
    ).refused.map((one) => one.code);
    expect(codes).toEqual(["clock", "other-sheet", "not-this-way"]);
  });

  it("opens a run from a batch that begins with started, as a device without a connection would", async () => {
    const sheetId = uuidv7();
    const dutyId = await dutyOf("T-5", "ride-on-sweeper-daily");
    const started = entry(bo, sheetId, {
      type: "started",
      planId: dutyId,
      procedureId: "ride-on-sweeper-daily",
      procedureVersion: 2,
    });
    await expect(appendEntries(bo, uuidv7(), [], NOW)).rejects.toBeInstanceOf(Refusal);
    expect(
      await appendEntries(
        bo,
        sheetId,
        [started, entry(bo, sheetId, { type: "safety-confirmed", step: "make-safe", round: 1 })],
        NOW,
      ),
    ).toMatchObject({
      refused: [],
      status: "open",
    });
    expect((await loadSheet(sheetId)).sheet).toMatchObject({ dutyId, openedBy: bo.id });
  });

  it("never changes a stored event: the table is only written by inserts", async () => {
    const [before] = await getDb().select<{ sum: string }>(
      "SELECT SHA2(GROUP_CONCAT(id, content_hash, received_at ORDER BY seq), 256) AS sum FROM log_entries",
    );
    const sheetId = await openSheet(ada, await dutyOf("T-3", "slide-stainer-weekly"), "phone", NOW);
    const note = entry(ada, sheetId, { type: "note", text: "a" });
    await appendEntries(
      ada,
      sheetId,
      [note, entry(ada, sheetId, { type: "corrected", ref: note.id, set: { text: "b" }, why: "slip" })],
      NOW,
    );
    const [after] = await getDb().select<{ sum: string }>(
      "SELECT SHA2(GROUP_CONCAT(id, content_hash, received_at ORDER BY seq), 256) AS sum FROM log_entries WHERE sheet_id <> :sheetId",
      { sheetId },
    );
    expect(must(after).sum).toBe(must(before).sum);
  });
});

describe("from sheet to record", () => {
  it("tells what is missing, signs nothing then, and moves the due day when signed", async () => {
    const dutyId = await dutyOf("T-4", "wide-format-printer-periodic");
    expect(must(await getDuty(dutyId, NOW)).row).toMatchObject({ dueOn: "2027-01-01", state: "later" });
    const { sheetId, entries, end } = await workedSheet("T-4", "wide-format-printer-periodic", ada, {
      readings: { "service-counter": [11800] },
    });
    const withoutReset = entries.filter((one) => !("step" in one && one.step === "reset"));
    await appendEntries(ada, sheetId, withoutReset, end);
    const refused = await signSheet(
      ada,
      sheetId,
      { customer: { method: "typed", name: "Kim" }, missingReason: null, device: "phone" },
      end,
    );
    expect(refused).toMatchObject({ signed: false, missing: [{ step: "reset", weight: "reset" }] });
    expect((await loadSheet(sheetId)).sheet.status).toBe("open");

    await appendEntries(ada, sheetId, entries, end);
    expect(
      await signSheet(
        ada,
        sheetId,
        { customer: { method: "typed", name: "Kim" }, missingReason: null, device: "phone" },
        end,
      ),
    ).toEqual({ signed: true });
    const duty = must(await getDuty(dutyId, NOW));
    expect(duty.row).toMatchObject({ dueOn: "2027-06-10", anchorOn: "2026-06-10" });
    expect(duty.assessed.because.join(" ")).toContain("the last completion on 2026-06-10 + 1 year = 2027-06-10");
    const meters = await getDb().select<{ value: number }>(
      "SELECT value FROM meter_readings WHERE sheet_id = :sheetId ORDER BY read_at",
      { sheetId },
    );
    expect(meters.map((one) => one.value)).toEqual([11800, 0]);
  });

  it("makes the counter or the year the driver, whichever comes first", async () => {
    const dutyId = await dutyOf("T-4", "wide-format-printer-periodic");
    const machineId = must(await getDuty(dutyId, NOW)).row.machineId;
    await logMeterReading(ada, machineId, { meter: "service-counter", value: 1500 }, later(10 * 1440));
    const duty = must(await getDuty(dutyId, later(10 * 1440)));
    // 1,500 in 10 days: 10,500 left are 70 days more.
    expect(duty.row).toMatchObject({ dueOn: "2026-08-29", projected: true });
    expect(duty.assessed.driver).toMatchObject({ kind: "meter" });
  });

  it("records the pair, the materials and every round, as a PDF too", async () => {
    const { sheetId, entries, end } = await workedSheet("T-2", "flake-ice-maker-clean-sanitise", ada, {
      rounds: 2,
      readings: { "auger-bearing-gap": [0.021] },
    });
    await appendEntries(ada, sheetId, entries, end);
    await signSheet(
      ada,
      sheetId,
      {
        customer: { method: "drawn", name: "Kim", drawing: "M10 10L50 60L90 20" },
        missingReason: null,
        device: "phone",
      },
      end,
    );
    const record = await loadRecord(sheetId, end);
    expect(record.state.parts.map((part) => part.slot).sort()).toEqual(["bearing-bottom", "bearing-top"]);
    expect(record.state.consumables.filter((one) => one.item === "ice-cleaner")).toHaveLength(2);
    expect(record.state.rounds).toEqual({ "reservoir-clean": 2 });
    expect(
      record.steps.filter((one) => one.step === "soak-cleaner").map((one) => [one.round, one.state?.timer?.verdict]),
    ).toEqual([
      [1, "in"],
      [2, "in"],
    ]);
    // Very hard water: half a year, 182 days of 365.
    expect(must(record.next).row.dueOn).toBe("2026-12-09");
    const pdf = await recordPdf(printed(record));
    expect(pdf.subarray(0, 5).toString()).toBe("%PDF-");
    expect(pdf.length).toBeGreaterThan(5000);
  });

  it("counts what was logged before the signature and arrived after it, and nothing else", async () => {
    const { sheetId, entries, end } = await workedSheet("T-3", "slide-stainer-weekly", ada, {
      readings: { "probe-offset": [0.1] },
    });
    const late = entry(ada, sheetId, { type: "note", text: "from the tablet" }, 1);
    const taken = entry(ada, sheetId, { type: "note", text: "taken back" }, 1);
    await appendEntries(
      ada,
      sheetId,
      [...entries, taken, entry(ada, sheetId, { type: "undone", ref: taken.id }, 2)],
      end,
    );
    await signSheet(
      ada,
      sheetId,
      { customer: { method: "typed", name: "Kim" }, missingReason: null, device: "phone" },
      end,
    );
    expect((await loadRecord(sheetId, end)).cameLate).toEqual([]);
    const reading = must(entries.find((one) => one.type === "reading"));
    await appendEntries(
      ada,
      sheetId,
      [entry(ada, sheetId, { type: "corrected", ref: reading.id, set: { value: 0.2 }, why: "slip" }, 120)],
      later(120),
    );
    expect((await loadRecord(sheetId, end)).cameLate).toEqual([]);
    await appendEntries(ada, sheetId, [late], later(120));
    expect((await loadRecord(sheetId, end)).cameLate).toMatchObject([{ id: late.id, words: "From the tablet" }]);
  });

  it("leaves a duty due when a visit ends without the work, and says why", async () => {
    const dutyId = await dutyOf("T-1", "flake-ice-maker-clean-sanitise");
    const before = must(await getDuty(dutyId, NOW)).row.dueOn;
    const sheetId = await openSheet(bo, dutyId, "phone", NOW);
    await appendEntries(
      bo,
      sheetId,
      [entry(bo, sheetId, { type: "outcome", outcome: "no-access", reason: "Kitchen locked" }, 5)],
      later(6),
    );
    const { row } = must(await getDuty(dutyId, NOW));
    expect(row).toMatchObject({
      dueOn: before,
      openSheetId: null,
      lastOutcome: { outcome: "no-access", reason: "Kitchen locked" },
    });
    expect((await listDue({}, NOW)).rows.find((one) => one.dutyId === dutyId)?.lastOutcome?.reason).toBe(
      "Kitchen locked",
    );
  });

  it("credits the 50-run review to the chambers after a run", async () => {
    const chambers = await dutyOf("T-3", "slide-stainer-chambers");
    const machineId = must(await getDuty(chambers, NOW)).row.machineId;
    await logOccurrence(ada, machineId, { event: "after-run", on: "2026-06-09", note: "" }, NOW);
    expect(must(await getDuty(chambers, NOW)).row).toMatchObject({ dueOn: "2026-06-09", state: "overdue" });
    const { sheetId, entries, end } = await workedSheet("T-3", "slide-stainer-50-runs", ada, {
      readings: { "run-counter": [51] },
    });
    await appendEntries(ada, sheetId, entries, end);
    await signSheet(
      ada,
      sheetId,
      { customer: { method: "not-present", reason: "Lab empty" }, missingReason: null, device: "phone" },
      end,
    );
    expect(must(await getDuty(chambers, NOW)).row.dueOn).toBeNull();
  });

  it("judges each site's duties by its own day", async () => {
    // 2026-06-10 at 10:00 UTC is the 11th on Kiritimati already.
    const far = must(await getDuty(await dutyOf("T-5", "ride-on-sweeper-daily"), NOW)).row;
    const near = must(await getDuty(await dutyOf("T-6", "ride-on-sweeper-daily"), NOW)).row;
    expect([far.dueOn, far.state, far.today]).toEqual(["2026-06-11", "due", "2026-06-11"]);
    expect(near.today).toBe("2026-06-10");
    expect(must(await getDuty(await dutyOf("T-5", "ride-on-sweeper-daily"), later(24 * 60))).row.state).toBe("overdue");
  });

  it("re-assesses the plans of the machine that an event is about, and no other", async () => {
    // Days that cannot be right: only an assessment mends them.
    await getDb().run("UPDATE duties SET anchor_on = '2000-01-01', assessed_at = '2020-01-01'");
    const machineId = must(await getDuty(await dutyOf("T-3", "slide-stainer-weekly"), NOW)).row.machineId;
    await logOccurrence(ada, machineId, { event: "after-run", on: null, note: "" }, later(1));
    const touched = await getDb().select<{ machineId: string }>(
      "SELECT machine_id AS machineId FROM duties WHERE assessed_at > '2020-01-02'",
    );
    expect(touched.map((one) => one.machineId)).toEqual([machineId, machineId, machineId]);
  });
});

describe("who may work it", () => {
  it("checks licensed work against the person's authorisations", async () => {
    await getDb().run("UPDATE duties SET who = 'licensed', authorisation = 'licensed-refrigeration' WHERE id = :id", {
      id: await dutyOf("T-1", "flake-ice-maker-clean-sanitise"),
    });
    const dutyId = await dutyOf("T-1", "flake-ice-maker-clean-sanitise");
    await expect(openSheet(ada, dutyId, "phone", NOW)).rejects.toMatchObject({
      status: 403,
      message: expect.stringContaining("licensed-refrigeration"),
    });
    const licensed: Actor = { ...ada, authorisations: [{ kind: "licensed-refrigeration", expiresOn: "2026-06-10" }] };
    await expect(openSheet(licensed, dutyId, "phone", NOW)).resolves.toMatch(/^[0-9a-f-]{36}$/);
  });
});
