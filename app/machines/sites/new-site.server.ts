import { getDb, type SiteRow } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";

export interface NewSite {
  customer: string;
  name: string;
  address: string;
  timeZone: string;
  accessHours: string;
}

/** Names of customers, for a field that is filled with one. */
export async function customerNames(): Promise<string[]> {
  const rows = await getDb().models.Customer.findAll({ attributes: ["name"], order: ["name"], limit: 500, raw: true });
  return rows.map((row) => row.name);
}

/**
 * Adds a site, and its customer with it when that is a new one. What a technician adds on the spot waits for a lead's look.
 *
 * @throws Refusal beside the name when the customer has a site of that name
 */
export async function addSite(actor: Actor, input: NewSite, now: Date): Promise<string> {
  const db = getDb();
  const id = uuidv7();
  await db.transact(async (tx) => {
    const known = await db.models.Customer.findOne({
      where: { name: input.customer },
      raw: true,
      transaction: tx,
      lock: tx.LOCK.UPDATE,
    });
    const customer = known ?? { id: uuidv7(), name: input.customer };
    if (!known) {
      await db.models.Customer.create(customer, { transaction: tx });
      const details = { new: { name: customer.name } };
      await audit({ by: actor, subject: "customer", subjectId: customer.id, action: "added", details, now }, tx);
    }
    const { name, address, timeZone, accessHours } = input;
    const same = await db.models.Site.count({ where: { customerId: customer.id, name }, transaction: tx });
    if (same > 0) throw new Refusal(409, "name", `${customer.name} has a site of that name already.`);
    const site: SiteRow = {
      id,
      customerId: customer.id,
      name,
      address,
      timeZone,
      accessHours,
      waterHardness: null,
      notes: "",
      latitude: null,
      longitude: null,
      drainRules: "",
      wasteRules: "",
      contacts: [],
      holidayRegion: "",
      dust: "usual",
      sharedPlaces: {},
      addedBy: actor.id,
      toCheck: actor.role !== "lead",
    };
    await db.models.Site.create(site, { transaction: tx });
    const details = { new: { name, customer: customer.name, address, timeZone, accessHours } };
    await audit({ by: actor, subject: "site", subjectId: id, action: "added", details, now }, tx);
  });
  return id;
}
