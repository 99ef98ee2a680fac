/**
 * Loads the demo firm into an empty database: people, register, procedures and a year of sheets, all through the same
 * services that the app uses. Dates are relative to now. `--fresh` empties the database first.
 */
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { v7 as uuidv7 } from "uuid";
import { emptyTables, getDb, migrate } from "../db/index";
import { CLOSURES, GATEWAY_METERS, OWN_DUTIES, PAUSES, PLANNED, REPORTS, SITES } from "../db/demo/register-story";
import { simulateRun } from "../db/demo/simulate-run";
import { DEMO_PASSWORD, EVENTS, METERS, OUTCOMES, PEOPLE, RUNS } from "../db/demo/story";
import type { Actor } from "../app/services/actor";
import { assessMachine } from "../app/services/assess.server";
import { applyImport, checkImport, claimImport } from "../app/services/imports.server";
import { logMachineEvent } from "../app/services/machines.server";
import { addMeter, logMeterReading } from "../app/services/meters.server";
import { findLink, makeLink } from "../app/services/links.server";
import { reportProblem } from "../app/services/operator.server";
import { addDuty, changePlan, OWN_DUTY, pause, planForEdit, putOnDay } from "../app/services/plans.server";
import { addClosure, changeSite } from "../app/services/sites.server";
import { hashPassword } from "../app/services/passwords.server";
import { publishProcedures, readProcedureFiles, shippedFolder } from "../app/services/procedures.server";
import { appendEvents, openRun, signRun } from "../app/services/runs.server";

const DAY_MS = 86_400_000;
const db = getDb();
const now = new Date();
/** Mid-morning on a day before today, so that a site's day is the one meant. */
const daysAgo = (days: number): Date => new Date(Math.floor(now.getTime() / DAY_MS) * DAY_MS - days * DAY_MS + 10.5 * 3_600_000);

await migrate(db.sequelize);
const fresh = process.argv.includes("--fresh");
const [{ total }] = (await db.select<{ total: number }>("SELECT COUNT(*) AS total FROM persons")) as [{ total: number }];
if (Number(total) > 0 && !fresh) {
  process.stdout.write("Demo data is loaded already.\n");
} else {
  if (fresh) await emptyTables(db);
  await load();
  process.stdout.write("Demo data loaded.\n");
}
await db.close();

async function load(): Promise<void> {
  const actors = await addPeople();
  await publishProcedures(readProcedureFiles(shippedFolder()), now);
  const start = daysAgo(385);
  const importId = await checkImport(actors.get("jonas")!, "machines.csv", readFileSync(join(process.cwd(), "db/demo/machines.csv"), "utf8"), start);
  await claimImport(importId, start);
  await applyImport(importId, start);
  const machines = new Map(
    (await db.select<{ id: string; tag: string; options: string[] }>("SELECT id, tag, options FROM machines")).map((row) => [row.tag, row]),
  );

  // In order of time, as it would have happened.
  const story = [
    ...METERS.flatMap(({ tag, meter, readings }) =>
      readings.map(([days, value]) => ({ days, work: () => logMeterReading(actors.get("mira")!, machines.get(tag)!.id, { meter, value }, daysAgo(days)) })),
    ),
    ...EVENTS.map(({ tag, event, daysAgo: days }) => ({
      days,
      work: () => logMachineEvent(actors.get("mira")!, machines.get(tag)!.id, { event, on: null, note: "" }, daysAgo(days)),
    })),
    ...RUNS.map((run) => ({ days: run.daysAgo, work: () => workSheet(actors.get(run.by)!, machines.get(run.tag)!, run) })),
    ...OUTCOMES.map((one) => ({ days: one.daysAgo, work: () => endSheet(actors.get(one.by)!, machines.get(one.tag)!.id, one) })),
  ].sort((a, b) => b.days - a.days);
  for (const { work } of story) await work();
  await setUpRegister(actors, machines);
  for (const machine of machines.values()) await assessMachine(machine.id, now);
}

async function addPeople(): Promise<Map<string, Actor>> {
  const passwordHash = await hashPassword(DEMO_PASSWORD);
  const actors = new Map<string, Actor>();
  for (const person of PEOPLE) {
    const id = uuidv7();
    await db.models.Person.create({
      id,
      name: person.name,
      signIn: person.signIn,
      passwordHash,
      role: person.role,
      active: true,
      mustChangePassword: false,
      demo: true,
      createdAt: now,
    });
    actors.set(person.signIn, { id, name: person.name, role: person.role, authorisations: [] });
  }
  const lead = actors.get("jonas")!;
  for (const person of PEOPLE) {
    for (const { kind, inDays } of person.authorisations) {
      await db.models.Authorisation.create({
        id: uuidv7(),
        personId: actors.get(person.signIn)!.id,
        kind,
        expiresOn: daysAgo(-inDays).toISOString().slice(0, 10),
        grantedBy: lead.id,
        grantedAt: now,
      });
    }
  }
  return actors;
}

/** Sites in full, duties of the machines' own, pauses, and what is put on days. */
async function setUpRegister(actors: Map<string, Actor>, machines: Map<string, { id: string }>): Promise<void> {
  const lead = actors.get("jonas")!;
  const day = (inDays: number): string => daysAgo(-inDays).toISOString().slice(0, 10);
  const sites = new Map((await db.models.Site.findAll({ raw: true })).map((site) => [site.name, site]));
  for (const [name, more] of Object.entries(SITES)) {
    const { id, customerId: _, ...settings } = sites.get(name)!;
    await changeSite(lead, id, { ...settings, ...more }, daysAgo(60));
  }
  for (const { site, fromInDays, toInDays, reason } of CLOSURES) {
    await addClosure(lead, sites.get(site)!.id, { fromOn: day(fromInDays), toOn: day(toInDays), reason }, daysAgo(3));
  }
  for (const { tag, ...meter } of GATEWAY_METERS) await addMeter(lead, machines.get(tag)!.id, meter, daysAgo(20));
  for (const duty of OWN_DUTIES) {
    const begun = daysAgo(duty.startDaysAgo);
    const planId = await addDuty(lead, machines.get(duty.tag)!.id, { procedureId: OWN_DUTY, title: duty.title }, begun);
    const { settings } = await planForEdit(planId, begun);
    const { rules, who = "technician", hardStop = false, minutes } = duty;
    await changePlan(lead, planId, { ...settings, rules, who, hardStop, minutes }, "Agreed with the customer", begun);
  }
  for (const { tag, fromDaysAgo, toInDays, reason } of PAUSES) {
    await pause(lead, machines.get(tag)!.id, { planId: null, fromOn: day(-fromDaysAgo), toOn: day(toInDays), reason }, daysAgo(fromDaysAgo));
  }
  for (const { tag, ...report } of REPORTS) {
    const link = await findLink(["operator"], await makeLink(lead, "operator", machines.get(tag)!.id, daysAgo(10)));
    await reportProblem(link!, { ...report, photo: null }, now);
  }
  for (const one of PLANNED) {
    await putOnDay(lead, [await planOf(machines.get(one.tag)!.id, one.procedure)], { on: day(one.inDays), personId: actors.get(one.for)!.id }, daysAgo(1));
  }
}

async function planOf(machineId: string, procedureId: string): Promise<string> {
  const plan = await db.models.Plan.findOne({ where: { machineId, procedureId }, raw: true });
  if (!plan) throw new Error(`No plan for ${procedureId}`);
  return plan.id;
}

async function workSheet(actor: Actor, machine: { id: string; options: string[] }, run: (typeof RUNS)[number]): Promise<void> {
  const planId = await planOf(machine.id, run.procedure);
  const procedure = (await db.models.Procedure.findOne({ where: { id: run.procedure }, raw: true }))!.body;
  const runId = uuidv7();
  const begin = daysAgo(run.daysAgo);
  const events = simulateRun({
    procedure,
    machine,
    runId,
    by: actor.id,
    startMs: begin.getTime(),
    newId: uuidv7,
    started: { type: "started", planId, procedureId: procedure.id, procedureVersion: procedure.version },
    ...(run.script ? { script: run.script } : {}),
  });
  const end = new Date(Date.parse(events.at(-1)!.at) + 60_000);
  const result = await appendEvents(actor, runId, events, end);
  if (result.refused.length > 0) throw new Error(JSON.stringify(result.refused[0]));
  const customer =
    run.daysAgo % 2 === 0 ? ({ method: "typed", name: "Kitchen desk" } as const) : ({ method: "not-present", reason: "Before opening, nobody there" } as const);
  const signed = await signRun(actor, runId, { customer, missingReason: null, device: "demo" }, end);
  if (!signed.signed) throw new Error(`${run.procedure}: ${JSON.stringify(signed.missing)}`);
}

async function endSheet(actor: Actor, machineId: string, one: (typeof OUTCOMES)[number]): Promise<void> {
  const at = daysAgo(one.daysAgo);
  const runId = await openRun(actor, await planOf(machineId, one.procedure), "demo", at);
  await appendEvents(
    actor,
    runId,
    [{ id: uuidv7(), runId, at: at.toISOString(), by: actor.id, device: "demo", type: "outcome", outcome: one.outcome, reason: one.reason }],
    at,
  );
}
