import { type Criticality, getDb } from "@db";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";

/** Says how much it matters when a part of a machine fails; old and new stay in the log of changes. */
export async function setCriticality(
  actor: Actor,
  machineId: string,
  criticality: Criticality,
  now: Date,
): Promise<void> {
  if (actor.role !== "lead") throw new Refusal(403, "leads-only", "How much a machine matters is set by a lead.");
  const db = getDb();
  await db.transact(async (tx) => {
    const machine = await db.models.Machine.findByPk(machineId, {
      attributes: ["criticality"],
      lock: tx.LOCK.UPDATE,
      raw: true,
      transaction: tx,
    });
    if (!machine) throw new Refusal(404, "no-such-machine", "This machine is not in the register.");
    if (machine.criticality === criticality) return;
    await db.models.Machine.update({ criticality }, { where: { id: machineId }, transaction: tx });
    await db.models.WearLine.update({ stale: true }, { where: { machineId, current: true }, transaction: tx });
    const details = { old: { criticality: machine.criticality }, new: { criticality } };
    await audit({ by: actor, subject: "machine", subjectId: machineId, action: "criticality", details, now }, tx);
  });
}
