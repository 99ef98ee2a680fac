import { getDb } from "@db";

import type { Actor } from "~/kit/actor";
import { audit } from "~/kit/server/audit.server";

/** Who the firm is, as its records begin. */
export interface Letterhead {
  name: string;
  /** Address, telephone, registration: up to four lines. */
  lines: string;
}

const NAME = "letterhead";

/** Null until a lead has set it. */
export async function letterheadOfFirm(): Promise<Letterhead | null> {
  const row = await getDb().models.Setting.findByPk(NAME, { raw: true });
  return row ? (row.value as Letterhead) : null;
}

export async function saveLetterhead(by: Actor, letterhead: Letterhead, now: Date): Promise<void> {
  const { models } = getDb();
  await getDb().transact(async (tx) => {
    const before = await models.Setting.findByPk(NAME, { raw: true, lock: tx.LOCK.UPDATE, transaction: tx });
    await models.Setting.upsert({ name: NAME, value: letterhead }, { transaction: tx });
    const details = { before: before?.value ?? null, after: letterhead };
    await audit({ by, subject: "firm", subjectId: NAME, action: "letterhead", details, now }, tx);
  });
}
