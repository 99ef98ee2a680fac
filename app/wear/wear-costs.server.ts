import type { Criticality } from "@db";
import { getDb } from "@db";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";

import * as sql from "./wear.sql";

/** What the firm counts with when a part fails, cents. */
export interface FailureFigures {
  /** Lost use and harm, by how much the machine matters. */
  failure: Record<Criticality, number>;
  /** Coming for it alone. */
  visit: number;
}

/** While nobody has set others: figures to begin with, not facts of the trade. */
export const USUAL_FIGURES: FailureFigures = { failure: { low: 5_000, usual: 20_000, high: 80_000 }, visit: 9_000 };

const NAME = "failure-figures";

export async function failureFigures(): Promise<FailureFigures & { set: boolean }> {
  const row = await getDb().models.Setting.findOne({ where: { name: NAME }, raw: true });
  return row ? { ...(row.value as FailureFigures), set: true } : { ...USUAL_FIGURES, set: false };
}

/** Keeps the firm's figures; what is foreseen is worked out anew. */
export async function setFailureFigures(figures: FailureFigures): Promise<void> {
  await sql.keepSetting({ name: NAME, value: JSON.stringify(figures) });
  await sql.markAllStale();
}

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
