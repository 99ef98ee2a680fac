import { getDb, type MachineRow } from "@db";

import { maySetUp } from "~/duties/first-duties.server";
import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { personNames } from "~/people/people.server";

/** Who added a machine, and whether a lead has looked at it. */
export async function addedOf(machineId: string): Promise<Pick<MachineRow, "addedBy" | "toCheck">> {
  const machine = await getDb().models.Machine.findByPk(machineId, { attributes: ["addedBy", "toCheck"], raw: true });
  if (!machine) throw new Refusal(404, "no-such-machine", "This machine is not in the register.");
  return machine;
}

/** For the machine's own page, while it waits for a lead's look: who added it, and whether its first duties may be changed. */
export async function addedFacts(
  actor: Actor,
  machine: MachineRow,
): Promise<{ addedBy: string | null; firstDuties: boolean }> {
  if (!machine.toCheck || machine.addedBy === null) return { addedBy: null, firstDuties: false };
  const names = await personNames([machine.addedBy]);
  return { addedBy: names[machine.addedBy] ?? null, firstDuties: maySetUp(actor, machine) };
}

/** A lead has looked at what was added on the spot: it is as it should be. */
export async function checkAdded(
  actor: Actor,
  { kind, id }: { kind: "machine" | "site"; id: string },
  now: Date,
): Promise<void> {
  if (actor.role !== "lead") throw new Refusal(403, "not-yours", "A lead looks over what was added on the spot.");
  const db = getDb();
  await db.transact(async (tx) => {
    const where = { where: { id, toCheck: true }, transaction: tx };
    const [checked] =
      kind === "machine"
        ? await db.models.Machine.update({ toCheck: false }, where)
        : await db.models.Site.update({ toCheck: false }, where);
    if (checked === 1)
      await audit({ by: actor, subject: kind, subjectId: id, action: "looked over", details: {}, now }, tx);
  });
}

export interface ToCheck {
  machines: { id: string; name: string; tag: string }[];
  sites: { id: string; name: string }[];
}

/** A few of each are shown; the rest follows when these are done. */
const SHOWN = 10;

/** What was added on the spot and no lead has looked at. */
export async function addedToCheck(): Promise<ToCheck> {
  const { models } = getDb();
  const query = { where: { toCheck: true }, limit: SHOWN, raw: true as const };
  const [machines, sites] = await Promise.all([
    models.Machine.findAll({ attributes: ["id", "name", "tag"], ...query, order: ["name", "id"] }),
    models.Site.findAll({ attributes: ["id", "name"], ...query, order: ["name", "id"] }),
  ]);
  return { machines, sites };
}
