import { getDb } from "@db";

import type { Actor } from "~/kit/actor";
import { audit } from "~/kit/server/audit.server";

/** Under which name it is kept, and what it is when nobody has chosen. */
const NAME = "planning";
export const USUAL_CHANCE = 0.8;

/** Share of days on which a day has to hold that is proposed, as the firm has chosen. */
export async function firmChance(): Promise<number> {
  const row = await getDb().models.Setting.findByPk(NAME, { raw: true });
  const chance = (row?.value as { chance?: unknown } | undefined)?.chance;
  return typeof chance === "number" && chance >= 0 && chance <= 1 ? chance : USUAL_CHANCE;
}

export async function changeChance(actor: Actor, chance: number, now: Date): Promise<void> {
  await getDb().transact(async (tx) => {
    const { models } = getDb();
    const before = await models.Setting.findByPk(NAME, { raw: true, lock: tx.LOCK.UPDATE, transaction: tx });
    await models.Setting.upsert({ name: NAME, value: { chance } }, { transaction: tx });
    await audit(
      {
        by: actor,
        subject: "firm",
        subjectId: NAME,
        action: "planning",
        details: { old: before?.value ?? { chance: USUAL_CHANCE }, new: { chance } },
        now,
      },
      tx,
    );
  });
}
