import { must } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import { openHolds } from "~/duties/holds.server";
import type { Actor } from "~/kit/actor";
import { makeLink } from "~/kit/server/links.server";
import { countMachines, exportMachines, listMachines } from "~/machines/machines.server";
import { checkImport, getImport } from "~/machines/register/imports.server";
import { openSheet } from "~/sheet/log/sheets.server";
import {
  addActor,
  closeDatabase,
  dutyOf,
  freshDatabase,
  HEADER,
  importLines,
  publishShipped,
} from "~/testing/database";

import { takeBack, takeOut, takingOut } from "./take-out.server";

const NOW = new Date("2026-06-10T08:00:00Z");
const ROW = "Co,Works,,Europe/Lisbon,,,Hall,M-1,Sweeper,ride-on-sweeper,,2026-06-01";
let lead: Actor;
let machineId: string;
let duty: string;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped("all");
  lead = await addActor("Lea", "lead");
  await importLines(lead, [ROW, ROW.replace("M-1,Sweeper", "M-2,Other")], NOW);
  machineId = must(await getDb().models.Machine.findOne({ where: { tag: "M-1" }, raw: true })).id;
  duty = await dutyOf("M-1", "ride-on-sweeper-daily");
});
afterAll(closeDatabase);

const dutiesInForce = () => getDb().models.Duty.count({ where: { machineId, active: true } });

it("waits for a sheet that is open", async () => {
  const sheetId = await openSheet(lead, duty, "test", NOW);
  expect((await takingOut(machineId)).open.map((one) => one.id)).toEqual([sheetId]);
  await expect(takeOut(lead, machineId, "sold", NOW)).rejects.toMatchObject({ code: "open-sheet" });
  await getDb().models.Sheet.update({ status: "ended", openDutyId: null }, { where: { id: sheetId } });
});

it("ends what is open with the reason, and leaves lists; what was done stays", async () => {
  const owed = await dutiesInForce();
  expect(owed).toBeGreaterThan(3);
  // One was out of force before: it stays so.
  const idle = await dutyOf("M-1", "ride-on-sweeper-100h");
  await getDb().models.Duty.update({ active: false }, { where: { id: idle } });
  await getDb().models.Duty.update({ plannedOn: "2026-06-11", plannedFor: lead.id }, { where: { id: duty } });
  await makeLink(lead, "operator", machineId, NOW);
  const reportId = uuidv7();
  await getDb().models.ProblemReport.create({
    id: reportId,
    machineId,
    linkId: null,
    name: "K.",
    text: "Squeals",
    stopped: false,
    photoId: null,
    loggedAt: NOW,
    closedBy: null,
    closedAt: null,
    workDutyId: null,
    seenBy: null,
    seenAt: null,
  });
  await getDb().models.MachineHold.create({
    id: uuidv7(),
    machineId,
    reason: "Brake",
    sheetId: null,
    entryId: null,
    byPerson: lead.id,
    since: NOW,
    clearedBy: null,
    clearedAt: null,
  });
  expect(await takingOut(machineId)).toMatchObject({ duties: owed - 1, reports: 1, links: 1, open: [], records: 1 });
  expect(await openHolds(6)).toHaveLength(1);

  await takeOut(lead, machineId, "sold", NOW);
  await expect(takeOut(lead, machineId, "sold", NOW)).rejects.toMatchObject({ code: "out-already" });
  expect(await dutiesInForce()).toBe(0);
  expect(must(await getDb().models.Duty.findByPk(duty, { raw: true }))).toMatchObject({ plannedOn: null });
  expect(await takingOut(machineId)).toMatchObject({ duties: 0, reports: 0, links: 0, records: 1 });
  expect(must(await getDb().models.ProblemReport.findByPk(reportId, { raw: true })).closedNote).toBe(
    "The machine was taken out of the register: sold",
  );
  expect(await openHolds(6)).toEqual([]);
  expect((await listMachines({})).rows.map((one) => one.tag)).toEqual(["M-2"]);
  expect((await listMachines({ state: "taken-out" })).rows.map((one) => one.tag)).toEqual(["M-1"]);
  expect(await countMachines()).toBe(1);
  expect(await exportMachines()).not.toContain("M-1");
  await expect(openSheet(lead, duty, "test", NOW)).rejects.toMatchObject({ code: "taken-out" });
  const { faults } = await getImport(await checkImport(lead, "a.csv", [HEADER, ROW].join("\n"), NOW), NOW);
  expect(faults).toMatchObject([{ line: 2, column: "tag" }]);
});

it("is taken back with what it owed, and nothing that was out of force before", async () => {
  await takeBack(lead, machineId, NOW);
  const idle = await dutyOf("M-1", "ride-on-sweeper-100h");
  expect(must(await getDb().models.Duty.findByPk(idle, { raw: true })).active).toBe(false);
  expect(await dutiesInForce()).toBeGreaterThan(2);
  expect(must(await getDb().models.Duty.findByPk(duty, { raw: true })).dueOn).not.toBeNull();
  expect((await listMachines({ state: "stopped" })).rows.map((one) => one.tag)).toEqual(["M-1"]);
  await expect(openSheet(lead, duty, "test", NOW)).resolves.toMatch(/^[0-9a-f-]{36}$/);
});
