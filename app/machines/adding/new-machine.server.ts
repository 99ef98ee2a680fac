import { must } from "@core";
import { ER_DUP_ENTRY, errorNumber, getDb, type MachineRow, type PhotoRow } from "@db";
import { v7 as uuidv7 } from "uuid";

import { assessMachine } from "~/duties/assess.server";
import { firstDuties } from "~/duties/first-duties.server";
import type { Actor } from "~/kit/actor";
import { dayInZone } from "~/kit/days/site-day";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { storePhoto } from "~/kit/server/photos.server";
import { refuseTwin } from "~/machines/machines.server";
import { readingRow } from "~/machines/meters.server";
import { FAMILIES, familyName } from "~/ui/family-names";

import * as sql from "./adding.sql";
import { familyMeant } from "./family-meant";
import { EVERY_FAMILY, OTHER_FAMILY } from "./new-machine-schemas";
import { siteMeant, siteText, siteTexts } from "./site-meant.server";

export interface NewMachine {
  site: string;
  tag: string;
  family: string;
  otherFamily: string;
  familyIsNew: boolean;
  name: string;
  serial: string;
  area: string;
  maker: string;
  model: string;
  options: readonly string[];
  meters: readonly { meter: string; value?: number | undefined }[];
  photo: PhotoRow | null;
  /** The machine that it is a copy of: it owes what that one owes, and has its meters. */
  like: string | null;
}

/** Families that a machine can be of: those with procedures, and those that the register has. */
export async function knownFamilies(): Promise<string[]> {
  const found = (await sql.familiesInUse()).map((row) => row.family);
  return [...new Set([...Object.keys(FAMILIES), ...found])].sort((a, b) => familyName(a).localeCompare(familyName(b)));
}

/**
 * Adds a machine with what it owes. What a technician adds on the spot waits for a lead's look, and works until then.
 *
 * @throws Refusal beside its field: the site, the tag, the family or the serial number cannot be taken so
 */
export async function addMachine(actor: Actor, input: NewMachine, now: Date): Promise<string> {
  const db = getDb();
  const site = await siteMeant(input.site);
  const family = await chosenFamily(input);
  await refuseKnown(input);
  const id = uuidv7();
  const today = dayInZone(now, site.timeZone);
  const machine: MachineRow = {
    id,
    tag: input.tag,
    siteId: site.id,
    area: input.area,
    name: input.name,
    family,
    maker: input.maker,
    model: input.model,
    serial: input.serial,
    commissionedOn: null,
    dutiesFrom: null,
    options: [...input.options],
    notes: "",
    createdAt: now,
    position: "",
    documents: [],
    photoId: input.photo?.id ?? null,
    freeHours: "",
    readyBy: "",
    addedBy: actor.id,
    toCheck: actor.role !== "lead",
    retiredOn: null,
    retired: null,
    criticality: "usual",
  };
  const like = await likeOf(input.like, family);
  const duties = await firstDuties(machine, site, like, now);
  const meters = like === null ? [] : await db.models.MachineMeter.findAll({ where: { machineId: like }, raw: true });
  const readings = input.meters.flatMap(({ meter, value }) =>
    value === undefined
      ? []
      : [readingRow({ machineId: id, meter, value, readOn: today, readAt: now, byPerson: actor.id, source: "hand" })],
  );
  try {
    await db.transact(async (tx) => {
      if (input.photo) await storePhoto(input.photo, tx);
      await db.models.Machine.create(machine, { transaction: tx });
      // A gateway delivers each of its names to one machine.
      for (const meter of meters)
        await db.models.MachineMeter.create({ ...meter, machineId: id, gatewayRef: null }, { transaction: tx });
      await db.models.MeterReading.bulkCreate(readings, { transaction: tx });
      await db.models.Duty.bulkCreate(duties, { transaction: tx });
      const { tag, name, serial, area } = machine;
      const details = { new: { tag, name, family, serial, area, site: site.name }, like };
      await audit({ by: actor, subject: "machine", subjectId: id, action: "added", details, now }, tx);
      await assessMachine(id, now, tx);
    });
  } catch (error) {
    // Two people may scan one plate at once.
    if (errorNumber(error) !== ER_DUP_ENTRY) throw error;
    await refuseKnown(input);
    throw error;
  }
  return id;
}

/** The machine that this one is a copy of; of another family it is none, whatever the form began with. */
async function likeOf(like: string | null, family: string): Promise<string | null> {
  if (like === null) return null;
  return (await getDb().models.Machine.count({ where: { id: like, family } })) > 0 ? like : null;
}

async function chosenFamily({ family, otherFamily, familyIsNew }: NewMachine): Promise<string> {
  const known = await knownFamilies();
  if (family !== OTHER_FAMILY) {
    if (known.includes(family)) return family;
    throw new Refusal(422, "family", "This family is not known. Choose one of the list, or “Another one”.");
  }
  const meant = familyMeant(otherFamily, known);
  if (meant.family !== null) return meant.family;
  // What stands for all families is none.
  if (meant.own === "" || meant.own === EVERY_FAMILY)
    throw new Refusal(422, "otherFamily", "Say what kind of machine it is.");
  if (familyIsNew) return meant.own;
  throw new Refusal(
    422,
    "familyIsNew",
    meant.nearest === null
      ? `No procedures are written for “${otherFamily}”: it owes nothing until there are. Tick that it is a new family.`
      : `Did you mean “${familyName(meant.nearest)}”? Choose it above, or tick that it is a new family.`,
  );
}

/** A plate names one machine: its tag stands once in the register, and so does a maker's serial number. */
async function refuseKnown({ tag, serial, maker, model }: NewMachine): Promise<void> {
  const { models } = getDb();
  const attributes: (keyof MachineRow)[] = ["tag", "name", "retiredOn"];
  const [same] = await models.Machine.findAll({ attributes, where: { tag }, limit: 1, raw: true });
  if (same)
    throw new Refusal(
      409,
      "tag",
      same.retiredOn === null
        ? `${same.tag} is on “${same.name}” already. Find that one, or use another tag.`
        : `${same.tag} was on “${same.name}”, which was taken out of the register. Take that one back, or use another tag.`,
    );
  await refuseTwin({ serial, maker, model }, null);
}

/** So many of the latest machines tell how the firm counts its tags. */
const LATEST = 200;

/** The next tag of the firm's count: what most of the latest tags begin with, and the figure after the last of those. */
export async function nextTag(): Promise<string> {
  const latest = await getDb().models.Machine.findAll({
    attributes: ["tag"],
    order: [["id", "DESC"]],
    limit: LATEST,
    raw: true,
  });
  const prefixes = new Map<string, number>();
  for (const { tag } of latest) {
    const prefix = /^(.*?)\d+$/.exec(tag)?.[1];
    if (prefix !== undefined) prefixes.set(prefix, (prefixes.get(prefix) ?? 0) + 1);
  }
  const [usual] = [...prefixes].sort((a, b) => b[1] - a[1]);
  const prefix = usual?.[0] ?? "M-";
  const [last] = await sql.lastTagLike(prefix);
  const count = last === undefined ? "1000" : last.tag.slice(prefix.length);
  return `${prefix}${String(Number(count) + 1).padStart(count.length, "0")}`;
}

export interface AddingNames {
  families: string[];
  /** By family: what its procedures call its meters and options. */
  meters: Record<string, { id: string; name: string; unit: string }[]>;
  options: Record<string, { id: string; name: string }[]>;
  sites: string[];
}

export async function addingNames(): Promise<AddingNames> {
  const [families, rows, sites] = await Promise.all([knownFamilies(), sql.namesOfFamilies(), siteTexts()]);
  const meters: AddingNames["meters"] = {};
  const options: AddingNames["options"] = {};
  for (const row of rows) {
    for (const one of row.meters ?? []) add((meters[row.family] ??= []), one);
    for (const one of row.options ?? []) add((options[row.family] ??= []), one);
  }
  return { families, meters, options, sites };
}

function add<One extends { id: string }>(list: One[], one: One): void {
  if (!list.some((other) => other.id === one.id)) list.push(one);
}

/** What the form of a new machine begins with when it is a copy of another one. */
export async function copyOf(machineId: string) {
  const { models } = getDb();
  const machine = await models.Machine.findByPk(machineId, { raw: true });
  if (!machine) throw new Refusal(404, "no-such-machine", "This machine is not in the register.");
  const site = must(await models.Site.findByPk(machine.siteId, { raw: true }));
  const customer = must(await models.Customer.findByPk(site.customerId, { raw: true }));
  const { name, family, area, maker, model, options } = machine;
  return {
    name,
    family,
    area,
    maker,
    model,
    options,
    site: siteText({ name: site.name, customerName: customer.name }),
  };
}
