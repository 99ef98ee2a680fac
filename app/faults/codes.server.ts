import { getDb, Op } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { guideOf } from "~/procedures/guides/guides.server";

import * as sql from "./faults.sql";

/** So many of a family are told at once. */
const LISTED = 500;

/** A code that a machine displays, or a test of a function, in the firm's own words. */
export interface FaultCode {
  id: string;
  model: string;
  kind: "code" | "test";
  code: string;
  says: string;
  /** Of the family's guide. */
  symptom: string | null;
}

/** What the firm has keyed in of a family: of all its models, or of one and of what counts for all. */
export async function codesOf(family: string, model: string | null): Promise<FaultCode[]> {
  return getDb().models.FaultCode.findAll({
    attributes: ["id", "model", "kind", "code", "says", "symptom"],
    where: { family, endedAt: null as never, ...(model === null ? {} : { model: { [Op.in]: ["", model] } }) },
    order: ["kind", "code", "model"],
    limit: LISTED,
    raw: true,
  });
}

/** Models of a family in the register, to choose from. */
export const modelsOf = (family: string): Promise<string[]> =>
  sql.modelsOfFamily({ family }).then((rows) => rows.map((one) => one.model));

/**
 * Keys in what a code means, or how a function is tested. The same code of the same model is said anew: the old text ends and stays
 * readable in the database.
 */
export async function addCode(
  actor: Actor,
  family: string,
  { model, kind, code, says, symptom }: Omit<FaultCode, "id">,
  now: Date,
): Promise<void> {
  const guide = await guideOf(family);
  if (!guide) throw new Refusal(404, "no-such-guide", "There is no fault guide for this family.");
  if (symptom !== null && !guide.symptoms.some((one) => one.id === symptom))
    throw new Refusal(422, "symptom", "Choose what the operator says from the list.");
  const { models } = getDb();
  await getDb().transact(async (tx) => {
    await models.FaultCode.update(
      { endedBy: actor.id, endedAt: now },
      { where: { family, model, kind, code, endedAt: null as never }, transaction: tx },
    );
    await models.FaultCode.create(
      { id: uuidv7(), family, model, kind, code, says, symptom, addedBy: actor.id, addedAt: now },
      { transaction: tx },
    );
  });
}

/** It holds no more; what it said stays in the database. */
export async function endCode(actor: Actor, family: string, id: string, now: Date): Promise<void> {
  const [changed] = await getDb().models.FaultCode.update(
    { endedBy: actor.id, endedAt: now },
    { where: { id, family, endedAt: null as never } },
  );
  if (changed === 0) throw new Refusal(409, "gone", "It was taken out already.");
}
