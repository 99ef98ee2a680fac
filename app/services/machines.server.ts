import { v7 as uuidv7 } from "uuid";
import type { Trigger } from "@core";
import { getDb, type MachineRow, type PlanRules, type SiteRow } from "@db";
import { dayInZone } from "~/shared/site-day";
import type { Actor } from "./actor";
import { assessMachine } from "./assess.server";
import { COLUMNS, writeMachineCsv, type MachineRecord } from "./machine-csv.server";
import { zoneOf } from "./machine-access.server";
import { newestProcedures } from "./procedures.server";
import { Refusal } from "./refusal";

export interface MachineListRow {
  id: string;
  tag: string;
  name: string;
  family: string;
  area: string;
  serial: string;
  siteName: string;
  customerName: string;
}

const PAGE = 50;
/** Each branch has an index of its own; one WHERE with OR would read the whole register. */
const FOUND_BY_WORDS = `
  SELECT id FROM machines WHERE MATCH (name, tag, serial, maker, model, area) AGAINST (:words IN BOOLEAN MODE)
  UNION SELECT id FROM machines WHERE tag LIKE :prefix
  UNION SELECT id FROM machines WHERE serial LIKE :prefix
  UNION SELECT x.id FROM machines x JOIN sites y ON y.id = x.site_id WHERE y.name LIKE :prefix`;

/** A page of the register, by name; one query. Words are matched by their beginnings, tags and serials too. */
export async function listMachines(filter: {
  q?: string | null;
  family?: string | null;
  siteId?: string | null;
  after?: string | null;
}): Promise<{ rows: MachineListRow[]; next: string | null }> {
  const words = (filter.q ?? "").match(/[\p{L}\p{N}]+/gu) ?? [];
  const split = filter.after?.lastIndexOf("_") ?? -1;
  const afterName = split > 0 ? filter.after!.slice(0, split) : "";
  const afterId = split > 0 ? filter.after!.slice(split + 1) : "";
  const rows = await getDb().select<MachineListRow>(
    `SELECT m.id, m.tag, m.name, m.family, m.area, m.serial, s.name AS siteName, c.name AS customerName
     FROM machines m JOIN sites s ON s.id = m.site_id JOIN customers c ON c.id = s.customer_id
     WHERE 1 = 1
       ${(filter.q ?? "").trim() !== "" ? `AND m.id IN (${FOUND_BY_WORDS})` : ""}
       ${filter.family ? "AND m.family = :family" : ""}
       ${filter.siteId ? "AND m.site_id = :siteId" : ""}
       ${afterId ? "AND (m.name > :afterName OR (m.name = :afterName AND m.id > :afterId))" : ""}
     ORDER BY m.name, m.id LIMIT ${PAGE + 1}`,
    {
      words: words.map((word) => `+${word}*`).join(" "),
      prefix: `${(filter.q ?? "").trim().replace(/[%_\\]/g, "\\$&")}%`,
      family: filter.family ?? "",
      siteId: filter.siteId ?? "",
      afterName,
      afterId,
    },
  );
  const page = rows.slice(0, PAGE);
  const last = page[page.length - 1];
  return { rows: page, next: rows.length > PAGE && last ? `${last.name}_${last.id}` : null };
}

export async function countMachines(): Promise<number> {
  const [row] = await getDb().select<{ total: number }>("SELECT COUNT(*) AS total FROM machines");
  return Number(row?.total ?? 0);
}

/** Families in use, for the filter. */
export async function listFamilies(): Promise<string[]> {
  return (await getDb().select<{ family: string }>("SELECT DISTINCT family FROM machines ORDER BY family")).map((row) => row.family);
}

export async function listSites(): Promise<{ id: string; name: string; customerName: string }[]> {
  return getDb().select("SELECT s.id, s.name, c.name AS customerName FROM sites s JOIN customers c ON c.id = s.customer_id ORDER BY s.name LIMIT 500");
}

export interface MachineView {
  machine: MachineRow;
  site: SiteRow & { customerName: string };
  meters: { meter: string; value: number; readAt: Date }[];
  runs: { id: string; title: string; status: string; outcome: string | null; closedAt: Date | null; openedAt: Date }[];
  events: { event: string; on: string; note: string }[];
}

/** A machine with its site, last meter values and latest sheets. */
export async function getMachine(id: string): Promise<MachineView> {
  const db = getDb();
  const machine = await db.models.Machine.findByPk(id, { raw: true });
  if (!machine) throw new Refusal(404, "no-such-machine", "This machine is not in the register.");
  const site = await db.models.Site.findByPk(machine.siteId, { raw: true });
  const customer = await db.models.Customer.findByPk(site!.customerId, { raw: true });
  const meters = await db.select<MachineView["meters"][number]>(
    `SELECT r.meter, r.value, r.read_at AS readAt FROM meter_readings r
     JOIN (SELECT meter, MAX(read_at) AS read_at FROM meter_readings WHERE machine_id = :id GROUP BY meter) last
       ON last.meter = r.meter AND last.read_at = r.read_at
     WHERE r.machine_id = :id ORDER BY r.meter, r.id`,
    { id },
  );
  const runs = await db.select<MachineView["runs"][number]>(
    `SELECT r.id, p.title, r.status, r.outcome, r.closed_at AS closedAt, r.opened_at AS openedAt FROM runs r JOIN plans p ON p.id = r.plan_id
     WHERE r.machine_id = :id ORDER BY r.opened_at DESC LIMIT 12`,
    { id },
  );
  const events = await db.select<MachineView["events"][number]>(
    "SELECT event, happens_on AS `on`, note FROM machine_events WHERE machine_id = :id ORDER BY happens_on DESC, id DESC LIMIT 8",
    { id },
  );
  // Two values read at the same instant (a counter and its reset): the later id is the last.
  const last = new Map(meters.map((one) => [one.meter, one]));
  return { machine, site: { ...site!, customerName: customer!.name }, meters: [...last.values()], runs, events };
}

/** More than this many times the last value is a slip of the finger more often than use (common practice). */
const SLIP_FACTOR = 5;

/**
 * A question to ask before a value is logged that may be a slip, or a replaced meter: only the person can tell which.
 *
 * @returns null when the value is nothing to ask about
 */
export async function meterQuestion(machineId: string, meter: string, value: number): Promise<string | null> {
  const [last] = await getDb().select<{ value: number }>(
    "SELECT value FROM meter_readings WHERE machine_id = :machineId AND meter = :meter ORDER BY read_at DESC, id DESC LIMIT 1",
    { machineId, meter },
  );
  if (!last || (value >= last.value && (last.value === 0 || value <= last.value * SLIP_FACTOR))) return null;
  return `The last value was ${last.value}, this one is ${value}. Is it right?`;
}

/** Logs a meter reading by hand and re-assesses the machine's plans. */
export async function logMeterReading(actor: Actor, machineId: string, input: { meter: string; value: number }, now: Date): Promise<void> {
  const db = getDb();
  // Before the transaction: one that waits for a second connection can starve the pool.
  const readOn = dayInZone(now, await zoneOf(machineId));
  await db.transact(async (tx) => {
    await db.models.MeterReading.create(
      { id: uuidv7(), machineId, meter: input.meter, value: input.value, readOn, readAt: now, byPerson: actor.id, source: "hand" },
      { transaction: tx },
    );
    await assessMachine(machineId, now, tx);
  });
}

/** Logs that something happened on a machine (a run ended, a light came on) and re-assesses its plans. */
export async function logMachineEvent(actor: Actor, machineId: string, input: { event: string; on: string | null; note: string }, now: Date): Promise<void> {
  const db = getDb();
  const happensOn = input.on ?? dayInZone(now, await zoneOf(machineId));
  await db.transact(async (tx) => {
    await db.models.MachineEvent.create(
      { id: uuidv7(), machineId, event: input.event, happensOn, note: input.note, byPerson: actor.id, loggedAt: now },
      { transaction: tx },
    );
    await assessMachine(machineId, now, tx);
  });
}

/** What a machine's own procedures and logs call things: for setting up rules. */
export async function getMachineNames(
  machineId: string,
): Promise<{ machineName: string; family: string; meters: { id: string; name: string; unit: string }[]; readings: string[]; events: string[] }> {
  const db = getDb();
  const [machine] = await db.select<{ name: string; family: string }>("SELECT name, family FROM machines WHERE id = :machineId", { machineId });
  if (!machine) throw new Refusal(404, "no-such-machine", "This machine is not in the register.");
  const own = await db.select<{ id: string; name: string; unit: string }>(
    "SELECT meter AS id, name, unit FROM machine_meters WHERE machine_id = :machineId ORDER BY name",
    { machineId },
  );
  const procedures = await newestProcedures([machine.family]);
  const meters = new Map([...procedures.flatMap((procedure) => procedure.meters), ...own].map((meter) => [meter.id, meter]));
  const readings = new Set(
    procedures.flatMap((procedure) => procedure.steps).flatMap((step) => (step.kind === "measure" && !step.meter ? [step.reading] : [])),
  );
  const logged = await db.select<{ event: string }>("SELECT DISTINCT event FROM machine_events WHERE machine_id = :machineId LIMIT 50", { machineId });
  const planned = await db.select<{ rules: PlanRules }>("SELECT rules FROM plans WHERE machine_id = :machineId", { machineId });
  const events = new Set([
    ...procedures.flatMap((procedure) => procedure.plan.triggers).flatMap(eventOf),
    ...planned.flatMap(({ rules }) => [...rules.triggers.flatMap(eventOf), ...(rules.emits ?? []).map((one) => one.event)]),
    ...logged.map((row) => row.event),
  ]);
  return { machineName: machine.name, family: machine.family, meters: [...meters.values()], readings: [...readings].sort(), events: [...events].sort() };
}

const eventOf = (trigger: Trigger): string[] => (trigger.kind === "event" ? [trigger.event] : []);

/** The whole register as CSV. */
export async function exportMachines(): Promise<string> {
  const rows = await getDb().select<MachineRecord>(
    `SELECT c.name AS customer, s.name AS site, s.address, s.time_zone, s.water_hardness AS water_hardness_mg_l, s.access_hours,
       m.area, m.tag, m.name, m.family, m.maker, m.model, m.serial, m.commissioned_on, m.duties_from, m.options, m.notes
     FROM machines m JOIN sites s ON s.id = m.site_id JOIN customers c ON c.id = s.customer_id ORDER BY m.tag`,
  );
  return writeMachineCsv(rows);
}

export { COLUMNS };
