import { type LearnedCause, poolCauses, type Procedure, typicalChances } from "@core";
import { getDb } from "@db";

import * as sql from "./learned-faults.sql";

export interface LearnedFaults {
  /** By symptom and cause. */
  chances: Record<string, Record<string, LearnedCause>>;
  /** By cause, when it was found on this machine before, the latest first. */
  before: Record<string, { on: string; sheetId: string; outcome: string }[]>;
}

/** So many of a machine's faults are told of again. */
const LATEST = 100;

/** What was learned of the causes that a fault's sheet may find; null for other sheets. */
export async function learnedFaults(
  procedure: Procedure,
  machine: { id: string; family: string },
  sheetId: string,
): Promise<LearnedFaults | undefined> {
  const step = procedure.steps.find((one) => one.kind === "find");
  if (step?.kind !== "find") return undefined;
  const [found, past] = await Promise.all([
    sql.causesFound({ family: machine.family, machineId: machine.id }),
    getDb().models.FaultOutcome.findAll({
      attributes: ["cause", "onDay", "sheetId", "outcome"],
      where: { machineId: machine.id },
      order: [["foundAt", "DESC"]],
      limit: LATEST,
      raw: true,
    }),
  ]);
  const listed = (symptom: string, whose: "own" | "others"): string[] =>
    found
      .filter((one) => one.symptom === symptom)
      .flatMap((one) => Array.from({ length: one[whose] }, () => one.cause));
  const chances = Object.fromEntries(
    step.symptoms.map((symptom) => [
      symptom.id,
      poolCauses({
        typical: typicalChances(symptom),
        others: listed(symptom.id, "others"),
        own: listed(symptom.id, "own"),
      }),
    ]),
  );
  const before: LearnedFaults["before"] = {};
  for (const { cause, onDay, sheetId: sheet, outcome } of past)
    if (sheet !== sheetId) (before[cause] ??= []).push({ on: onDay, sheetId: sheet, outcome });
  return { chances, before };
}
