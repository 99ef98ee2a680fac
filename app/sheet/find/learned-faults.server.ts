import {
  type FindStep,
  findStepOf,
  type LearnedCause,
  poolCauses,
  type Procedure,
  typicalChances,
  type UsualLife,
  usualLife,
} from "@core";
import { getDb, Op } from "@db";

import * as sql from "./learned-faults.sql";

export interface LearnedFaults {
  /** By symptom and cause. */
  chances: Record<string, Record<string, LearnedCause>>;
  /** What was found on this machine before, the latest first; what turned out not to be the cause left out. */
  before: { cause: string; on: string; sheetId: string }[];
  /** Of causes that were here before: how long their remedy usually holds. */
  lives: Record<string, UsualLife>;
}

/** So many of a machine's faults are told of again. */
const LATEST = 100;

/** What was learned of the causes that a fault's sheet may find; nothing for other sheets. */
export async function learnedFaults(
  procedure: Procedure,
  machine: { id: string; family: string },
  sheetId: string,
): Promise<LearnedFaults | undefined> {
  const step = findStepOf(procedure);
  if (!step) return undefined;
  const [found, past] = await Promise.all([
    sql.causesFound({ family: machine.family, machineId: machine.id }),
    getDb().models.FaultOutcome.findAll({
      attributes: ["cause", "onDay", "sheetId"],
      where: { machineId: machine.id, sheetId: { [Op.ne]: sheetId }, outcome: { [Op.ne]: "not-cured" } },
      order: [["foundAt", "DESC"]],
      limit: LATEST,
      raw: true,
    }),
  ]);
  const counted = (symptom: string, whose: "own" | "others"): Map<string, number> =>
    new Map(found.flatMap((one) => (one.symptom === symptom ? [[one.cause, one[whose]]] : [])));
  return {
    chances: Object.fromEntries(
      step.symptoms.map((symptom) => [
        symptom.id,
        poolCauses({
          typical: typicalChances(symptom),
          others: counted(symptom.id, "others"),
          own: counted(symptom.id, "own"),
        }),
      ]),
    ),
    before: past.map(({ onDay, ...one }) => ({ ...one, on: onDay })),
    lives: await livesOf(
      machine.family,
      step.causes.filter((one) => past.some(({ cause }) => cause === one.id)),
    ),
  };
}

async function livesOf(family: string, causes: FindStep["causes"]): Promise<Record<string, UsualLife>> {
  if (causes.length === 0) return {};
  const gaps = await sql.gapsBetween({ family, causes: causes.map((one) => one.id) });
  return Object.fromEntries(
    causes.flatMap(({ id, usualLifeDays = null }) => {
      const life = usualLife(
        gaps.flatMap(({ cause, days }) => (cause === id ? [days] : [])),
        usualLifeDays,
      );
      return life ? [[id, life]] : [];
    }),
  );
}
