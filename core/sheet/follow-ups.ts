import { limitsOf, limitWords } from "./judge";
import { type SheetStep, sheetSteps } from "./next-steps";
import type { MachineFacts, Procedure, Step } from "./procedure";
import { isSettled, type LoggedText, type RunState } from "./run-state";

export interface FollowUp {
  kind: "fit-part" | "finding" | "incomplete" | "out-of-limit" | "interim";
  /** Id of the step; null when it was logged on none. */
  step: string | null;
  slot?: string;
  item?: string;
  severity: "minor" | "major" | "unsafe";
  because: string;
}

/**
 * What a sheet leaves to be done: findings, parts that were not fitted, work left out or cut short, readings beyond their limits
 * and measures that hold for the time being; in the sheet's order, and what was logged on no step of it at the end.
 *
 * A reading with its finding is one item, and so is a reading with the part that it asks for: fitted, nothing is left of it.
 *
 * @param procedure with nested procedures in place
 */
export function followUps(procedure: Procedure, state: RunState, machine: MachineFacts): FollowUp[] {
  return leftToDo(procedure, state, machine).map(({ eventId: _, ...one }) => one);
}

/** What is left, with the entry of the log that says so where one does. */
export type LeftToDo = FollowUp & { eventId?: string };

/** {@link followUps}, each with its entry. */
export function leftToDo(procedure: Procedure, state: RunState, machine: MachineFacts): LeftToDo[] {
  const steps = sheetSteps(procedure, state, machine);
  const closed = state.status === "signed" || state.status === "ended";
  const asked = partsAskedFor(steps);
  const onStep = <T extends { step: string | null }>(list: readonly T[]): Map<string, T[]> => {
    const byStep = new Map<string, T[]>();
    for (const one of list) if (one.step !== null) byStep.set(one.step, [...(byStep.get(one.step) ?? []), one]);
    return byStep;
  };
  const findings = onStep(state.findings);
  const interim = onStep(state.interim.filter((one) => one.ended === null));
  const shown = new Set(steps.map((one) => one.step));
  const isElsewhere = (one: { step: string | null }): boolean => one.step === null || !shown.has(one.step);
  return [
    ...steps.flatMap((one): LeftToDo[] => {
      const found = (findings.get(one.step) ?? []).map(asFinding);
      return [
        ...found,
        ...leftOpen(one, closed),
        ...(found.length === 0 && !asked.has(one.step) ? beyondLimit(one) : []),
        ...(interim.get(one.step) ?? []).map(asInterim),
      ];
    }),
    ...state.findings.filter(isElsewhere).map(asFinding),
    ...state.interim.filter((one) => one.ended === null && isElsewhere(one)).map(asInterim),
  ];
}

const asFinding = ({ eventId, step, severity, text }: LoggedText): LeftToDo => ({
  kind: "finding",
  eventId,
  step,
  severity: severity ?? "minor",
  because: text,
});

const asInterim = ({ eventId, step, text, until }: RunState["interim"][number]): LeftToDo => ({
  kind: "interim",
  eventId,
  step,
  severity: "minor",
  because: `${text}, until: ${until}`,
});

/** Steps that have to have read beyond their limits for a step to be on the sheet. */
const readingsBeyond = ({ when = [] }: Step): string[] =>
  when.flatMap((one) => ("step" in one && ["out", "low", "high"].includes(one.is) ? [one.step] : []));

/** Steps whose reading asks for a part: the part is what is left of it, or nothing. */
function partsAskedFor(steps: readonly SheetStep[]): Set<string> {
  return new Set(
    steps.flatMap(({ definition }) =>
      definition.kind === "replace" || definition.kind === "turn" ? readingsBeyond(definition) : [],
    ),
  );
}

/** What was left out, or cut short. */
function leftOpen({ step, definition, state }: SheetStep, closed: boolean): FollowUp[] {
  const skipped = state?.status === "skipped";
  const missed = closed && !isSettled(state);
  const short = state?.status === "done" && state.timer?.verdict === "short";
  if (!skipped && !missed && !short) return [];
  const why = skipped ? `left out: ${state.reason ?? ""}` : short ? "cut short" : "not done";
  const because = `${definition.title}: ${why}`;
  // Where those found worn alone are renewed, which they are is known to nobody else: the step itself is left.
  if (definition.kind === "turn" || (definition.kind === "replace" && !definition.some)) {
    const severity = readingsBeyond(definition).length > 0 || definition.critical ? "major" : "minor";
    return definition.slots
      .filter((slot) => !(state?.slots ?? []).includes(slot))
      .map((slot) => ({ kind: "fit-part", step, slot, item: definition.item, severity, because }));
  }
  return [{ kind: "incomplete", step, severity: definition.critical ? "major" : "minor", because }];
}

/** A reading that is beyond its limits as it was left. */
function beyondLimit({ step, definition, state }: SheetStep): FollowUp[] {
  if (definition.kind !== "measure" && definition.kind !== "reset") return [];
  const answer = state?.answer;
  if (answer !== "low" && answer !== "high") return [];
  const value = state?.readings.findLast((one) => !one.impossible);
  const limits = limitsOf(definition);
  const unit = value?.unit ?? "";
  return [
    {
      kind: "out-of-limit",
      step,
      severity: "minor",
      because: `${definition.title}: ${value ? `${value.value} ${unit}, ` : ""}${limits ? limitWords(limits, unit) : answer}`,
    },
  ];
}
