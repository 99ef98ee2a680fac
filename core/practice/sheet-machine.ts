import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { must } from "../must";
import { uniform } from "../random";
import { possibleOf } from "../readings/possible";
import { limitsOf, possibleOnStep } from "../sheet/judge";
import type { Limits, Step } from "../sheet/procedure";
import { familyModel } from "./family-models";
import { ROOM_C } from "./simulated-machine";

/** How often a practice machine is not as it should be at a step; so that a sheet has some of it. */
const NOT_AS_IT_SHOULD = 0.2;

/** What a practice machine shows at a step: nothing is told of steps that only have to be done. */
export type Shown =
  /** One value a point or trial. */
  | { kind: "values"; values: number[] }
  /** As it should be, or not. */
  | { kind: "state"; isGood: boolean }
  /** The block has to be gone through again. */
  | { kind: "again"; isAgain: boolean }
  /** Only these are worn. */
  | { kind: "worn"; slots: string[] }
  | { kind: "surface"; celsius: number };

/**
 * What the machine of a seed shows at a step, whatever was shown elsewhere and in whatever order; measured again, it is as it
 * should be.
 *
 * @param at.attempt how often the step's values were read before, in this round
 * @param at.minute since the sheet was begun
 */
export function shownAt(
  { family, seed }: { family: string; seed: number },
  step: Step,
  at: { round: number; attempt: number; minute: number },
): Shown | null {
  const random = uniform(xoroshiro128plus(mixed(`${seed} ${step.id} ${at.round}`)));
  for (let i = 0; i < 4; i++) random();
  const isBad = random() < NOT_AS_IT_SHOULD && at.round === 1 && at.attempt === 0;
  switch (step.kind) {
    case "measure":
    case "reset":
      return { kind: "values", values: valuesOf(step, isBad, at.attempt, random) };
    case "inspect":
      return { kind: "state", isGood: !isBad };
    case "prove":
      return { kind: "state", isGood: true };
    case "repeat":
      return { kind: "again", isAgain: isBad };
    case "replace":
      if (!step.some) return null;
      return { kind: "worn", slots: someOf(step.slots, random) };
    case "safety":
      return step.coolDown?.belowC === undefined ? null : { kind: "surface", celsius: surfaceAfter(family, at.minute) };
    default:
      return null;
  }
}

/** Surface of a machine that was in use until the sheet was begun, °C, in whole degrees. */
export function surfaceAfter(family: string, minutes: number): number {
  const { warmC, halvesInMinutes } = familyModel(family);
  return Math.round(ROOM_C + (warmC - ROOM_C) * 0.5 ** (minutes / halvesInMinutes));
}

type Measure = Extract<Step, { kind: "measure" }>;

function valuesOf(
  step: Measure | Extract<Step, { kind: "reset" }>,
  isBad: boolean,
  attempt: number,
  random: () => number,
): number[] {
  if (step.kind === "reset") return [step.expect];
  const count = Math.max(1, step.points?.length ?? step.trials ?? 1);
  const limits = limitsOf(step);
  const together = step.judge === "spread" || step.judge === "mean";
  // Which point is bad is drawn once; of a mean all are, of a spread the last strays.
  const bad = Math.floor(random() * count);
  return Array.from({ length: count }, (_, i) => {
    const draw = random();
    if (step.judge === "spread") return spreadValue(step, isBad && i === count - 1, i, draw);
    return inLimits(step, limits, isBad && (together || i === bad), attempt, draw);
  });
}

/** Values of one thing measured several times, less than the limit apart; one that strays lies beyond it. */
function spreadValue(step: Measure, strays: boolean, i: number, draw: number): number {
  const { target = 100, limits = {} } = step;
  const most = limits.max ?? limits.below ?? target / 10;
  return possibleFigure(step, target + (strays ? most * (1.2 + draw) : i === 0 ? 0 : most * 0.8 * draw));
}

function inLimits(step: Measure, limits: Limits | undefined, isBad: boolean, attempt: number, draw: number): number {
  const low = limits?.min ?? limits?.above;
  const high = limits?.max ?? limits?.below;
  if (low === undefined && high === undefined) return possibleFigure(step, (step.target ?? 40) * (0.9 + 0.2 * draw));
  const span = low !== undefined && high !== undefined ? high - low : Math.max(1, Math.abs(must(low ?? high)) * 0.5);
  if (span === 0) return must(low);
  const floor = low ?? must(high) - span;
  // Before anything is done about it, nearer to the edge than after.
  const inside = floor + span * (attempt === 0 ? 0.1 + 0.8 * draw : 0.35 + 0.3 * draw);
  if (!isBad) return possibleFigure(step, inside);
  const beyond = span * (0.15 + 0.35 * draw);
  const isHigh = low === undefined || (high !== undefined && draw >= 0.5);
  return possibleFigure(step, isHigh ? floor + span + beyond : floor - beyond);
}

/** What is counted, not measured. */
const COUNTED =
  /^(places|pieces|pcs?|counts?|uses|times|runs|cycles|prints|slides|cards|pages|plates|tests|nozzles|dots|drops|errors)$/;

/** Three figures, as gauges show; never what the unit or the step cannot be. */
function possibleFigure(step: Measure, value: number): number {
  const unit = step.unit.trim();
  const spans = [possibleOnStep(step), ...(unit === "" ? [] : [possibleOf(unit)])];
  let figure = COUNTED.test(unit) ? Math.ceil(value) : Number(value.toPrecision(3));
  for (const [low, high] of spans) figure = Math.min(high ?? Infinity, Math.max(low ?? -Infinity, figure));
  return figure;
}

function someOf(slots: readonly string[], random: () => number): string[] {
  const worn = slots.filter(() => random() < 0.4);
  return worn.length > 0 ? worn : [must(slots[Math.floor(random() * slots.length)])];
}

/** A number of a text: FNV-1a, 32 bits. */
function mixed(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return hash >>> 0;
}
