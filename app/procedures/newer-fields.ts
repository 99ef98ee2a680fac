import type { Procedure } from "@core";

/** What only format version 2 has. */
const OF_STATES = [
  "state",
  "path",
  "opens",
  "critical",
  "surfaces",
  "forbids",
  "takesOff",
  "putsBack",
  "beforehand",
] as const;

/**
 * Fields of format version 2 in a procedure that says it is of version 1, which has no states and no paths: such a file was not
 * written for what reads it so.
 */
export function newerFields(procedure: Procedure): string[] {
  if (procedure.formatVersion !== 1) return [];
  return [
    ...(["states", "leaves", "begins"] as const).filter((field) => procedure[field] !== undefined),
    ...(procedure.materials.some((one) => one.grade !== undefined) ? ["grade"] : []),
    ...(["readyBy", "notUntil"] as const).filter((field) => procedure.plan[field] !== undefined),
    ...(procedure.meters.some((one) => one.within !== undefined) ? ["within"] : []),
    ...(["functions", "ofClean", "possible", "some", "wears"] as const).filter((field) =>
      procedure.steps.some((step) => field in step),
    ),
    ...(procedure.steps.some((step) => step.figure?.kind === "drawing") ? ["drawing"] : []),
    ...OF_STATES.filter((field) => procedure.steps.some((step) => step[field] !== undefined)),
  ];
}
