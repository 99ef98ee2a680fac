import { foldRun, nextSteps, type RunEvent, type RunEventBody } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import { recordPdf } from "~/book/record-pdf.server";
import { loadRecord } from "~/book/records.server";
import { getDuty, listDue } from "~/duties/due.server";
import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { logMachineEvent } from "~/machines/machines.server";
import { logMeterReading } from "~/machines/meters.server";
import { addActor, closeDatabase, freshDatabase, importLines, planOf, publishShipped } from "~/testing/database";

import { simulateRun } from "../../../db/demo/simulate-run";
import { appendEvents, loadRun, MAX_BATCH_EVENTS, openRun, signRun } from "./runs.server";

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

const event = (actor: Actor, runId: string, body: RunEventBody, minutes = 0): RunEvent => ({
  id: uuidv7(),
  runId,
  at: later(minutes).toISOString(),
  by: actor.id,
  device: "phone",
  ...body,
});

async function workedRun(
  tag: string,
  procedureId: string,
  actor = ada,
  script = {},
): Promise<{ runId: string; events: RunEvent[]; end: Date }> {
  const { procedure, machine, plan } = await (async () =>
    loadRun(await openRun(actor, await planOf(tag, procedureId), "phone", NOW)))();
  const runId = (await getDb().models.Run.findOne({ where: { planId: plan.id, status: "open" }, raw: true }))!.id;
  const events = simulateRun({
    procedure,
    machine,
    runId,
    by: actor.id,
    startMs: NOW.getTime(),
    newId: uuidv7,
    started: { type: "started", planId: plan.id, procedureId, procedureVersion: 2 },
    script,
  }).slice(1);
  return { runId, events, end: new Date(Date.parse(events.at(-1)!.at) + 60_000) };
}

describe("the log", () => {
  it("takes a batch once, however often it is sent, alone or at the same time", async () => {
    const { runId, events, end } = await workedRun("T-1", "flake-ice-maker-clean-sanitise");
    const answers = await Promise.all([1, 2, 3].map(() => appendEvents(ada, runId, events, end)));
    for (const answer of answers) expect(answer).toMatchObject({ accepted: events.map((one) => one.id), refused: [] });
    const [row] = await getDb().select<{ total: number }>(
      "SELECT COUNT(*) AS total FROM run_events WHERE run_id = :runId",
      { runId },
    );
    expect(row!.total).toBe(events.length + 1);
  });

  it("gives the same sheet for two devices' batches in either order", async () => {
    const phone = await workedRun("T-6", "ride-on-sweeper-daily");
    const half = Math.floor(phone.events.length / 2);
    const tablet = phone.events.slice(half).map((one) => ({ ...one, device: "tablet" }));
    await appendEvents(ada, phone.runId, tablet, phone.end);
    await appendEvents(ada, phone.runId, phone.events.slice(0, half), phone.end);
    const { procedure, events } = await loadRun(phone.runId);
    expect(foldRun(procedure, events).steps).toEqual(
      foldRun(procedure, [...phone.events.slice(0, half), ...tablet]).steps,
    );
    expect(nextSteps(procedure, foldRun(procedure, events), { options: [] })).toEqual([]);
  });

  it("refuses a known id with other content, and keeps the first", async () => {
    const runId = await openRun(ada, await planOf("T-2", "flake-ice-maker-clean-sanitise"), "phone", NOW);
    const note = event(ada, runId, { type: "note", text: "first" });
    await appendEvents(ada, runId, [note], NOW);
    const answer = await appendEvents(ada, runId, [{ ...note, text: "second" }], NOW);
    expect(answer).toMatchObject({ accepted: [], refused: [{ id: note.id, code: "id-taken" }] });
    expect((await loadRun(runId)).events.find((one) => one.id === note.id)).toMatchObject({ text: "first" });
  });

  it("keeps the person who is signed in, refuses events of others, and takes the good ones of a batch", async () => {
    const runId = await openRun(ada, await planOf("T-2", "flake-ice-maker-clean-sanitise"), "phone", NOW);
    const own = event(ada, runId, { type: "note", text: "mine" });
    const answer = await appendEvents(
      ada,
      runId,
      [
        event(bo, runId, { type: "note", text: "forged" }),
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
    const runId = await openRun(ada, await planOf("T-2", "flake-ice-maker-clean-sanitise"), "phone", NOW);
    const note = event(ada, runId, { type: "note", text: "ada's" });
    await appendEvents(ada, runId, [note], NOW);
    expect(
      (await appendEvents(bo, runId, [event(bo, runId, { type: "undone", ref: note.id })], NOW)).refused,
    ).toMatchObject([{ code: "not-yours" }]);
    expect(
      (
        await appendEvents(
          lead,
          runId,
          [event(lead, runId, { type: "corrected", ref: note.id, set: { text: "better" }, why: "typo" })],
          NOW,
        )
      ).refused,
    ).toEqual([]);
  });

  it("refuses oversized batches, clocks far ahead, other sheets, and signatures by this way", async () => {
    const runId = await openRun(ada, await planOf("T-2", "flake-ice-maker-clean-sanitise"), "phone", NOW);
    await expect(
      appendEvents(
        ada,
        runId,
        Array.from({ length: MAX_BATCH_EVENTS + 1 }, () => ({})),
        NOW,
      ),
    ).rejects.toMatchObject({ status: 413 });
    const codes = (
      await appendEvents(
        ada,
        runId,
        [
          event(ada, runId, { type: "note", text: "x" }, 60),
          event(ada, uuidv7(), { type: "note", text: "x" }),
          event(ada, runId, { type: "signed", role: "technician", name: "Ada", method: "password", eventCount: 0 }),
        ],
        NOW,
      )
    ).refused.map((one) => one.code);
    expect(codes).toEqual(["clock", "other-run", "not-this-way"]);
  });

  it("opens a run from a batch that begins with started, as a device without a connection would", async () => {
    const runId = uuidv7();
    const planId = await planOf("T-5", "ride-on-sweeper-daily");
    const started = event(bo, runId, {
      type: "started",
      planId,
      procedureId: "ride-on-sweeper-daily",
      procedureVersion: 2,
    });
    await expect(appendEvents(bo, uuidv7(), [], NOW)).rejects.toBeInstanceOf(Refusal);
    expect(
      await appendEvents(
        bo,
        runId,
        [started, event(bo, runId, { type: "safety-confirmed", step: "make-safe", round: 1 })],
        NOW,
      ),
    ).toMatchObject({
      refused: [],
      status: "open",
    });
    expect((await loadRun(runId)).run).toMatchObject({ planId, openedBy: bo.id });
  });

  it("never changes a stored event: the table is only written by inserts", async () => {
    const [before] = await getDb().select<{ sum: string }>(
      "SELECT SHA2(GROUP_CONCAT(id, content_hash, received_at ORDER BY seq), 256) AS sum FROM run_events",
    );
    const runId = await openRun(ada, await planOf("T-3", "slide-stainer-weekly"), "phone", NOW);
    const note = event(ada, runId, { type: "note", text: "a" });
    await appendEvents(
      ada,
      runId,
      [note, event(ada, runId, { type: "corrected", ref: note.id, set: { text: "b" }, why: "slip" })],
      NOW,
    );
    const [after] = await getDb().select<{ sum: string }>(
      "SELECT SHA2(GROUP_CONCAT(id, content_hash, received_at ORDER BY seq), 256) AS sum FROM run_events WHERE run_id <> :runId",
      { runId },
    );
    expect(after!.sum).toBe(before!.sum);
  });
});

describe("from sheet to record", () => {
  it("tells what is missing, signs nothing then, and moves the due day when signed", async () => {
    const planId = await planOf("T-4", "wide-format-printer-periodic");
    expect((await getDuty(planId, NOW))!.row).toMatchObject({ dueOn: "2027-01-01", state: "later" });
    const { runId, events, end } = await workedRun("T-4", "wide-format-printer-periodic", ada, {
      readings: { "service-counter": [11800] },
    });
    const withoutReset = events.filter((one) => !("step" in one && one.step === "reset"));
    await appendEvents(ada, runId, withoutReset, end);
    const refused = await signRun(
      ada,
      runId,
      { customer: { method: "typed", name: "Kim" }, missingReason: null, device: "phone" },
      end,
    );
    expect(refused).toMatchObject({ signed: false, missing: [{ step: "reset", weight: "reset" }] });
    expect((await loadRun(runId)).run.status).toBe("open");

    await appendEvents(ada, runId, events, end);
    expect(
      await signRun(
        ada,
        runId,
        { customer: { method: "typed", name: "Kim" }, missingReason: null, device: "phone" },
        end,
      ),
    ).toEqual({ signed: true });
    const duty = (await getDuty(planId, NOW))!;
    expect(duty.row).toMatchObject({ dueOn: "2027-06-10", anchorOn: "2026-06-10" });
    expect(duty.assessed.because.join(" ")).toContain("the last completion on 2026-06-10 + 1 year = 2027-06-10");
    const meters = await getDb().select<{ value: number }>(
      "SELECT value FROM meter_readings WHERE run_id = :runId ORDER BY read_at",
      { runId },
    );
    expect(meters.map((one) => one.value)).toEqual([11800, 0]);
  });

  it("makes the counter or the year the driver, whichever comes first", async () => {
    const planId = await planOf("T-4", "wide-format-printer-periodic");
    const machineId = (await getDuty(planId, NOW))!.row.machineId;
    await logMeterReading(ada, machineId, { meter: "service-counter", value: 1500 }, later(10 * 1440));
    const duty = (await getDuty(planId, later(10 * 1440)))!;
    // 1,500 in 10 days: 10,500 left are 70 days more.
    expect(duty.row).toMatchObject({ dueOn: "2026-08-29", projected: true });
    expect(duty.assessed.driver).toMatchObject({ kind: "meter" });
  });

  it("records the pair, the materials and every round, as a PDF too", async () => {
    const { runId, events, end } = await workedRun("T-2", "flake-ice-maker-clean-sanitise", ada, {
      rounds: 2,
      readings: { "auger-bearing-gap": [0.021] },
    });
    await appendEvents(ada, runId, events, end);
    await signRun(
      ada,
      runId,
      {
        customer: { method: "drawn", name: "Kim", drawing: "M10 10L50 60L90 20" },
        missingReason: null,
        device: "phone",
      },
      end,
    );
    const record = await loadRecord(runId, end);
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
    expect(record.next!.row.dueOn).toBe("2026-12-09");
    const pdf = await recordPdf(record);
    expect(pdf.subarray(0, 5).toString()).toBe("%PDF-");
    expect(pdf.length).toBeGreaterThan(5000);
  });

  it("counts what was logged before the signature and arrived after it, and nothing else", async () => {
    const { runId, events, end } = await workedRun("T-3", "slide-stainer-weekly", ada, {
      readings: { "probe-offset": [0.1] },
    });
    const late = event(ada, runId, { type: "note", text: "from the tablet" }, 1);
    const taken = event(ada, runId, { type: "note", text: "taken back" }, 1);
    await appendEvents(ada, runId, [...events, taken, event(ada, runId, { type: "undone", ref: taken.id }, 2)], end);
    await signRun(
      ada,
      runId,
      { customer: { method: "typed", name: "Kim" }, missingReason: null, device: "phone" },
      end,
    );
    expect((await loadRecord(runId, end)).lateEvents).toBe(0);
    const reading = events.find((one) => one.type === "reading")!;
    await appendEvents(
      ada,
      runId,
      [event(ada, runId, { type: "corrected", ref: reading.id, set: { value: 0.2 }, why: "slip" }, 120)],
      later(120),
    );
    expect((await loadRecord(runId, end)).lateEvents).toBe(0);
    await appendEvents(ada, runId, [late], later(120));
    expect((await loadRecord(runId, end)).lateEvents).toBe(1);
  });

  it("leaves a duty due when a visit ends without the work, and says why", async () => {
    const planId = await planOf("T-1", "flake-ice-maker-clean-sanitise");
    const before = (await getDuty(planId, NOW))!.row.dueOn;
    const runId = await openRun(bo, planId, "phone", NOW);
    await appendEvents(
      bo,
      runId,
      [event(bo, runId, { type: "outcome", outcome: "no-access", reason: "Kitchen locked" }, 5)],
      later(6),
    );
    const { row } = (await getDuty(planId, NOW))!;
    expect(row).toMatchObject({
      dueOn: before,
      openRunId: null,
      lastOutcome: { outcome: "no-access", reason: "Kitchen locked" },
    });
    expect((await listDue({}, NOW)).rows.find((one) => one.planId === planId)?.lastOutcome?.reason).toBe(
      "Kitchen locked",
    );
  });

  it("credits the 50-run review to the chambers after a run", async () => {
    const chambers = await planOf("T-3", "slide-stainer-chambers");
    const machineId = (await getDuty(chambers, NOW))!.row.machineId;
    await logMachineEvent(ada, machineId, { event: "after-run", on: "2026-06-09", note: "" }, NOW);
    expect((await getDuty(chambers, NOW))!.row).toMatchObject({ dueOn: "2026-06-09", state: "overdue" });
    const { runId, events, end } = await workedRun("T-3", "slide-stainer-50-runs", ada, {
      readings: { "run-counter": [51] },
    });
    await appendEvents(ada, runId, events, end);
    await signRun(
      ada,
      runId,
      { customer: { method: "not-present", reason: "Lab empty" }, missingReason: null, device: "phone" },
      end,
    );
    expect((await getDuty(chambers, NOW))!.row.dueOn).toBeNull();
  });

  it("judges each site's duties by its own day", async () => {
    // 2026-06-10 at 10:00 UTC is the 11th on Kiritimati already.
    const far = (await getDuty(await planOf("T-5", "ride-on-sweeper-daily"), NOW))!.row;
    const near = (await getDuty(await planOf("T-6", "ride-on-sweeper-daily"), NOW))!.row;
    expect([far.dueOn, far.state, far.today]).toEqual(["2026-06-11", "due", "2026-06-11"]);
    expect(near.today).toBe("2026-06-10");
    expect((await getDuty(await planOf("T-5", "ride-on-sweeper-daily"), later(24 * 60)))!.row.state).toBe("overdue");
  });

  it("re-assesses the plans of the machine that an event is about, and no other", async () => {
    // Days that cannot be right: only an assessment mends them.
    await getDb().run("UPDATE plans SET anchor_on = '2000-01-01', assessed_at = '2020-01-01'");
    const machineId = (await getDuty(await planOf("T-3", "slide-stainer-weekly"), NOW))!.row.machineId;
    await logMachineEvent(ada, machineId, { event: "after-run", on: null, note: "" }, later(1));
    const touched = await getDb().select<{ machineId: string }>(
      "SELECT machine_id AS machineId FROM plans WHERE assessed_at > '2020-01-02'",
    );
    expect(touched.map((one) => one.machineId)).toEqual([machineId, machineId, machineId]);
  });
});

describe("who may work it", () => {
  it("checks licensed work against the person's authorisations", async () => {
    await getDb().run("UPDATE plans SET who = 'licensed', authorisation = 'licensed-refrigeration' WHERE id = :id", {
      id: await planOf("T-1", "flake-ice-maker-clean-sanitise"),
    });
    const planId = await planOf("T-1", "flake-ice-maker-clean-sanitise");
    await expect(openRun(ada, planId, "phone", NOW)).rejects.toMatchObject({
      status: 403,
      message: expect.stringContaining("licensed-refrigeration"),
    });
    const licensed: Actor = { ...ada, authorisations: [{ kind: "licensed-refrigeration", expiresOn: "2026-06-10" }] };
    await expect(openRun(licensed, planId, "phone", NOW)).resolves.toMatch(/^[0-9a-f-]{36}$/);
  });
});
