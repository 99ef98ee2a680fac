import { must } from "@core";
import { getDb, type MachineRow, Op, type PhotoRow, type SiteRow, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import { assessMachine, assessMachines } from "~/duties/assess.server";
import { type NextDuty, nextOfMachines } from "~/duties/due.server";
import type { Actor } from "~/kit/actor";
import { dayInZone } from "~/kit/days/site-day";
import { exactFirst } from "~/kit/exact-first";
import { Refusal } from "~/kit/refusal";
import { audit, zoneOf } from "~/kit/server/audit.server";
import { beginningsOf, likeText } from "~/kit/server/like-text.server";
import { type FieldWords, refuseIfChanged } from "~/kit/server/meanwhile.server";
import { storePhoto } from "~/kit/server/photos.server";
import { COLUMNS, type MachineRecord, writeMachineCsv, writeMachineJson } from "~/machines/register/machine-csv.server";

import * as sql from "./machines.sql";
import { PAGE } from "./machines.sql";

export interface MachineListRow {
  id: string;
  tag: string;
  name: string;
  family: string;
  area: string;
  serial: string;
  siteName: string;
  customerName: string;
  outOfService: boolean;
  /** What its sheets have left open. */
  leftOpen: number;
}

/** A page of the register, by name; one query. Words are matched by their beginnings, tags and serials too. */
export async function listMachines(
  filter: sql.MachineFilter,
): Promise<{ rows: MachineListRow[]; next: string | null }> {
  if (filter.siteIds?.length === 0) return { rows: [], next: null };
  const split = filter.after?.lastIndexOf("_") ?? -1;
  const afterName = split > 0 ? must(filter.after).slice(0, split) : "";
  const afterId = split > 0 ? must(filter.after).slice(split + 1) : "";
  const rows = await sql.machinePage(
    {
      words: beginningsOf(filter.q ?? ""),
      prefix: `${likeText(filter.q ?? "")}%`,
      family: filter.family ?? "",
      siteIds: filter.siteIds ?? [],
      afterName,
      afterId,
    },
    filter,
    afterId,
  );
  const page = rows.slice(0, PAGE);
  const last = page[page.length - 1];
  return { rows: page, next: rows.length > PAGE && last ? `${last.name}_${last.id}` : null };
}

/** Machines whose name, tag or serial number begins so, taken out or not; what is called exactly so before all others. */
export async function machinesCalled(
  text: string,
  most: number,
): Promise<readonly { id: string; name: string; tag: string }[]> {
  const found = await sql.machinesLike({ words: beginningsOf(text), prefix: `${likeText(text)}%` }, most);
  return exactFirst(found, text, (row) => row.name);
}

export type MachineWithNext = MachineListRow & { next: NextDuty | null };

/** {@link listMachines} with what comes next on each: one query more. */
export async function listMachinesWithNext(
  filter: sql.MachineFilter,
  now: Date,
): Promise<{ rows: MachineWithNext[]; next: string | null }> {
  const { rows, next } = await listMachines(filter);
  const duties = await nextOfMachines(
    rows.map((row) => row.id),
    now,
  );
  return { rows: rows.map((row) => ({ ...row, next: duties.get(row.id) ?? null })), next };
}

export async function countMachines(): Promise<number> {
  return getDb().models.Machine.count({ where: { retiredOn: null } });
}

/** Families in use, for the filter. */
export async function listFamilies(): Promise<string[]> {
  return (await sql.families()).map((row) => row.family);
}

export interface MachineView {
  machine: MachineRow;
  site: SiteRow & { customerName: string };
  meters: { meter: string; value: number; readAt: Date }[];
  sheets: {
    id: string;
    title: string;
    status: string;
    outcome: string | null;
    closedAt: Date | null;
    openedAt: Date;
  }[];
  occurrences: { event: string; on: string; note: string }[];
}

/** What a page about one matter of a machine is headed with. */
export interface MachineHead {
  id: string;
  name: string;
  tag: string;
  area: string;
  siteName: string;
  timeZone: string;
}

export async function machineHead(id: string): Promise<MachineHead> {
  const [head] = await sql.machineHead({ id });
  if (!head) throw new Refusal(404, "no-such-machine", "This machine is not in the register.");
  return head;
}

/** A machine with its site, last meter values and latest sheets. */
export async function getMachine(id: string): Promise<MachineView> {
  const db = getDb();
  const machine = await db.models.Machine.findByPk(id, { raw: true });
  if (!machine) throw new Refusal(404, "no-such-machine", "This machine is not in the register.");
  const site = await db.models.Site.findByPk(machine.siteId, { raw: true });
  const customer = await db.models.Customer.findByPk(must(site).customerId, { raw: true });
  const meters = await sql.latestMeters({ id });
  const sheets = await sql.latestSheets({ id });
  const occurrences = (
    await db.models.Occurrence.findAll({
      attributes: ["event", "happensOn", "note"],
      where: { machineId: id },
      order: [
        ["happensOn", "DESC"],
        ["id", "DESC"],
      ],
      limit: 8,
      raw: true,
    })
  ).map(({ event, happensOn, note }) => ({ event, on: happensOn, note }));
  // Two values read at the same instant (a counter and its reset): the later id is the last.
  const last = new Map(meters.map((one) => [one.meter, one]));
  return {
    machine,
    site: { ...must(site), customerName: must(customer).name },
    meters: [...last.values()],
    sheets,
    occurrences,
  };
}

/** Logs that something happened on a machine (a run ended, a light came on) and re-assesses its duties. */
export async function logOccurrence(
  actor: Actor,
  machineId: string,
  input: { event: string; on: string | null; note: string },
  now: Date,
): Promise<void> {
  const db = getDb();
  const happensOn = input.on ?? dayInZone(now, await zoneOf(machineId));
  await db.transact(async (tx) => {
    await db.models.Occurrence.create(
      { id: uuidv7(), machineId, event: input.event, happensOn, note: input.note, byPerson: actor.id, loggedAt: now },
      { transaction: tx },
    );
    await assessMachine(machineId, now, tx);
  });
}

export type MachineSettings = Pick<
  MachineRow,
  | "name"
  | "area"
  | "position"
  | "maker"
  | "model"
  | "serial"
  | "options"
  | "documents"
  | "notes"
  | "freeHours"
  | "readyBy"
>;

/** The form's fields, for who changes a machine that somebody else has changed. */
export const MACHINE_WORDS: FieldWords<MachineSettings> = {
  name: ["Name"],
  area: ["Area"],
  position: ["Where it stands"],
  freeHours: ["Free for work"],
  readyBy: ["Ready by"],
  maker: ["Maker"],
  model: ["Model"],
  serial: ["Serial"],
  options: ["Fitted options"],
  documents: ["Documents", (documents) => documents.map((one) => `${one.title} ${one.href}`).join("\n")],
  notes: ["Notes"],
};

/** Changes a machine's facts; a serial number that stands under another tag is refused. */
export async function changeMachine(
  actor: Actor,
  id: string,
  { settings, photo = null, seen = null }: { settings: MachineSettings; photo?: PhotoRow | null; seen?: string | null },
  now: Date,
): Promise<void> {
  const db = getDb();
  await db.transact(async (tx) => {
    const before = await db.models.Machine.findByPk(id, { raw: true, transaction: tx, lock: tx.LOCK.UPDATE });
    if (!before) throw new Refusal(404, "no-such-machine", "This machine is not in the register.");
    await refuseIfChanged({ subject: "machine", subjectId: id, seen, theirs: before, yours: settings }, MACHINE_WORDS);
    await refuseTwin(settings, id, tx);
    if (photo) await storePhoto(photo, tx);
    await db.models.Machine.update(
      { ...settings, ...(photo ? { photoId: photo.id } : {}) },
      { where: { id }, transaction: tx },
    );
    await audit(
      {
        by: actor,
        subject: "machine",
        subjectId: id,
        action: "changed",
        details: { old: pick(before, settings), new: settings },
        now,
      },
      tx,
    );
  });
}

/** A maker gives a serial number once: another machine that has it is told. */
export async function refuseTwin(
  { serial, maker, model }: Pick<MachineRow, "serial" | "maker" | "model">,
  id: string | null,
  tx?: Transaction,
): Promise<void> {
  if (serial === "") return;
  const twin = await getDb().models.Machine.findOne({
    attributes: ["tag"],
    where: { serial, maker, model, ...(id === null ? {} : { id: { [Op.ne]: id } }) },
    raw: true,
    ...(tx ? { transaction: tx } : {}),
  });
  if (twin) throw new Refusal(409, "serial", `Machine ${twin.tag} has the same maker, model and serial number.`);
}

function pick(row: MachineRow, settings: MachineSettings): Partial<MachineRow> {
  return Object.fromEntries(Object.keys(settings).map((name) => [name, row[name as keyof MachineRow]]));
}

/** Most machines changed in one go. */
export const MAX_BULK = 500;

export interface BulkChange {
  area: string | null;
  siteId: string | null;
  addOption: string | null;
  dropOption: string | null;
}

/** Changes many machines alike, all or none; their duties follow a move to another site. */
export async function changeMachines(
  actor: Actor,
  ids: readonly string[],
  change: BulkChange,
  now: Date,
): Promise<number> {
  if (ids.length === 0) throw new Refusal(422, "none", "Choose at least one machine.");
  if (ids.length > MAX_BULK) throw new Refusal(413, "too-many", `Change at most ${MAX_BULK} machines in one go.`);
  if (Object.values(change).every((value) => value === null))
    throw new Refusal(422, "nothing", "Say what to change: area, site or option.");
  const db = getDb();
  return db.transact(async (tx) => {
    const machines = await db.models.Machine.findAll({
      where: { id: ids as string[] },
      raw: true,
      transaction: tx,
      lock: tx.LOCK.UPDATE,
    });
    if (change.siteId && !(await db.models.Site.findByPk(change.siteId, { raw: true, transaction: tx })))
      throw new Refusal(404, "no-such-site", "This site is not in the register.");
    for (const machine of machines) {
      const options = machine.options.filter((option) => option !== change.dropOption);
      if (change.addOption && !options.includes(change.addOption)) options.push(change.addOption);
      const next = { area: change.area ?? machine.area, siteId: change.siteId ?? machine.siteId, options };
      await db.models.Machine.update(next, { where: { id: machine.id }, transaction: tx });
      await audit(
        {
          by: actor,
          subject: "machine",
          subjectId: machine.id,
          action: "changed",
          details: { old: { area: machine.area, siteId: machine.siteId, options: machine.options }, new: next },
          now,
        },
        tx,
      );
    }
    if (change.siteId) {
      await db.models.Duty.update({ siteId: change.siteId }, { where: { machineId: [...ids] }, transaction: tx });
      await assessMachines(ids, now, tx);
    }
    return machines.length;
  });
}

/** The whole register. */
async function readRegister(): Promise<MachineRecord[]> {
  return sql.registerPage();
}

export async function exportMachines(form: "csv" | "json" = "csv"): Promise<string> {
  const records = await readRegister();
  return form === "json" ? writeMachineJson(records) : writeMachineCsv(records);
}

export { COLUMNS };

/** How many values wait for a person, on all machines. */
export function parkedInAll(): Promise<number> {
  return getDb().models.ParkedReading.count({ where: { settledAt: null } });
}

/** How many of a machine's values wait for a person to look at them. */
export const parkedOf = (machineId: string): Promise<number> =>
  getDb().models.ParkedReading.count({ where: { machineId, settledAt: null } });
