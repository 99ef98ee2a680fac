import type { Begins, Limits, Procedure, Step } from "./procedure";

/** Readings whose last clean value a procedure's limits go by. */
export function baselineReadings({ steps }: Procedure): string[] {
  return [...new Set(steps.flatMap((step) => (step.kind === "measure" && step.ofClean ? [step.ofClean.reading] : [])))];
}

/**
 * A procedure with the limits that are ratios to the machine's own clean values as figures. Without a clean value there is
 * nothing to judge by, and the reading is taken as it is.
 */
export function withBaselines(procedure: Procedure, begins: Begins | null): Procedure {
  const clean = begins?.baselines;
  if (!clean || baselineReadings(procedure).length === 0) return procedure;
  return { ...procedure, steps: procedure.steps.map((step) => withBaseline(step, clean)) };
}

function withBaseline(step: Step, clean: Readonly<Record<string, number>>): Step {
  if (step.kind !== "measure" || !step.ofClean) return step;
  const { reading, min, max } = step.ofClean;
  const value = clean[reading];
  if (value === undefined || !Number.isFinite(value)) return step;
  const limits: Limits = {
    ...step.limits,
    ...(min === undefined ? {} : { min: times(min, value) }),
    ...(max === undefined ? {} : { max: times(max, value) }),
  };
  return { ...step, limits };
}

/** A product without the tails of binary fractions: 1.2 × 3 is 3.6. */
const times = (ratio: number, value: number): number => Number((ratio * value).toPrecision(12));
