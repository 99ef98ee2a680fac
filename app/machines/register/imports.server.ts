import { must } from "@core";
import {
  type Db,
  getDb,
  type ImportAnswers,
  type ImportRow,
  type MachineRow,
  Op,
  type SiteRow,
  type Transaction,
} from "@db";
import { v7 as uuidv7 } from "uuid";

import { newDuty } from "~/duties/new-duty.server";
import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { aside } from "~/kit/server/aside.server";
import { asRefusal } from "~/kit/server/database-refusal.server";
import { knownFamilies } from "~/machines/adding/new-machine.server";
import { assessSite, rescale } from "~/machines/sites/sites.server";
import { newestProcedures } from "~/procedures/procedures.server";

import * as sql from "./imports.sql";
import { type MachineRecord, parseRegister, type RowFault } from "./machine-csv.server";
import { settleFamilies } from "./settle-families";

const CHUNK = 250;
/** A running import gives a sign this often; one that gives none for long died with its process, its transaction with it. */
const SIGN_MS = 5000;
const STALE_MS = 60_000;

/** What an import brings up to date on a machine that is known, where the file has the column. */
const UPDATED: [field: keyof MachineRow, column: string][] = [
  ["siteId", "site"],
  ["area", "area"],
  ["name", "name"],
  ["family", "family"],
  ["maker", "maker"],
  ["model", "model"],
  ["serial", "serial"],
  ["commissionedOn", "commissioned_on"],
  ["dutiesFrom", "duties_from"],
  ["options", "options"],
  ["notes", "notes"],
  ["position", "position"],
];

/** Checks a file and keeps it with the result; nothing of it is in the register yet. */
export async function checkImport(
  actor: Actor,
  fileName: string,
  content: string,
  now: Date,
  answers: ImportAnswers = NO_ANSWERS,
): Promise<string> {
  const { good, faults, unsureDay } = await aside("files", "parseRegister", parseRegister, content, answers.dayOrder);
  faults.push(...(await serialFaults(good)), ...(await takenOutFaults(good)));
  const bad = new Set(faults.map((fault) => fault.line));
  const { known, families } = settleFamilies(good, await knownFamilies(), answers);
  const id = uuidv7();
  await getDb().models.Import.create({
    id,
    byPerson: actor.id,
    fileName: fileName.slice(0, 255),
    content,
    createdAt: now,
    goodRows: known.filter((row) => !bad.has(row.line)).length,
    asks: { families, day: unsureDay },
    answers,
    faults: faults.sort((a, b) => a.line - b.line),
  });
  return id;
}

const NO_ANSWERS: ImportAnswers = { families: {}, dayOrder: null };

/** The same file once more, with what a person has answered about it so far. */
export async function answerImport(actor: Actor, id: string, more: Partial<ImportAnswers>, now: Date): Promise<string> {
  const row = await getDb().models.Import.findByPk(id, { raw: true });
  if (row?.status !== "checked")
    throw new Refusal(409, "not-open", "This import is not open any more. Choose the file again.");
  const before = row.answers ?? NO_ANSWERS;
  const families = { ...before.families, ...more.families };
  return checkImport(actor, row.fileName, row.content, now, { ...before, ...more, families });
}

/** Rows whose serial number stands in the register under another tag. */
async function serialFaults(good: { line: number; record: MachineRecord }[]): Promise<RowFault[]> {
  const withSerial = good.filter((row) => row.record.serial !== "");
  if (withSerial.length === 0) return [];
  const db = getDb();
  const known = new Map<string, string>();
  const key = (one: Pick<MachineRow, "maker" | "model" | "serial">): string =>
    `${one.maker}\n${one.model}\n${one.serial}`.toLowerCase();
  for (const part of chunks(withSerial, 1000)) {
    const rows = await db.models.Machine.findAll({
      attributes: ["tag", "maker", "model", "serial"],
      where: { serial: part.map((row) => row.record.serial) },
      raw: true,
    });
    for (const row of rows) known.set(key(row), row.tag);
  }
  return withSerial.flatMap(({ line, record }) => {
    const tag = known.get(key(record));
    return tag !== undefined && tag.toLowerCase() !== record.tag.toLowerCase()
      ? [
          {
            line,
            column: "serial",
            reason: `Machine ${tag} in the register has the same maker, model and serial number.`,
          },
        ]
      : [];
  });
}

/** Rows of machines that were taken out of the register: they are taken back first, so that what they owe is known. */
async function takenOutFaults(good: { line: number; record: MachineRecord }[]): Promise<RowFault[]> {
  const tags = new Set<string>();
  for (const part of chunks(good, 1000)) {
    const gone = await getDb().models.Machine.findAll({
      attributes: ["tag"],
      where: { tag: part.map((row) => row.record.tag), retiredOn: { [Op.ne]: null } },
      raw: true,
    });
    for (const row of gone) tags.add(row.tag.toLowerCase());
  }
  return good.flatMap(({ line, record }) =>
    tags.has(record.tag.toLowerCase())
      ? [{ line, column: "tag", reason: `Machine ${record.tag} was taken out of the register. Take it back first.` }]
      : [],
  );
}

export interface ImportView extends Omit<ImportRow, "content" | "answers"> {
  /** Its process died half-way: nothing of it is in the register, and it can be begun again. */
  stopped: boolean;
}

export async function getImport(id: string, now: Date): Promise<ImportView> {
  const row = await getDb().models.Import.findByPk(id, {
    attributes: [
      "id",
      "byPerson",
      "fileName",
      "createdAt",
      "status",
      "startedAt",
      "goodRows",
      "faults",
      "asks",
      "rowsDone",
      "message",
    ],
    raw: true,
  });
  if (!row) throw new Refusal(404, "no-such-import", "This import does not exist. Choose the file again.");
  const { status, startedAt } = row;
  return { ...row, stopped: status === "running" && (startedAt?.getTime() ?? 0) < now.getTime() - STALE_MS };
}

/** Takes the import for this process; false when it is done or running elsewhere. */
export async function claimImport(id: string, now: Date): Promise<boolean> {
  const taken = await sql.claimImport({ id, now, stale: new Date(now.getTime() - STALE_MS) });
  return taken === 1;
}

/**
 * Puts the good rows of a claimed import into the register, all in one transaction: all of them or none. Progress is
 * written beside it, for the page to show. A machine whose tag is known is brought up to date.
 */
export async function applyImport(id: string, now: Date): Promise<void> {
  const db = getDb();
  const sign = setInterval(() => {
    const alive = { where: { id, status: "running" } } as const;
    db.models.Import.update({ startedAt: new Date() }, alive).catch(() => undefined);
  }, SIGN_MS);
  try {
    const row = await db.models.Import.findByPk(id, { raw: true });
    const answers = must(row).answers ?? NO_ANSWERS;
    const { good, columns } = await aside("files", "parseRegister", parseRegister, must(row).content, answers.dayOrder);
    const bad = new Set(must(row).faults.map((fault) => fault.line));
    const { known } = settleFamilies(good, await knownFamilies(), answers);
    const records = known.filter((one) => !bad.has(one.line)).map((one) => one.record);
    await db.transact((tx) =>
      putRecords(db, records, { columns: new Set(columns), now, onProgress: (done) => progress(db, id, done) }, tx),
    );
    await db.models.Import.update({ status: "done", rowsDone: records.length }, { where: { id } });
  } catch (error) {
    await db.models.Import.update(
      { status: "failed", message: `Nothing was written: ${whyNot(error)}`.slice(0, 500) },
      { where: { id } },
    );
    throw error;
  } finally {
    clearInterval(sign);
  }
}

const whyNot = (error: unknown): string => asRefusal(error)?.message ?? "the server or its database failed.";

async function progress(db: Db, id: string, done: number): Promise<void> {
  await db.models.Import.update({ rowsDone: done }, { where: { id } });
}

async function putRecords(
  db: Db,
  records: MachineRecord[],
  how: { columns: ReadonlySet<string>; now: Date; onProgress: (done: number) => Promise<void> },
  tx: Transaction,
): Promise<void> {
  const { columns, now, onProgress } = how;
  const { siteOf, changed } = await putSites(db, records, columns, tx);
  const families = [...new Set(records.map((record) => record.family))];
  const procedures = await newestProcedures(families);
  let done = 0;
  for (const part of chunks(records, CHUNK)) {
    const known = new Map(
      (
        await db.models.Machine.findAll({
          attributes: ["id", "tag"],
          where: { tag: part.map((record) => record.tag) },
          raw: true,
          transaction: tx,
        })
      ).map((row) => [row.tag.toLowerCase(), row.id]),
    );
    const machines = part.map((record) =>
      machineRow(record, siteOf(record).id, known.get(record.tag.toLowerCase()) ?? uuidv7(), now),
    );
    const fresh = machines.filter((machine) => !known.has(machine.tag.toLowerCase()));
    // One statement for new and known machines alike.
    const updated = UPDATED.filter(([, column]) => columns.has(column)).map(([field]) => field);
    await db.models.Machine.bulkCreate(machines, { transaction: tx, updateOnDuplicate: updated });
    await sql.moveDutiesWithMachines({ ids: machines.map((machine) => machine.id) }, tx);
    const siteById = new Map(part.map((record) => [siteOf(record).id, siteOf(record)]));
    const duties = fresh.flatMap((machine) =>
      procedures
        .filter((one) => one.family === machine.family)
        .map((procedure) => newDuty(machine, must(siteById.get(machine.siteId)), procedure, now)),
    );
    await db.models.Duty.bulkCreate(duties, { transaction: tx });
    done += part.length;
    await onProgress(done);
  }
  for (const siteId of changed) await rescaleSite(db, siteId, now, tx);
}

/** Makes or updates the customers and sites that the records name. */
async function putSites(
  db: Db,
  records: MachineRecord[],
  columns: ReadonlySet<string>,
  tx: Transaction,
): Promise<{ siteOf: (record: MachineRecord) => SiteRow; changed: string[] }> {
  const customers = new Map(
    (await db.models.Customer.findAll({ attributes: ["id", "name"], raw: true, transaction: tx })).map((row) => [
      row.name.toLowerCase(),
      row.id,
    ]),
  );
  const sites = new Map(
    (await db.models.Site.findAll({ raw: true, transaction: tx })).map((row) => [
      `${row.customerId}\n${row.name.toLowerCase()}`,
      row,
    ]),
  );
  const seen = new Map<string, SiteRow>();
  const changed: string[] = [];
  const keyOf = (record: MachineRecord): string =>
    `${customers.get(record.customer.toLowerCase())}\n${record.site.toLowerCase()}`;
  for (const record of records) {
    if (!customers.has(record.customer.toLowerCase())) {
      const id = uuidv7();
      customers.set(record.customer.toLowerCase(), id);
      await db.models.Customer.create({ id, name: record.customer }, { transaction: tx });
    }
    const key = keyOf(record);
    if (seen.has(key)) continue;
    const before = sites.get(key);
    const site: SiteRow = {
      address: "",
      waterHardness: null,
      accessHours: "",
      latitude: null,
      longitude: null,
      drainRules: "",
      wasteRules: "",
      contacts: [],
      holidayRegion: "",
      sharedPlaces: {},
      dust: "usual",
      addedBy: null,
      toCheck: false,
      ...before,
      ...siteFieldsOf(record, columns),
      id: before?.id ?? uuidv7(),
      customerId: must(customers.get(record.customer.toLowerCase())),
      name: before?.name ?? record.site,
      timeZone: record.time_zone,
      notes: before?.notes ?? "",
    };
    seen.set(key, site);
    if (!before) await db.models.Site.create(site, { transaction: tx });
    else if (JSON.stringify({ ...before }) !== JSON.stringify({ ...before, ...site })) {
      await db.models.Site.update(site, { where: { id: site.id }, transaction: tx });
      if (
        before.waterHardness !== site.waterHardness ||
        before.timeZone !== site.timeZone ||
        before.accessHours !== site.accessHours ||
        before.holidayRegion !== site.holidayRegion
      )
        changed.push(site.id);
    }
  }
  return { siteOf: (record) => must(seen.get(keyOf(record))), changed };
}

/** A site's fields that the file has a column for; the others stay as they are. */
function siteFieldsOf(record: MachineRecord, columns: ReadonlySet<string>): Partial<SiteRow> {
  return {
    ...(columns.has("address") ? { address: record.address } : {}),
    ...(columns.has("water_hardness_mg_l") ? { waterHardness: record.water_hardness_mg_l } : {}),
    ...(columns.has("access_hours") ? { accessHours: record.access_hours } : {}),
    ...(columns.has("latitude") ? { latitude: record.latitude ?? null } : {}),
    ...(columns.has("longitude") ? { longitude: record.longitude ?? null } : {}),
    ...(columns.has("holiday_region") ? { holidayRegion: record.holiday_region ?? "" } : {}),
    ...(columns.has("drain_rules") ? { drainRules: record.drain_rules ?? "" } : {}),
    ...(columns.has("waste_rules") ? { wasteRules: record.waste_rules ?? "" } : {}),
  };
}

function machineRow(record: MachineRecord, siteId: string, id: string, now: Date): MachineRow {
  return {
    id,
    tag: record.tag,
    siteId,
    area: record.area,
    name: record.name,
    family: record.family,
    maker: record.maker,
    model: record.model,
    serial: record.serial,
    commissionedOn: record.commissioned_on,
    dutiesFrom: record.duties_from,
    options: record.options,
    notes: record.notes,
    createdAt: now,
    position: record.position ?? "",
    documents: [],
    photoId: null,
    freeHours: "",
    readyBy: "",
    addedBy: null,
    toCheck: false,
    retiredOn: null,
    retired: null,
    criticality: "usual",
  };
}

/** A site whose water, zone or hours changed: its scale-related duties get the new factor, and all are assessed anew. */
async function rescaleSite(db: Db, siteId: string, now: Date, tx: Transaction): Promise<void> {
  const site = await db.models.Site.findByPk(siteId, { raw: true, transaction: tx });
  await rescale(siteId, must(site).waterHardness, { by: null, now }, tx);
  await assessSite(siteId, now, tx);
}

function chunks<T>(items: readonly T[], size: number): T[][] {
  return Array.from({ length: Math.ceil(items.length / size) }, (_, i) => items.slice(i * size, (i + 1) * size));
}
