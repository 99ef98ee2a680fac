import {
  GuideSearch,
  type LoggedCheck,
  must,
  type Procedure,
  type RunState,
  type SheetStep,
  statesInForce,
  type Step,
  stepKey,
  UNKNOWN_CAUSE,
} from "@core";

type Find = Extract<Step, { kind: "find" }>;

/** Where the search of a fault's sheet stands; null until it is said what is wrong. */
export interface FindView {
  search: GuideSearch;
  /** Every check so far, those of earlier searches on the sheet among them. */
  checks: LoggedCheck[];
  /** What was found and remedied before, and did not cure it. */
  cured: string[];
}

/** @param learned chances of this symptom's causes, by what was found so far */
export function findView(
  procedure: Procedure,
  run: RunState,
  one: SheetStep & { definition: Find },
  options: readonly string[],
  learned: Readonly<Record<string, number>> | undefined,
): FindView | null {
  const { definition: step, round } = one;
  const symptom = run.steps[step.symptom]?.answer ?? null;
  if (symptom === null || !step.symptoms.some(({ id }) => id === symptom)) return null;
  const searches = Array.from({ length: round }, (_, i) => run.steps[stepKey(step.id, i + 1)]);
  const checks = searches.flatMap((at) => at?.checks ?? []);
  const cured = searches.slice(0, -1).flatMap((at) => (at?.answer && at.answer !== UNKNOWN_CAUSE ? [at.answer] : []));
  const search = new GuideSearch({
    ...{ step, states: procedure.states ?? [], symptom, options, checks, cured },
    inside: statesInForce(procedure, run),
    ...(learned && { weights: learned }),
  });
  return { search, checks, cured };
}

/** What was found, of a search that is over; null while it goes on. */
export function foundOn(procedure: Procedure, run: RunState): { cause: string; step: Find; round: number } | null {
  const step = procedure.steps.find((one): one is Find => one.kind === "find");
  if (!step) return null;
  for (let round = 99; round >= 1; round--) {
    const at = run.steps[stepKey(step.id, round)];
    if (at) return at.answer === null || at.status !== "done" ? null : { cause: at.answer, step, round };
  }
  return null;
}

/** A chance as people say it. */
export function chanceWords(chance: number): string {
  if (chance <= 0) return "ruled out";
  if (chance < 0.005) return "under 1 %";
  return `${Math.round(chance * 100)} %`;
}

/** Minutes in words; short ones by the minute. */
export const minutesWords = (minutes: number): string =>
  minutes < 60
    ? `${Math.max(1, Math.round(minutes))} min`
    : `${Math.floor(minutes / 60)} h ${Math.round(minutes % 60)} min`;

/** What a check has shown, as it is written in the guide. */
export function shownBy(step: Find, logged: LoggedCheck): string {
  const check = step.checks.find((one) => one.id === logged.check);
  if (logged.result === "left-out") return `left out: ${logged.note ?? "no reason"}`;
  if (logged.result === "clear") return check?.clear ?? "as it should be";
  return must(check?.finds.find((one) => one.cause === logged.cause) ?? check?.finds[0]).shows;
}
