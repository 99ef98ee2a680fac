import { getDb, Op, type Transaction } from "@db";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { familyName } from "~/ui/family-names";

const DAY_MS = 86_400_000;

/** Practice that an authorisation asks for before it is granted. */
export interface RequiredPractice {
  authorisation: string;
  family: string;
  /** Not longer ago than this. */
  days: number;
}

export function requiredPractices(): Promise<RequiredPractice[]> {
  return getDb().models.AuthorisationPractice.findAll({
    attributes: ["authorisation", "family", "days"],
    order: ["authorisation", "family"],
    raw: true,
  });
}

/** From now on the authorisation is granted only to who has passed; those that were granted stay. */
export async function requirePractice(by: Actor, required: RequiredPractice, now: Date): Promise<void> {
  const { authorisation, family, days } = required;
  await getDb().transact(async (tx) => {
    await getDb().models.AuthorisationPractice.upsert(
      { authorisation, family, days, setBy: by.id, setAt: now },
      { transaction: tx },
    );
    await auditRequired(by, "practice-required", required, now, tx);
  });
}

export async function requireNoPractice(
  by: Actor,
  required: Pick<RequiredPractice, "authorisation" | "family">,
  now: Date,
): Promise<void> {
  const { authorisation, family } = required;
  await getDb().transact(async (tx) => {
    const gone = await getDb().models.AuthorisationPractice.destroy({
      where: { authorisation, family },
      transaction: tx,
    });
    if (gone > 0) await auditRequired(by, "practice-not-required", required, now, tx);
  });
}

const auditRequired = (by: Actor, action: string, details: object, now: Date, tx: Transaction): Promise<unknown> =>
  audit({ by, subject: "authorisation", subjectId: by.id, action, details: { ...details }, now }, tx);

/**
 * Practice on machines that were new to the person, passed lately enough.
 *
 * @throws Refusal `kind` that names what is missing
 */
export async function mustHavePractised(
  personId: string,
  authorisation: string,
  now: Date,
  tx: Transaction,
): Promise<void> {
  const { models } = getDb();
  const required = await models.AuthorisationPractice.findAll({ where: { authorisation }, raw: true, transaction: tx });
  const missing: string[] = [];
  for (const { family, days } of required) {
    const passed = await models.PracticeRun.count({
      where: {
        ...{ personId, family, kind: "fault", passed: true, isNew: true },
        finishedAt: { [Op.gte]: new Date(now.getTime() - days * DAY_MS) },
      },
      transaction: tx,
    });
    if (passed === 0) missing.push(`${familyName(family)}, within ${days} ${days === 1 ? "day" : "days"}`);
  }
  if (missing.length > 0)
    throw new Refusal(422, "kind", `It asks for practice passed first on: ${missing.join("; ")}. See Practice.`);
}
