import {
  type FindStep,
  findStepOf,
  GuideSearch,
  type LearnedCause,
  type LoggedCheck,
  type Procedure,
  type RunState,
  type SheetStep,
  statesInForce,
  stepKey,
  UNKNOWN_CAUSE,
} from "@core";

import { inPercent } from "~/kit/in-percent";

/** Where the search of a fault's sheet stands; null until it is said what is wrong. */
export interface FindView {
  search: GuideSearch;
  /** Every check so far, those of earlier searches on the sheet among them. */
  checks: LoggedCheck[];
  /** What was found and remedied before, and did not cure it. */
  cured: string[];
}

/** What is complained of on a fault's sheet. */
export const symptomOf = (step: FindStep, run: RunState): FindStep["symptoms"][number] | null =>
  step.symptoms.find(({ id }) => id === run.steps[step.symptom]?.answer) ?? null;

/** @param learned of the symptom's causes, by what was found so far */
export function findView(
  procedure: Procedure,
  run: RunState,
  one: SheetStep & { definition: FindStep },
  options: readonly string[],
  learned: Readonly<Record<string, LearnedCause>> | undefined,
): FindView | null {
  const { definition: step, round } = one;
  const symptom = symptomOf(step, run)?.id;
  if (symptom === undefined) return null;
  const searches = Array.from({ length: round }, (_, i) => run.steps[stepKey(step.id, i + 1)]);
  const checks = searches.flatMap((at) => at?.checks ?? []);
  const cured = searches.slice(0, -1).flatMap((at) => (at?.answer && at.answer !== UNKNOWN_CAUSE ? [at.answer] : []));
  const search = new GuideSearch({
    ...{ step, states: procedure.states ?? [], symptom, options, checks, cured },
    inside: statesInForce(procedure, run),
    ...(learned && { learned }),
  });
  return { search, checks, cured };
}

/** What was found, of a search that is over; null while it goes on. */
export function foundOn(procedure: Procedure, run: RunState): { cause: string; step: FindStep; round: number } | null {
  const step = findStepOf(procedure);
  const [last] = step
    ? Object.values(run.steps)
        .filter((at) => at.step === step.id)
        .sort((a, b) => b.round - a.round)
    : [];
  if (!step || last?.status !== "done" || last.answer === null) return null;
  return { cause: last.answer, step, round: last.round };
}

/** A chance as people say it. */
export function chanceWords(chance: number): string {
  if (chance <= 0) return "ruled out";
  return chance < 0.01 ? "under 1 %" : inPercent(chance);
}

/** What a guide calls a cause. */
export const causeName = ({ causes }: Pick<FindStep, "causes">, id: string): string =>
  id === UNKNOWN_CAUSE ? "Nothing found" : (causes.find((one) => one.id === id)?.name ?? id);

/** A check with what it has shown, as both are written in the guide. */
export function checkLine(
  { checks }: FindStep,
  logged: Pick<LoggedCheck, "check" | "result" | "cause" | "note">,
): string {
  const check = checks.find((one) => one.id === logged.check);
  const { result, cause, note } = logged;
  const finds = check?.finds ?? [];
  const shown = finds.find((one) => one.cause === cause) ?? finds[0];
  const says = {
    found: shown?.shows ?? "found",
    clear: check?.clear ?? "as it should be",
    "left-out": `left out: ${note ?? "no reason"}`,
  }[result];
  return `${check?.title ?? logged.check}: ${says}`;
}
