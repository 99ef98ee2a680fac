import { must } from "@core";
import { type DutyRules, getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { getProcedure } from "~/procedures/procedures.server";
import { addActor, closeDatabase, freshDatabase, importLines, publishShipped } from "~/testing/database";

import { addDuty, changeDuty, dutyForEdit } from "./duties.server";
import { OWN_DUTY } from "./general-procedures";
import { notUsableYet } from "./usable-again.server";

/** A Friday evening in the Azores, where it is an hour earlier than by UTC in summer. */
const FRIDAY = new Date("2026-06-12T17:30:00Z");
const ZONE = "Atlantic/Azores";
const hours = (count: number): Date => new Date(FRIDAY.getTime() + count * 3_600_000);
let lead: Actor;
let machineId: string;
let drain: string;
let refill: string;
let large: string;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  lead = await addActor("Lea", "lead");
  await importLines(lead, [`Co,Works,,${ZONE},,,Hall,P-1,Mill,dental-mill,,2026-06-01`], FRIDAY);
  machineId = must(await getDb().models.Machine.findOne({ where: { tag: "P-1" }, raw: true })).id;
  const own = (title: string): Promise<string> => addDuty(lead, machineId, { procedureId: OWN_DUTY, title }, FRIDAY);
  drain = await own("Drain");
  refill = await own("Refill");
  large = await own("Large service");
});
beforeEach(() => getDb().run("DELETE FROM completions", {}));
afterAll(closeDatabase);

const setRules = async (dutyId: string, more: Partial<DutyRules>): Promise<void> => {
  const { settings } = await dutyForEdit(dutyId, FRIDAY);
  const rules: DutyRules = { triggers: settings.rules.triggers, ...more };
  await changeDuty(lead, dutyId, { settings: { ...settings, rules }, reason: "test" }, FRIDAY);
};
/** Worked on a sheet that was closed then, as a signature stores it. */
const done = async (dutyId: string, at: Date, credits: string[] | null = null): Promise<void> => {
  const id = uuidv7();
  const doneOn = at.toISOString().slice(0, 10);
  const { models } = getDb();
  await models.Sheet.create({
    id,
    dutyId,
    machineId,
    procedureId: OWN_DUTY,
    procedureVersion: (await getProcedure(OWN_DUTY)).version,
    openedBy: lead.id,
    openedAt: at,
    status: "signed",
    closedAt: at,
    closedBy: lead.id,
    doneOn,
    outcome: null,
    outcomeReason: null,
    openDutyId: null,
    heldBy: null,
  });
  await models.Completion.create({ id, dutyId, machineId, doneOn, meters: {}, sheetId: id, credits });
};
const why = (now: Date): Promise<string[]> => notUsableYet(machineId, ZONE, now);

it("keeps the machine from use for the hours of the last work, and says until when by the site's clock", async () => {
  await setRules(drain, { notUntil: { hours: 12 } });
  expect(await why(FRIDAY)).toEqual([]);
  await done(drain, hours(-48));
  await done(drain, FRIDAY);
  expect(await why(hours(1))).toEqual(["Not before Saturday 13 June, 05:30: “Drain” was done on Friday 12 June."]);
  expect(await why(hours(11.99))).toHaveLength(1);
  expect(await why(hours(12))).toEqual([]);
});

it("or until another duty was done after it, by itself or within a larger service", async () => {
  await setRules(drain, { notUntil: { done: refill } });
  await done(refill, hours(-24));
  await done(drain, FRIDAY);
  const waits = ["Not before “Refill” is done: “Drain” was done on Friday 12 June."];
  expect(await why(hours(40))).toEqual(waits);
  // What was not earned within the larger service does not count.
  await done(large, hours(42), [large]);
  expect(await why(hours(43))).toEqual(waits);
  await done(large, hours(44), [large, refill]);
  expect(await why(hours(45))).toEqual([]);
});

it("counts from the end of the day when nobody knows the hour", async () => {
  await setRules(drain, { notUntil: { hours: 2 } });
  await getDb().models.Completion.create({
    id: uuidv7(),
    dutyId: drain,
    machineId,
    doneOn: "2026-06-12",
    meters: {},
    sheetId: null,
    credits: null,
  });
  expect(await why(hours(2))).toHaveLength(1);
  expect(await why(hours(9))).toEqual([]);
});

it("says nothing of a duty that is not in force", async () => {
  await setRules(drain, { notUntil: { hours: 12 } });
  await done(drain, FRIDAY);
  const { settings } = await dutyForEdit(drain, FRIDAY);
  await changeDuty(lead, drain, { settings: { ...settings, active: false }, reason: "test" }, FRIDAY);
  expect(await why(hours(1))).toEqual([]);
});
