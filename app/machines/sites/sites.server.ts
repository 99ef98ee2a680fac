import { addDays, hardnessFactor, must } from "@core";
import { type Contact, type DutyRules, getDb, Op, type SiteClosureRow, type SiteRow, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import { assessMachines } from "~/duties/assess.server";
import type { Actor } from "~/kit/actor";
import { holidaysOf, isHolidayRegion } from "~/kit/days/site-calendar.server";
import { dayInZone } from "~/kit/days/site-day";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { likeText } from "~/kit/server/like-text.server";
import { type FieldWords, refuseIfChanged } from "~/kit/server/meanwhile.server";
import { listMachinesWithNext, type MachineWithNext } from "~/machines/machines.server";
import { newestProcedures } from "~/procedures/procedures.server";

import { dustWords } from "./dust";
import { sharedPlacesText } from "./site-schemas";
import * as sql from "./sites.sql";
import { PAGE } from "./sites.sql";

export interface SiteListRow {
  id: string;
  name: string;
  customerName: string;
  address: string;
  accessHours: string;
  machines: number;
}

/** A page of sites by name; the beginning of a site's or customer's name finds it. */
export async function findSites(filter: {
  q: string | null;
  after: string | null;
}): Promise<{ rows: SiteListRow[]; next: string | null }> {
  const split = filter.after?.lastIndexOf("_") ?? -1;
  const rows = await sql.sitesPage(
    {
      like: `${likeText(filter.q ?? "")}%`,
      afterName: split > 0 ? must(filter.after).slice(0, split) : "",
      afterId: split > 0 ? must(filter.after).slice(split + 1) : "",
    },
    filter,
    split,
  );
  const page = rows.slice(0, PAGE).map((row) => ({ ...row, machines: row.machines }));
  const last = page[page.length - 1];
  return { rows: page, next: rows.length > PAGE && last ? `${last.name}_${last.id}` : null };
}

export interface SiteView {
  site: SiteRow & { customerName: string };
  today: string;
  closures: (Pick<SiteClosureRow, "id" | "fromOn" | "toOn" | "reason"> & { by: string })[];
  /** Next public holidays of its region. */
  holidays: { on: string; name: string }[];
  machines: MachineWithNext[];
  machineCount: number;
}

export async function getSite(id: string, now: Date): Promise<SiteView> {
  const db = getDb();
  const site = await db.models.Site.findByPk(id, { raw: true });
  if (!site) throw new Refusal(404, "no-such-site", "This site is not in the register.");
  const customer = await db.models.Customer.findByPk(site.customerId, { raw: true });
  const today = dayInZone(now, site.timeZone);
  const closures = await sql.closuresOf({ id, today });
  const { rows: machines } = await listMachinesWithNext({ siteIds: [id] }, now);
  const machineCount = await db.models.Machine.count({ where: { siteId: id, retiredOn: null } });
  const year = Number(today.slice(0, 4));
  const holidays = site.holidayRegion
    ? [...holidaysOf(site.holidayRegion, year), ...holidaysOf(site.holidayRegion, year + 1)].filter(
        (one) => one.on >= today,
      )
    : [];
  return {
    site: { ...site, customerName: must(customer).name },
    today,
    closures,
    holidays: holidays.slice(0, 5),
    machines,
    machineCount,
  };
}

export type SiteSettings = Omit<SiteRow, "id" | "customerId" | "addedBy" | "toCheck">;

/** The form's fields, for who changes a site that somebody else has changed. */
export const SITE_WORDS: FieldWords<SiteSettings> = {
  name: ["Name"],
  address: ["Address"],
  accessHours: ["Access"],
  timeZone: ["Time zone"],
  holidayRegion: ["Public holidays of"],
  latitude: ["Latitude"],
  longitude: ["Longitude"],
  waterHardness: ["Water hardness, mg/L as CaCO₃"],
  dust: ["Dust in the air", dustWords],
  sharedPlaces: ["Shared by the machines", sharedPlacesText],
  drainRules: ["Where to drain"],
  wasteRules: ["Where waste goes"],
  contacts: ["Contacts", contactLines],
  notes: ["Notes"],
};

/** Changes a site; what its duties depend on (zone, water, closed days) is worked out anew for all its machines. */
export async function changeSite(
  actor: Actor,
  id: string,
  settings: SiteSettings,
  now: Date,
  seen: string | null = null,
): Promise<void> {
  if (settings.holidayRegion && !isHolidayRegion(settings.holidayRegion)) {
    throw new Refusal(
      422,
      "holidayRegion",
      `"${settings.holidayRegion}" is no known region. Write a country's two letters, such as PT, or with a part of it, PT-30.`,
    );
  }
  const db = getDb();
  await db.transact(async (tx) => {
    const before = await db.models.Site.findByPk(id, { raw: true, transaction: tx, lock: tx.LOCK.UPDATE });
    if (!before) throw new Refusal(404, "no-such-site", "This site is not in the register.");
    await refuseIfChanged({ subject: "site", subjectId: id, seen, theirs: before, yours: settings }, SITE_WORDS);
    const [other] = await db.models.Site.findAll({
      attributes: ["id"],
      where: { customerId: before.customerId, name: settings.name, id: { [Op.ne]: id } },
      raw: true,
      transaction: tx,
    });
    if (other) throw new Refusal(409, "name", "This customer has another site of that name.");
    await db.models.Site.update(settings, { where: { id }, transaction: tx });
    await audit(
      { by: actor, subject: "site", subjectId: id, action: "changed", details: { old: before, new: settings }, now },
      tx,
    );
    if (before.waterHardness !== settings.waterHardness)
      await rescale(id, settings.waterHardness, { by: actor, now }, tx);
    await assessSite(id, now, tx);
  });
}

/**
 * Scale-related duties of a site get the factor of its water. Where findings had tuned one, what they told was of the water before: it
 * comes by its given interval again.
 */
export async function rescale(
  siteId: string,
  waterHardness: number | null,
  { by, now }: { by: Pick<Actor, "id"> | null; now: Date },
  tx: Transaction,
): Promise<void> {
  const db = getDb();
  const duties = await db.models.Duty.findAll({ where: { siteId }, raw: true, transaction: tx });
  const families = (await sql.machinesToRescale({ siteId }, tx)).map((row) => row.family);
  const scaled = new Set(
    (await newestProcedures(families)).filter((one) => one.plan.scaledByHardness).map((one) => one.id),
  );
  const factor = hardnessFactor(waterHardness);
  for (const duty of duties) {
    if (!scaled.has(duty.procedureId)) continue;
    const { intervalFactor: _, given, ...own } = duty.rules;
    const rules: DutyRules = {
      ...own,
      ...(given && { triggers: given.triggers }),
      ...(factor !== 1 && { intervalFactor: factor }),
    };
    await db.models.Duty.update({ rules }, { where: { id: duty.id }, transaction: tx });
    if (!given) continue;
    const reason = "The site’s water is another: the given interval counts again.";
    const details = { reason, old: { rules: duty.rules }, new: { rules } };
    await audit({ by, subject: "duty", subjectId: duty.id, action: "changed", details, now }, tx);
  }
}

const CHUNK = 200;

export async function assessSite(siteId: string, now: Date, tx: Transaction): Promise<void> {
  const ids = (
    await getDb().models.Machine.findAll({
      attributes: ["id"],
      where: { siteId },
      order: ["id"],
      raw: true,
      transaction: tx,
    })
  ).map((row) => row.id);
  for (let i = 0; i < ids.length; i += CHUNK) await assessMachines(ids.slice(i, i + CHUNK), now, tx);
}

/** Notes that a site will be closed: duties before standing idle and second halves follow. */
export async function addClosure(
  actor: Actor,
  siteId: string,
  input: { fromOn: string; toOn: string; reason: string },
  now: Date,
): Promise<void> {
  if (input.toOn < input.fromOn) throw new Refusal(422, "toOn", "The last closed day comes before the first.");
  if (addDays(input.fromOn, 400) < input.toOn)
    throw new Refusal(422, "toOn", "A closure of more than 400 days is a pause: pause the machines instead.");
  const db = getDb();
  await db.transact(async (tx) => {
    const id = uuidv7();
    await db.models.SiteClosure.create(
      { id, siteId, ...input, byPerson: actor.id, loggedAt: now, cancelledBy: null, cancelledAt: null },
      { transaction: tx },
    );
    await audit({ by: actor, subject: "site", subjectId: siteId, action: "closure added", details: input, now }, tx);
    await assessSite(siteId, now, tx);
  });
}

export async function cancelClosure(actor: Actor, siteId: string, closureId: string, now: Date): Promise<void> {
  const db = getDb();
  await db.transact(async (tx) => {
    const [ended] = await db.models.SiteClosure.update(
      { cancelledBy: actor.id, cancelledAt: now },
      { where: { id: closureId, siteId, cancelledAt: null }, transaction: tx },
    );
    if (ended === 0) return;
    await audit(
      { by: actor, subject: "site", subjectId: siteId, action: "closure cancelled", details: { closureId }, now },
      tx,
    );
    await assessSite(siteId, now, tx);
  });
}

/** Contacts as lines of text, for a form: name; role; phone; e-mail. */
export function contactLines(contacts: readonly Contact[]): string {
  return contacts.map((one) => [one.name, one.role, one.phone, one.email].join("; ").replace(/(; )+$/, "")).join("\n");
}

export async function listSites(): Promise<{ id: string; name: string; customerName: string }[]> {
  return sql.sitesToChoose();
}
