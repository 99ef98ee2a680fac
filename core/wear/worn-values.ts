import { must } from "../must";
import { sheetSteps } from "../sheet/next-steps";
import type { MachineFacts, Procedure, Step } from "../sheet/procedure";
import type { LoggedReading, RunState } from "../sheet/run-state";
import type { Worse } from "./wear-line";

/** Which part a reading tells the wear of, and by which limit. */
export interface WearRule {
  reading: string;
  unit: string;
  item: string;
  slots: string[];
  per: string;
  worse: Worse;
  /** The places of its points are all of each slot. */
  worst: boolean;
  /** Null where the procedure names none. */
  limit: number | null;
}

/** A value on a sheet that tells how far the piece in a slot is worn. */
export interface WornValue extends Omit<WearRule, "slots" | "worst"> {
  eventId: string;
  slot: string;
  value: number;
  at: string;
  by: string;
  stage: "found" | "left";
  confirmed: boolean;
}

type Measure = Extract<Step, { kind: "measure" }>;

/** What a measuring step tells of wear; null when nothing. */
export function wearRule(step: Step): WearRule | null {
  if (step.kind !== "measure" || !step.wears) return null;
  const { item, slots, per, worse, worst = false } = step.wears;
  const { min, above, max, below } = step.limits ?? {};
  const limit = worse === "down" ? (min ?? above) : (max ?? below);
  return { reading: step.reading, unit: step.unit, item, slots, per, worse, worst, limit: limit ?? null };
}

/** All that a procedure's steps tell of wear. */
export const wearRules = (procedure: Pick<Procedure, "steps">): WearRule[] =>
  procedure.steps.flatMap((step) => wearRule(step) ?? []);

/**
 * What a sheet says of how far parts are worn: for each slot what was found and, where it was measured again, what it was left at.
 * Of several trials or tries the last counts; where several places tell of one slot, the worst of them. What cannot be is left out.
 *
 * @param known what steps tell by a newer version of the procedure, for sheets older than that
 */
export function wornValues(
  procedure: Procedure,
  state: RunState,
  machine: MachineFacts,
  known: (step: Measure) => WearRule | null = wearRule,
): WornValue[] {
  const shown = new Set(sheetSteps(procedure, state, machine).map((one) => one.step));
  return procedure.steps.flatMap((step) => {
    if (step.kind !== "measure" || !shown.has(step.id)) return [];
    const rule = known(step);
    if (!rule) return [];
    return Object.values(state.steps)
      .filter((at) => at.step === step.id)
      .sort((a, b) => a.round - b.round)
      .flatMap(({ readings }) => wornAt(step, rule, readings));
  });
}

/** What the readings of one step say, slot by slot: as found, then as left. */
export function wornAt(step: Measure, rule: WearRule, readings: readonly LoggedReading[]): WornValue[] {
  const possible = readings.filter((one) => !one.impossible);
  const { slots, worst: isWorst, ...told } = rule;
  const each = step.points !== undefined && !isWorst;
  return (["as-found", "as-left"] as const).flatMap((stage) => {
    const of = possible.filter((one) => one.stage === stage);
    // What was found is what was read last before anything was put right; each place by its own last value.
    const latest = [...new Map(of.map((one) => [one.point, one])).values()];
    return slots.flatMap((slot, i) => {
      const places = each ? latest.filter(({ point }) => point === i) : latest;
      const worst = worstOf(places, rule.worse);
      if (!worst) return [];
      const { eventId, value, at, by, asked } = worst;
      return [
        {
          ...told,
          ...{ eventId, slot, value, at, by },
          stage: stage === "as-found" ? ("found" as const) : ("left" as const),
          confirmed: asked !== undefined,
        },
      ];
    });
  });
}

function worstOf(readings: readonly LoggedReading[], worse: Worse): LoggedReading | null {
  if (readings.length === 0) return null;
  return readings.reduce((worst, one) => {
    const isWorse = worse === "down" ? one.value < worst.value : one.value > worst.value;
    return isWorse ? one : worst;
  }, must(readings[0]));
}

/** Somebody chose to renew it though it was within its limit. */
const renewedEarly = (state: RunState, step: string): boolean =>
  Object.values(state.steps).some((at) => at.step === step && at.answer === "in" && at.decided?.choice === "now");

/** Why a piece came out, as far as the sheet says it. */
export type CameOut = "worn" | "failed" | "planned";

export interface FittedOnSheet {
  eventId: string;
  slot: string;
  item: string;
  at: string;
  by: string;
  /** The next side or edge of the same piece. */
  turned: boolean;
  /** Of the piece that was there before. */
  cameOut: CameOut;
}

/**
 * What went into slots on a sheet, and why what was there came out: on a fault's sheet it failed; where an inspection or a limit
 * asked for the new one it was worn; else it was renewed by plan.
 *
 * @param isFault the sheet is a fault's
 */
export function fittedOnSheet(procedure: Procedure, state: RunState, isFault: boolean): FittedOnSheet[] {
  return state.parts.map(({ eventId, slot, item, at, by, turnedUsesLeft }) => {
    const step = procedure.steps.find(
      (one) =>
        (one.kind === "replace" || one.kind === "turn") &&
        one.item === item &&
        Object.values(state.steps).some((done) => done.step === one.id && done.slots.includes(slot)),
    );
    const asked = step?.when?.some(
      (one) => "step" in one && ["low", "high", "not-ok", "again"].includes(one.is) && !renewedEarly(state, one.step),
    );
    return {
      ...{ eventId, slot, item, at, by, turned: turnedUsesLeft !== null },
      cameOut: isFault ? "failed" : asked === true ? "worn" : "planned",
    };
  });
}
