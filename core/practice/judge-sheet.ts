import { instantMs } from "../days/parse-instant";
import { plainNumber } from "../numbers";
import { foldRun } from "../sheet/fold-run";
import { minutesBetween, timedBounds } from "../sheet/judge";
import { type SheetStep, sheetSteps } from "../sheet/next-steps";
import type { Procedure, Step } from "../sheet/procedure";
import type { RunEvent } from "../sheet/run-event";
import { isSettled, type StepState } from "../sheet/run-state";
import { gateOf } from "../sheet/states";
import { unsafeWork } from "../sheet/unsafe-work";
import { usualSteps } from "../sheet/usual-steps";
import { visitJobs } from "../visit/bench-jobs";
import { packVisit } from "../visit/pack-visit";
import { procedurePhases } from "../visit/procedure-phases";
import { judged, type PracticeResult } from "./judge-fault";
import { shownAt } from "./sheet-machine";

/** Read so near to what the gauge shows is read right. */
const READ_RIGHT = 0.02;
/** A step without minutes of its own. */
const SHORT_STEP_MINUTES = 1;
/** Enough to find the best order of one sheet; with it the same answer on any machine. */
const NODES = 20_000;

/** A whole sheet on a practice machine. */
export interface SheetPractice {
  procedure: Procedure;
  seed: number;
  options: string[];
}

/** Hands-on minutes that a step takes in practice. */
const minutesOfStep = (step: Step): number => step.minutes ?? (gateOf(step) ? 0.5 : SHORT_STEP_MINUTES);

/** Minutes that what is logged has taken: a step's own, shared out over its entries. */
export function minutesOfEntry(step: Step, { type }: Pick<RunEvent, "type">): number {
  const minutes = minutesOfStep(step);
  switch (type) {
    case "step-done":
      return step.kind === "replace" || step.kind === "measure" ? 0 : minutes;
    case "safety-confirmed":
    case "mixed":
      return minutes;
    case "reading":
      return step.kind === "measure" ? minutes / (step.points?.length ?? step.trials ?? 1) : 0;
    case "counted":
      return step.kind === "count" ? minutes / step.times : 0;
    case "part-fitted":
    case "part-turned":
      return step.kind === "replace" || step.kind === "turn" ? minutes / step.slots.length : 0;
    case "timer-started":
      return step.kind === "wait" ? (step.minutes ?? 0) : 0;
    default:
      return 0;
  }
}

/**
 * What a practised sheet came to: what the machine showed against what was logged of it, soaks, what was left out, left off or left
 * on.
 *
 * @param events in the machine's own time
 */
export function judgeSheet({ procedure, seed, options }: SheetPractice, events: readonly RunEvent[]): PracticeResult {
  const machine = { options, slots: {} };
  const state = foldRun(procedure, events);
  const steps = sheetSteps(procedure, state, machine);
  const times = events.map((one) => instantMs(one.at, "at"));
  const begun = Math.min(...times);
  const family = procedure.family;
  const unsafe = unsafeWork(procedure, events, machine).map((one) => one.because);
  const forgotten: string[] = [];
  for (const one of steps) {
    const { definition, state: at } = one;
    if (!isSettled(at)) forgotten.push(`Not done: ${definition.title}.`);
    else if (at?.status === "skipped") forgotten.push(`Left out: ${definition.title}.`);
    else if (at) {
      const minuteOf = (when: string): number => (instantMs(when, "at") - begun) / 60_000;
      forgotten.push(...misread({ family, seed }, one, at, minuteOf));
      const soak = soakWords(definition, at);
      if (soak) (soak.harms ? unsafe : forgotten).push(soak.text);
    }
  }
  const leaves = procedure.leaves?.off ?? [];
  for (const { item, count } of state.ledger.filter((one) => !leaves.includes(one.item)))
    forgotten.push(`Left off the machine: ${count > 1 ? `${count} × ` : ""}${item}.`);
  const minutes = events.length === 0 ? 0 : (Math.max(...times) - begun) / 60_000;
  return judged(
    { minutes, unsafe, forgotten, isSolved: events.length > 0 && steps.every((one) => isSettled(one.state)) },
    bestMinutes({ procedure, options }, steps),
  );
}

/** The sheet with its waits used as well as they can be, and what this machine asked for beyond the usual. */
function bestMinutes(
  { procedure, options }: Pick<SheetPractice, "procedure" | "options">,
  steps: readonly SheetStep[],
): number {
  const usual = usualSteps(procedure, { options }).steps;
  const own = usual.reduce((sum, step) => sum + minutesOfStep(step), 0);
  const { phases, bench } = procedurePhases(procedure, { options }, own);
  const jobs = visitJobs({ id: "sheet" }, { phases, bench });
  const shared = new Set(jobs.flatMap((job) => job.phases.flatMap((phase) => phase.uses ?? [])));
  const resources = [...shared].map((id) => ({ id, capacity: 1 }));
  const { makespan } = packVisit({ technicians: 1, jobs, resources }, { nodeLimit: NODES });
  const ids = new Set(usual.map((one) => one.id));
  const more = steps
    .filter((one) => one.round > 1 || !ids.has(one.step))
    .reduce((sum, one) => sum + minutesOfStep(one.definition) + (timedBounds(one.definition)?.minMinutes ?? 0), 0);
  return makespan + more;
}

/** What was logged otherwise than the machine showed it. */
function misread(
  machine: { family: string; seed: number },
  { definition: step, round }: SheetStep,
  at: StepState,
  minuteOf: (when: string) => number,
): string[] {
  const shows = (attempt: number, minute: number) => shownAt(machine, step, { round, attempt, minute });
  if (step.kind === "inspect" || step.kind === "prove") {
    const shown = shows(0, 0);
    if (shown?.kind !== "state" || (at.answer === "ok") === shown.isGood) return [];
    return [
      shown.isGood
        ? `“${step.title}” was as it should be, and logged otherwise.`
        : `Not seen: “${step.title}” was not as it should be.`,
    ];
  }
  if (step.kind === "replace" && at.status === "done") {
    const shown = shows(0, 0);
    const left = shown?.kind === "worn" ? shown.slots.filter((slot) => !at.slots.includes(slot)) : [];
    return left.length === 0 ? [] : [`“${step.title}”: ${left.length} worn and not renewed.`];
  }
  if (step.kind === "repeat") {
    const shown = shows(0, 0);
    return shown?.kind === "again" && shown.isAgain && at.answer !== "again"
      ? [`“${step.title}”: it was not clean yet.`]
      : [];
  }
  const seen = new Map<number, number>();
  return at.readings.flatMap(({ point, value, unit, at: when }) => {
    const attempt = seen.get(point) ?? 0;
    seen.set(point, attempt + 1);
    const shown = shows(attempt, minuteOf(when));
    const figure =
      shown?.kind === "values" ? shown.values[point] : shown?.kind === "surface" ? shown.celsius : undefined;
    if (figure === undefined || Math.abs(value - figure) <= Math.max(Math.abs(figure) * READ_RIGHT, 0.6 * last(figure)))
      return [];
    return [`Misread at “${step.title}”: ${plainNumber(value)} ${unit}, it showed ${plainNumber(figure)} ${unit}.`];
  });
}

/** The worth of a figure's last place. */
function last(figure: number): number {
  const places = /\.(\d+)$/.exec(String(figure))?.[1]?.length ?? 0;
  return 10 ** -places;
}

function soakWords(step: Step, at: StepState): { text: string; harms: boolean } | null {
  const bounds = timedBounds(step);
  const { timer } = at;
  if (step.kind !== "wait" || !bounds || !timer?.stoppedAt) return null;
  const minutes = Math.round(minutesBetween(timer.startedAt, timer.stoppedAt) * 10) / 10;
  if (timer.verdict === "short")
    return {
      text: `“${step.title}” ended after ${plainNumber(minutes)} of ${plainNumber(step.minMinutes)} min. ${step.ifShort ?? ""}`.trim(),
      harms: false,
    };
  if (timer.verdict === "long")
    return {
      text: `“${step.title}” lasted ${plainNumber(minutes)} min, at most ${plainNumber(step.maxMinutes ?? 0)}. ${step.ifLong ?? ""}`.trim(),
      harms: true,
    };
  return null;
}
