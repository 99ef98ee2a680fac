import { foldRun, must, type RunEventBody } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import { sendPacket, servicePacket } from "~/book/packet/packet.server";
import { recordPost } from "~/book/send-record.server";
import type { Actor } from "~/kit/actor";
import { guideOf } from "~/procedures/guides/guides.server";
import { learnedFaults } from "~/sheet/find/learned-faults.server";
import { appendEntries } from "~/sheet/log/append-entries.server";
import { correctFact, entry, loadSheet } from "~/sheet/log/sheets.server";
import { signSheet } from "~/sheet/log/sign-sheets.server";
import { addActor, closeDatabase, freshDatabase, importLines, publishShipped } from "~/testing/database";

import { holdingUp } from "./down-time.server";
import { causesCsv, guideView, listGuides, machineFaults } from "./faults.server";
import { lessonsFor } from "./lessons.server";
import { startFault } from "./start-fault.server";

const NOW = new Date("2026-06-10T09:00:00Z");
const minutes = (n: number): Date => new Date(NOW.getTime() + n * 60_000);
let ada: Actor;
let machines: string[];

beforeAll(async () => {
  await freshDatabase();
  await publishShipped("few");
  ada = await addActor("Ada");
  const lea = await addActor("Lea", "lead");
  await importLines(
    lea,
    ["one", "two", "three", "four"].map(
      (tag) =>
        `Co,Site,,Europe/Lisbon,,"Mon-Fri 06:00-20:00; Sat, Sun closed",Hall,${tag},Cabinet ${tag},prep-cabinet,,2026-06-01`,
    ),
    NOW,
  );
  machines = (await getDb().models.Machine.findAll({ order: [["tag", "ASC"]], raw: true })).map((one) => one.id);
});
afterAll(closeDatabase);

const on = (step: string) => ({ step, round: 1 });
const found = (check: string, cause: string): RunEventBody => ({
  ...{ type: "checked", ...on("cause") },
  ...{ check, result: "found", cause },
});

async function add(sheetId: string, at: Date, ...bodies: RunEventBody[]): Promise<void> {
  const entries = bodies.map((body, i) => entry(ada, sheetId, "phone", new Date(at.getTime() + i * 1000), body));
  const { refused } = await appendEntries(ada, sheetId, entries, new Date(at.getTime() + 60_000));
  expect(refused).toEqual([]);
}

async function sign(sheetId: string, at: Date): Promise<void> {
  const { signed } = await signSheet(
    ada,
    sheetId,
    { customer: { method: "typed", name: "Desk" }, missingReason: "Test", device: "phone" },
    at,
  );
  expect(signed).toBe(true);
}

it("begins with what is complained of, is settled with the signature, and is counted", async () => {
  const machineId = must(machines[0]);
  const sheetId = await startFault(ada, machineId, { symptom: "too-warm", report: null }, NOW);
  const view = await loadSheet(sheetId);
  expect(view.title).toBe("Fault: Too warm");
  expect(foldRun(view.procedure, view.entries).steps["symptom"]).toMatchObject({ answer: "too-warm" });
  expect((await machineFaults(machineId, null)).open).toHaveLength(1);
  await add(
    sheetId,
    minutes(1),
    { type: "gate-passed", ...on("cause"), state: "powered", way: "in" },
    { type: "checked", ...on("cause"), check: "food-pans", result: "clear" },
    found("gasket-look", "gasket-leaks"),
    { type: "step-done", ...on("proof"), answer: "ok" },
  );
  await sign(sheetId, minutes(10));
  expect(await getDb().models.FaultOutcome.findAll({ where: { machineId }, raw: true })).toMatchObject([
    { symptom: "too-warm", cause: "gasket-leaks", foundBy: "gasket-look", outcome: "cured", family: "prep-cabinet" },
  ]);
  const duty = await getDb().models.Duty.findByPk(view.duty.id, { raw: true });
  expect(duty).toMatchObject({ active: false });
  const { past, open } = await machineFaults(machineId, null);
  expect(open).toEqual([]);
  expect(past).toMatchObject([{ causeName: "Gasket leaks", symptomName: "Too warm", outcome: "cured" }]);

  // On this machine it weighs more than on another of the family.
  const { procedure } = view;
  const chance = async (id: string): Promise<number> => {
    const learned = must(await learnedFaults(procedure, { id, family: "prep-cabinet" }, ""));
    return must(must(learned.chances["too-warm"])["gasket-leaks"]).weight;
  };
  expect(await chance(machineId)).toBeGreaterThan(await chance(must(machines[1])));
  const again = must(await learnedFaults(procedure, { id: machineId, family: "prep-cabinet" }, ""));
  expect(again.before).toEqual([{ cause: "gasket-leaks", on: "2026-06-10", sheetId }]);

  // Corrected, it counts as what it was.
  const ref = must((await loadSheet(sheetId)).entries.find((one) => one.type === "checked" && one.result === "found"));
  await correctFact(ada, sheetId, { ref: ref.id, set: { answer: "door-open" }, why: "Mistapped" }, minutes(12));
  expect(await getDb().models.FaultOutcome.findAll({ where: { machineId }, raw: true })).toMatchObject([
    { cause: "door-open", outcome: "cured" },
  ]);
});

it("a report is looked into, and closed with the sheet; one that is closed is not", async () => {
  const machineId = must(machines[1]);
  const report = uuidv7();
  await getDb().models.ProblemReport.create({
    ...{ id: report, linkId: uuidv7(), machineId, name: "K. S.", text: "Door stays open", stopped: false },
    loggedAt: NOW,
  });
  const sheetId = await startFault(ada, machineId, { symptom: "door-stays", report }, NOW);
  // Asked twice, the same work is gone on with.
  expect(await startFault(ada, machineId, { symptom: "door-stays", report }, NOW)).toBe(sheetId);
  // Nor does a second person's word change what is being looked for.
  expect(await startFault(ada, machineId, { symptom: "too-warm", report }, minutes(1))).toBe(sheetId);
  const { entries } = await loadSheet(sheetId);
  expect(entries.flatMap((one) => (one.type === "step-done" ? [one.answer] : []))).toEqual(["door-stays"]);
  await add(sheetId, minutes(1), found("let-go", "hinge-screws"), { type: "step-done", ...on("proof"), answer: "ok" });
  await sign(sheetId, minutes(5));
  const row = await getDb().models.ProblemReport.findByPk(report, { raw: true });
  expect(must(row).closedAt).not.toBeNull();
  expect(must(row).closedNote).toContain("Hinge screws loose");
  await expect(startFault(ada, machineId, { symptom: "door-stays", report }, NOW)).rejects.toMatchObject({
    status: 409,
  });
});

it("what the guide does not have is refused, and nothing is begun", async () => {
  const before = await getDb().models.Duty.count();
  await expect(startFault(ada, must(machines[2]), { symptom: "sings", report: null }, NOW)).rejects.toMatchObject({
    status: 422,
  });
  await expect(startFault(ada, uuidv7(), { symptom: "too-warm", report: null }, NOW)).rejects.toMatchObject({
    status: 404,
  });
  const gone = { where: { id: must(machines[2]) } };
  await getDb().models.Machine.update({ retiredOn: "2026-06-09" }, gone);
  await expect(startFault(ada, must(machines[2]), { symptom: "too-warm", report: null }, NOW)).rejects.toMatchObject({
    code: "taken-out",
  });
  await getDb().models.Machine.update({ retiredOn: null }, gone);
  expect(await getDb().models.Duty.count()).toBe(before);
});

it("a check or a cause that the guide does not have changes nothing on the sheet", async () => {
  const sheetId = await startFault(ada, must(machines[2]), { symptom: "too-warm", report: null }, NOW);
  await add(sheetId, minutes(1), found("gasket-look", "coil-dirty"), found("no-such-check", "gasket-leaks"));
  const { procedure, entries } = await loadSheet(sheetId);
  const state = foldRun(procedure, entries);
  expect(state.steps["cause"]?.answer ?? null).toBeNull();
  expect(state.unknown).toHaveLength(2);
});

it("a search that found nothing leaves a packet that says what was checked", async () => {
  const sheetId = await startFault(ada, must(machines[3]), { symptom: "rocks", report: null }, NOW);
  await add(
    sheetId,
    minutes(1),
    { type: "checked", ...on("cause"), check: "feet", result: "clear" },
    { type: "step-done", ...on("cause"), answer: "unknown", reason: "Floor is even too" },
  );
  const view = await loadSheet(sheetId);
  const { packet } = await servicePacket(sheetId, minutes(3));
  expect(packet.symptom).toBe("Cabinet rocks, a stem shows");
  expect(packet.found).toBe("Nothing found: Floor is even too");
  expect(new Map(packet.lists).get("Checks, and what each showed")).toEqual([
    expect.stringMatching(/^Look under it: Flush/),
  ]);
  await sendPacket(ada, sheetId, { name: "", address: "feet@workshop.example" }, minutes(4));
  expect((await servicePacket(sheetId, minutes(4))).messages).toMatchObject([{ toAddress: "feet@workshop.example" }]);
  await sign(sheetId, minutes(5));
  // Whoever got the packet has not got the record.
  expect((await recordPost(sheetId, view.duty.siteId)).messages).toEqual([]);
  expect(await getDb().models.FaultOutcome.findAll({ where: { sheetId }, raw: true })).toMatchObject([
    { cause: "unknown", outcome: "handed-over", foundBy: null },
  ]);
});

it("how a machine holds up: stopped by a report, held by a finding, what overlaps once", async () => {
  const machineId = must(machines[2]);
  const day = (n: number): Date => new Date(NOW.getTime() + n * 86_400_000);
  const report = { linkId: uuidv7(), machineId, name: "K. S.", text: "Stands", stopped: true };
  await getDb().models.ProblemReport.create({ ...report, id: uuidv7(), loggedAt: day(-6), closedAt: day(-5) });
  await getDb().models.MachineHold.create({
    ...{ id: uuidv7(), machineId, reason: "Leaks", byPerson: ada.id },
    ...{ sheetId: null, entryId: null, since: day(-5.5), clearedAt: day(-4) },
  });
  // Known for nine days: since its duties count.
  const figures = await holdingUp(machineId, NOW);
  expect(figures).toMatchObject({ days: 9, failures: 2, mttrHours: 30 });
  expect(figures.availability).toBeCloseTo(1 - 2 / ((NOW.getTime() - Date.parse("2026-06-01")) / 86_400_000), 9);
  expect(await holdingUp(must(machines[3]), NOW)).toMatchObject({ availability: 1, mtbfHours: null, failures: 0 });
});

it("damage by handling that comes again is told to who uses the machine", async () => {
  const machineId = must(machines[3]);
  const outcome = (n: number, cause: string, onDay: string) => ({
    ...{ sheetId: uuidv7(), round: n, machineId, siteId: uuidv7(), family: "prep-cabinet", symptom: "too-warm" },
    ...{ cause, foundBy: null, outcome: "cured" as const, onDay, foundAt: NOW, byPerson: ada.id },
  });
  const rows = [outcome(1, "pans-missing", "2026-06-01"), outcome(2, "gasket-leaks", "2026-06-02")];
  await getDb().models.FaultOutcome.bulkCreate(rows);
  expect(await lessonsFor(machineId, "2026-06-10")).toEqual([]);
  const more = [outcome(3, "pans-missing", "2026-06-09"), outcome(4, "gasket-leaks", "2026-06-09")];
  await getDb().models.FaultOutcome.bulkCreate(more);
  // A gasket wears by itself: nothing that an operator should know.
  expect(await lessonsFor(machineId, "2026-06-10")).toEqual(["Pans stay in; lids on in quiet hours."]);
  expect(await lessonsFor(machineId, "2027-06-05")).toEqual([]);
  await getDb().models.FaultOutcome.destroy({ where: { sheetId: [...rows, ...more].map((one) => one.sheetId) } });
});

it("guides are there without having been published, and their causes go out as a table", async () => {
  expect(await guideOf("dental-mill")).toMatchObject({ family: "dental-mill" });
  expect((await listGuides()).map((one) => one.family)).toHaveLength(19);
  const view = await guideView("prep-cabinet");
  expect(view.found.reduce((sum, one) => sum + one.n, 0)).toBe(3);
  const [head, ...rows] = (await causesCsv("prep-cabinet")).trim().split("\n");
  expect(head?.trim()).toBe("symptom,cause,chance,low,high,found");
  expect(rows.length).toBe(view.symptoms.reduce((sum, one) => sum + one.causes.length, 0));
  await expect(guideView("no-such-family")).rejects.toMatchObject({ status: 404 });
});
