/**
 * Loads the demo firm into an empty database: people, register, procedures and a year of sheets, all through the same
 * services that the app uses. Dates are relative to now. `--fresh` empties the database first.
 */
import { readFileSync } from "node:fs";
import { join } from "node:path";

import { v7 as uuidv7 } from "uuid";

import { putOnDay } from "~/round/day/put-on-day.server";
import { appendEntries } from "~/sheet/log/append-entries.server";
import { recentValues } from "~/sheet/log/past-values.server";
import { slotsOf } from "~/sheet/log/sheet-context.server";

import { assessMachine } from "../app/duties/assess.server";
import { addDuty, changeDuty, dutyForEdit, pause } from "../app/duties/duties.server";
import { OWN_DUTY } from "../app/duties/general-procedures";
import type { Actor } from "../app/kit/actor";
import { weekdayOf } from "../app/kit/days/day-time";
import { firmDay } from "../app/kit/days/firm-day.server";
import { findLink, makeLink } from "../app/kit/server/links.server";
import { logOccurrence } from "../app/machines/machines.server";
import { addMeter, logMeterReading } from "../app/machines/meters.server";
import { applyImport, checkImport, claimImport } from "../app/machines/register/imports.server";
import { addClosure, changeSite } from "../app/machines/sites/sites.server";
import { reportProblem } from "../app/outside/operator.server";
import { saveLetterhead } from "../app/people/letterhead.server";
import { publishShipped } from "../app/procedures/guides/guides.server";
import { getProcedure } from "../app/procedures/procedures.server";
import { planAndKeep, proposeAndPut } from "../app/round/day/day.server";
import { addInstrument } from "../app/sheet/instruments.server";
import { type PastSheet, storePastSheets } from "../app/sheet/log/history.server";
import { openSheet } from "../app/sheet/log/sheets.server";
import { signSheet } from "../app/sheet/log/sign-sheets.server";
import { summariseMissing } from "../app/sheet/summaries/summaries.server";
import { addDays, type MachineFacts, type Procedure } from "../core/index";
import { must } from "../core/must";
import { askedAbout } from "../db/demo/asked-about";
import { DUST } from "../db/demo/condenser-story";
import { FAULTS } from "../db/demo/faults-story";
import { pastYear } from "../db/demo/history";
import {
  CLOSURES,
  DEPOT,
  GATEWAY_METERS,
  INSTRUMENTS,
  LAST_DONE,
  MACHINE_HOURS,
  NEXT_DAY,
  OWN_DUTIES,
  OWN_METERS,
  PAUSES,
  PLANNED,
  REPORTS,
  SITES,
  TODAY,
  UNSAFE,
} from "../db/demo/register-story";
import { simulateSheet } from "../db/demo/simulate-sheet";
import { EVENTS, METERS, OUTCOMES, SHEETS } from "../db/demo/story";
import { broomsRenewed } from "../db/demo/sweeper-year";
import { emptyTables, getDb, migrate } from "../db/index";
import { workFault } from "./demo-faults";
import { closeOldItems } from "./demo-left";
import { pastSheet, toldMeters } from "./demo-past";
import { addPeople } from "./demo-people";
import { runTheStores, setUpStores, stockTheStory, stockTheYear } from "./demo-stores";

const DAY_MS = 86_400_000;
const db = getDb();
const now = new Date();
/** Mid-morning on a day before today, so that a site's day is the one meant. */
const daysAgo = (days: number): Date =>
  new Date(Math.floor(now.getTime() / DAY_MS) * DAY_MS - days * DAY_MS + 10.5 * 3_600_000);

await migrate(db.sequelize);
const fresh = process.argv.includes("--fresh");
const [{ total }] = (await db.select<{ total: number }>("SELECT COUNT(*) AS total FROM persons")) as [
  { total: number },
];
if (total > 0 && !fresh) {
  await summariseMissing();
  process.stdout.write("Demo data is loaded already.\n");
} else {
  if (fresh) await emptyTables(db);
  await load();
  process.stdout.write("Demo data loaded.\n");
}
await db.close();

async function load(): Promise<void> {
  const actors = await addPeople(now, daysAgo);
  await saveLetterhead(
    must(actors.get("jonas")),
    { name: "Two Vans Island Service", lines: "Boat Lane 4, Home Island\nDesk: radio channel 12" },
    daysAgo(385),
  );
  await publishShipped(now);
  const start = daysAgo(385);
  const importId = await checkImport(
    must(actors.get("jonas")),
    "machines.csv",
    readFileSync(join(process.cwd(), "db/demo/machines.csv"), "utf8"),
    start,
  );
  await claimImport(importId, start);
  await applyImport(importId, start);
  const machines = new Map(
    (await db.select<{ id: string; tag: string; options: string[] }>("SELECT id, tag, options FROM machines")).map(
      (row) => [row.tag, row],
    ),
  );

  const stores = await setUpStores(actors);
  const sheets = await loadYear(actors);
  await stockTheYear(stores, must(actors.get("jonas")), sheets);
  const brooms = broomsRenewed(SHEETS, (tag) => must(machines.get(tag)).options.includes("side-brooms"));
  await stockTheStory(
    stores,
    must(actors.get("jonas")),
    brooms.map(({ by, ...broom }) => ({ personId: must(actors.get(by)).id, ...broom })),
  );
  for (const { site, dust } of DUST) await db.models.Site.update({ dust }, { where: { name: site } });
  // In order of time, as it would have happened.
  const story = [
    ...METERS.flatMap(({ tag, meter, readings }) =>
      readings.map(([days, value]) => ({
        days,
        work: () =>
          logMeterReading(must(actors.get("mira")), must(machines.get(tag)).id, { meter, value }, daysAgo(days)),
      })),
    ),
    ...EVENTS.map(({ tag, event, daysAgo: days }) => ({
      days,
      work: () =>
        logOccurrence(
          must(actors.get("mira")),
          must(machines.get(tag)).id,
          { event, on: null, note: "" },
          daysAgo(days),
        ),
    })),
    ...SHEETS.map((run) => ({
      days: run.daysAgo,
      work: () => workSheet(must(actors.get(run.by)), must(machines.get(run.tag)), run),
    })),
    ...OUTCOMES.map((one) => ({
      days: one.daysAgo,
      work: () => endSheet(must(actors.get(one.by)), must(machines.get(one.tag)).id, one),
    })),
    ...FAULTS.map((one) => ({
      days: one.daysAgo,
      work: () => workFault({ actors, machines }, one, daysAgo(one.daysAgo)),
    })),
  ].sort((a, b) => b.days - a.days);
  for (const { work } of story) await work();
  await setUpRegister(actors, machines);
  for (const { dueInDays, ...one } of INSTRUMENTS) {
    const calibrationDue = dueInDays === null ? null : daysAgo(-dueInDays).toISOString().slice(0, 10);
    await addInstrument(must(actors.get("jonas")), { ...one, calibrationDue }, daysAgo(200));
  }
  await closeOldItems(must(actors.get("jonas")), now);
  await findUnsafe(must(actors.get(UNSAFE.by)), must(machines.get(UNSAFE.tag)).id);
  for (const machine of machines.values()) await assessMachine(machine.id, now);
  await runTheStores(stores, must(actors.get("jonas")));
  if (process.argv.includes("--with-day")) await planDays(must(actors.get("mira")));
}

/** A round for today, so that the demo opens on one, and one for the next working day, for what is said before. */
async function planDays(person: Actor): Promise<void> {
  const { on } = await firmDay(now);
  await putRound(person, on, TODAY);
  await proposeAndPut(person, person, on, now);
  await planAndKeep(person, person.id, on, null, now);
  let next = addDays(on, 1);
  while (weekdayOf(next) > 5) next = addDays(next, 1);
  // As it is: other work there would fill the time that the oven cools.
  await putRound(person, next, NEXT_DAY);
  await planAndKeep(person, person.id, next, null, now);
}

async function putRound(person: Actor, on: string, work: typeof TODAY): Promise<void> {
  for (const { tag, procedure } of work) {
    const machine = await db.models.Machine.findOne({ where: { tag }, raw: true });
    await putOnDay(person, [await dutyOf(must(machine).id, procedure)], { on, personId: person.id }, now);
  }
}

/** Sites in full, duties of the machines' own, pauses, and what is put on days. */
async function setUpRegister(actors: Map<string, Actor>, machines: Map<string, { id: string }>): Promise<void> {
  const lead = must(actors.get("jonas"));
  const day = (inDays: number): string => daysAgo(-inDays).toISOString().slice(0, 10);
  const sites = new Map((await db.models.Site.findAll({ raw: true })).map((site) => [site.name, site]));
  for (const [name, more] of Object.entries(SITES)) {
    const { id, customerId: _, ...settings } = must(sites.get(name));
    await changeSite(lead, id, { ...settings, ...more }, daysAgo(60));
  }
  await db.run(
    "INSERT INTO depots (id, name, time_zone, latitude, longitude) VALUES (:id, :name, :timeZone, :latitude, :longitude)",
    {
      id: uuidv7(),
      ...DEPOT,
    },
  );
  for (const { tag, ...hours } of MACHINE_HOURS) await db.models.Machine.update(hours, { where: { tag } });
  for (const { site, fromInDays, toInDays, reason } of CLOSURES) {
    await addClosure(
      lead,
      must(sites.get(site)).id,
      { fromOn: day(fromInDays), toOn: day(toInDays), reason },
      daysAgo(3),
    );
  }
  for (const { tag, ...meter } of [...GATEWAY_METERS, ...OWN_METERS])
    await addMeter(lead, must(machines.get(tag)).id, meter, daysAgo(20));
  for (const duty of OWN_DUTIES) {
    const begun = daysAgo(duty.startDaysAgo);
    const dutyId = await addDuty(
      lead,
      must(machines.get(duty.tag)).id,
      { procedureId: OWN_DUTY, title: duty.title },
      begun,
    );
    const { settings } = await dutyForEdit(dutyId, begun);
    const { rules, who = "technician", hardStop = false, minutes } = duty;
    await changeDuty(
      lead,
      dutyId,
      { settings: { ...settings, rules, who, hardStop, minutes }, reason: "Agreed with the customer" },
      begun,
    );
  }
  for (const { tag, fromDaysAgo, toInDays, reason } of PAUSES) {
    await pause(
      lead,
      must(machines.get(tag)).id,
      { dutyId: null, fromOn: day(-fromDaysAgo), toOn: day(toInDays), reason },
      daysAgo(fromDaysAgo),
    );
  }
  for (const { tag, ...report } of REPORTS) {
    const link = await findLink(
      ["operator"],
      await makeLink(lead, "operator", must(machines.get(tag)).id, daysAgo(10)),
    );
    await reportProblem(must(link), { ...report, photo: null }, now);
  }
  for (const one of PLANNED) {
    await putOnDay(
      lead,
      [await dutyOf(must(machines.get(one.tag)).id, one.procedure)],
      { on: day(one.inDays), personId: must(actors.get(one.for)).id },
      daysAgo(1),
    );
  }
}

/** A year of sheets that the story does not tell one by one, taken over in bulk; operators' duties as ticked off. */
async function loadYear(actors: Map<string, Actor>): Promise<PastSheet[]> {
  const told = new Set([...SHEETS, ...OUTCOMES].map((one) => `${one.tag} ${one.procedure}`));
  const rows = await db.select<{
    dutyId: string;
    machineId: string;
    tag: string;
    options: string[];
    procedureId: string;
    who: string;
    timeZone: string;
  }>(
    `SELECT p.id AS dutyId, m.id AS machineId, m.tag, m.options, p.procedure_id AS procedureId, p.who, s.time_zone AS timeZone
     FROM duties p JOIN machines m ON m.id = p.machine_id JOIN sites s ON s.id = m.site_id ORDER BY m.tag, p.procedure_id`,
  );
  const procedures = new Map<string, Procedure>();
  for (const { procedureId } of rows)
    if (!procedures.has(procedureId)) procedures.set(procedureId, await getProcedure(procedureId));
  const hands = [must(actors.get("mira")), must(actors.get("tove"))];
  const sheets: PastSheet[] = [];
  const ticked: {
    id: string;
    dutyId: string;
    machineId: string;
    doneOn: string;
    meters: Record<string, number>;
    sheetId: null;
  }[] = [];
  for (const tag of new Set(rows.map((row) => row.tag))) {
    const of = rows.filter((row) => row.tag === tag && !told.has(`${tag} ${row.procedureId}`));
    const [first] = of;
    if (!first) continue;
    const seed = Array.from(tag).reduce((sum, letter) => sum * 31 + letter.charCodeAt(0), 7);
    const duties = of.map((row) => ({
      dutyId: row.dutyId,
      procedure: must(procedures.get(row.procedureId)),
      lastDone: LAST_DONE[`${tag} ${row.procedureId}`],
    }));
    const slots: NonNullable<MachineFacts["slots"]> = {};
    for (const past of pastYear(
      { id: first.machineId, facts: { options: first.options }, seed, told: toldMeters(tag, procedures) },
      duties,
    )) {
      if (past.procedure.who === "operator") {
        ticked.push({
          id: uuidv7(),
          dutyId: past.dutyId,
          machineId: first.machineId,
          doneOn: daysAgo(past.daysAgo).toISOString().slice(0, 10),
          meters: {},
          sheetId: null,
        });
        continue;
      }
      const actor = must(hands[(past.daysAgo + seed) % 2]);
      sheets.push(pastSheet(actor, { ...first, slots }, past, daysAgo(past.daysAgo)));
    }
  }
  sheets.sort((a, b) => (must(a.entries.at(-1)).at < must(b.entries.at(-1)).at ? -1 : 1));
  await storePastSheets(sheets, now);
  await db.models.Completion.bulkCreate(ticked);
  return sheets;
}

/** A sheet left open with an unsafe finding: the machine is out of service. */
async function findUnsafe(actor: Actor, machineId: string): Promise<void> {
  const at = daysAgo(UNSAFE.daysAgo);
  const sheetId = await openSheet(actor, await dutyOf(machineId, UNSAFE.procedure), "demo", at);
  const logged = { id: uuidv7(), runId: sheetId, at: new Date(at.getTime() + 60_000).toISOString(), by: actor.id };
  const finding = { ...logged, device: "demo", type: "finding", text: UNSAFE.text, severity: "unsafe" };
  const { refused } = await appendEntries(actor, sheetId, [finding], at);
  if (refused[0]) throw new Error(refused[0].message);
}

async function dutyOf(machineId: string, procedureId: string): Promise<string> {
  const duty = await db.models.Duty.findOne({ where: { machineId, procedureId }, raw: true });
  if (!duty) throw new Error(`No plan for ${procedureId}`);
  return duty.id;
}

async function workSheet(
  actor: Actor,
  machine: { id: string; options: string[] },
  run: (typeof SHEETS)[number],
): Promise<void> {
  const dutyId = await dutyOf(machine.id, run.procedure);
  const procedure = await getProcedure(run.procedure);
  const sheetId = uuidv7();
  const begin = daysAgo(run.daysAgo);
  const entries = simulateSheet({
    procedure,
    machine: { ...machine, slots: await slotsOf(machine.id) },
    sheetId,
    by: actor.id,
    startMs: begin.getTime(),
    newId: uuidv7,
    started: { type: "started", planId: dutyId, procedureId: procedure.id, procedureVersion: procedure.version },
    ...(run.script ? { script: run.script } : {}),
  });
  const end = new Date(Date.parse(must(entries.at(-1)).at) + 60_000);
  const asked = askedAbout(procedure, entries, await recentValues(machine.id));
  const result = await appendEntries(actor, sheetId, asked, end);
  if (result.refused.length > 0) throw new Error(JSON.stringify(result.refused[0]));
  const customer =
    run.daysAgo % 2 === 0
      ? ({ method: "typed", name: "Kitchen desk" } as const)
      : ({ method: "not-present", reason: "Before opening, nobody there" } as const);
  const signed = await signSheet(actor, sheetId, { customer, missingReason: null, device: "demo" }, end);
  if (!signed.signed) throw new Error(`${run.procedure}: ${JSON.stringify(signed.missing)}`);
}

async function endSheet(actor: Actor, machineId: string, one: (typeof OUTCOMES)[number]): Promise<void> {
  const at = daysAgo(one.daysAgo);
  const sheetId = await openSheet(actor, await dutyOf(machineId, one.procedure), "demo", at);
  const logged = { id: uuidv7(), runId: sheetId, at: at.toISOString(), by: actor.id, device: "demo" };
  const { outcome, reason } = one;
  const { refused } = await appendEntries(actor, sheetId, [{ ...logged, type: "outcome", outcome, reason }], at);
  if (refused[0]) throw new Error(refused[0].message);
}
