import { type Criticality, getDb, type Transaction } from "@db";

import type { Actor } from "~/kit/actor";
import { audit } from "~/kit/server/audit.server";

/** What the firm counts with when a part fails, cents. */
export interface FailureFigures {
  /** Lost use and harm, by how much the machine matters. */
  failure: Record<Criticality, number>;
  /** Coming for it alone. */
  visit: number;
  /** The chance of a second trip for a part that is put up with, 0 to 1. */
  secondTrip: number;
}

/** While nobody has set others: figures to begin with, not facts of the trade. */
const USUAL_FIGURES: FailureFigures = {
  failure: { low: 5_000, usual: 20_000, high: 80_000 },
  visit: 9_000,
  secondTrip: 0.1,
};

const NAME = "failure-figures";

export async function failureFigures(tx?: Transaction): Promise<FailureFigures & { set: boolean }> {
  const row = await getDb().models.Setting.findByPk(NAME, { raw: true, transaction: tx ?? null });
  return row ? { ...USUAL_FIGURES, ...(row.value as FailureFigures), set: true } : { ...USUAL_FIGURES, set: false };
}

/** Keeps the firm's figures, the old ones in the log of changes; what is foreseen of parts is worked out anew with them. */
export async function setFailureFigures(actor: Actor, figures: FailureFigures, now: Date): Promise<void> {
  await getDb().transact(async (tx) => {
    const { models } = getDb();
    const before = await models.Setting.findByPk(NAME, { raw: true, lock: tx.LOCK.UPDATE, transaction: tx });
    await models.Setting.upsert({ name: NAME, value: figures }, { transaction: tx });
    await models.WearLine.update({ stale: true }, { where: { current: true }, transaction: tx });
    const details = { old: before?.value ?? USUAL_FIGURES, new: figures };
    await audit({ by: actor, subject: "firm", subjectId: NAME, action: "failure-figures", details, now }, tx);
  });
}
