import type { MachineFacts, Procedure, Step } from "../sheet/procedure";
import { usualSteps } from "../sheet/usual-steps";
import type { Phase } from "./types";

export interface ProcedurePhases {
  phases: Phase[];
  /** Ids of the steps in each phase. */
  steps: string[][];
  /** Hands-on minutes in all phases. */
  handsOn: number;
  /** Least waiting minutes in all phases. */
  waiting: number;
  /** Steps that only come up when something is found, and what they would add. */
  likely: { step: string; title: string; minutes: number }[];
}

interface Piece {
  kind: "hands" | "wait";
  minutes: number;
  maxMinutes?: number;
  needs: string[];
  steps: string[];
}

/** A step without a figure of its own. */
const SHORT_STEP_MINUTES = 1;

/**
 * A procedure as phases of hands-on work and waits, for packing a visit: fitted options only, everything found as it should
 * be, the usual way where there are several, one round of what is repeated.
 *
 * What may be done while a soak runs is put right behind its beginning, in one piece with it, so that the soak's longest
 * time holds; the rest of the soak is the wait.
 *
 * @param procedure with nested procedures in place
 * @param handsOn hands-on minutes in all when they are known better than by the procedure's own figure
 */
export function procedurePhases(
  procedure: Procedure,
  machine: Pick<MachineFacts, "options">,
  handsOn: number = procedure.minutes.handsOn,
): ProcedurePhases {
  const { steps, likely } = usualSteps(procedure, machine);
  const own = steps.reduce((sum, step) => sum + handsMinutes(step), 0);
  // The typical total is what people know; a step's minutes say how it is shared out.
  const scale = own > 0 ? handsOn / own : 0;
  const pieces: Piece[] = [];
  const meanwhileDone = new Set<string>();
  let cooled = false;
  const hands = (step: Step, minutes: number): void => {
    const needs = step.needs ?? [];
    const last = pieces[pieces.length - 1];
    if (last?.kind === "hands" && sameNeeds(last.needs, needs)) {
      last.minutes += minutes;
      last.steps.push(step.id);
    } else pieces.push({ kind: "hands", minutes, needs, steps: [step.id] });
  };

  steps.forEach((step, i) => {
    if (meanwhileDone.has(step.id)) return;
    const minutes = handsMinutes(step) * scale;
    if (minutes > 0) hands(step, minutes);
    // Cold once, it stays cold: a nested procedure's own cool-down is over already.
    const wait = step.kind === "safety" && cooled ? null : waitOf(step);
    if (!wait) return;
    cooled ||= step.kind === "safety";
    const start = pieces[pieces.length - 1];
    let during = 0;
    if (step.kind === "wait" && start?.kind === "hands") {
      for (const next of steps.slice(i + 1)) {
        const more = handsMinutes(next) * scale;
        if (!(step.meanwhile ?? []).includes(next.id) || waitOf(next) || during + more > (step.maxMinutes ?? Infinity))
          break;
        during += more;
        meanwhileDone.add(next.id);
        start.steps.push(next.id);
        start.needs = [...new Set([...start.needs, ...(step.needs ?? []), ...(next.needs ?? [])])];
      }
      start.minutes += during;
    }
    const left = Math.max(0, wait.minMinutes - during);
    if (left === 0 && wait.maxMinutes === undefined) return;
    pieces.push({
      kind: "wait",
      minutes: left,
      ...(wait.maxMinutes === undefined ? {} : { maxMinutes: Math.max(left, wait.maxMinutes - during) }),
      needs: step.needs ?? [],
      steps: [step.id],
    });
  });
  if (own === 0 && handsOn > 0)
    pieces.unshift({ kind: "hands", minutes: handsOn, needs: [], steps: steps.map((step) => step.id) });
  // A wait at the very end has nothing after it that could come too late.
  const last = pieces[pieces.length - 1];
  if (last?.kind === "wait") delete last.maxMinutes;

  const phases = pieces.map(asPhase);
  return {
    phases,
    steps: pieces.map((piece) => piece.steps),
    handsOn: total(phases, "hands"),
    waiting: total(phases, "wait"),
    likely: likely.map((step) => ({ step: step.id, title: step.title, minutes: handsMinutes(step) })),
  };
}

function asPhase({ kind, minutes, maxMinutes, needs }: Piece): Phase {
  const uses = needs.length > 0 ? { uses: needs } : {};
  if (kind === "hands") return { kind, minutes: Math.max(1, Math.round(minutes)), ...uses };
  const least = Math.max(0, Math.ceil(minutes - 1e-9));
  return {
    kind,
    minutes: least,
    ...(maxMinutes === undefined ? {} : { maxMinutes: Math.max(least, Math.floor(maxMinutes + 1e-9)) }),
    ...uses,
  };
}

function total(phases: readonly Phase[], kind: Phase["kind"]): number {
  return phases.reduce((sum, phase) => (phase.kind === kind ? sum + phase.minutes : sum), 0);
}

function handsMinutes(step: Step): number {
  if (step.kind === "hand-off") return 0;
  if (step.kind !== "wait") return step.minutes ?? SHORT_STEP_MINUTES;
  return (step.minutes ?? 0) + (step.attended ? step.minMinutes : 0);
}

function waitOf(step: Step): { minMinutes: number; maxMinutes?: number | undefined } | null {
  if (step.kind === "wait" && !step.attended) return { minMinutes: step.minMinutes, maxMinutes: step.maxMinutes };
  if (step.kind === "safety" && step.coolDown?.minutes !== undefined) return { minMinutes: step.coolDown.minutes };
  return null;
}

function sameNeeds(a: readonly string[], b: readonly string[]): boolean {
  return a.length === b.length && a.every((one) => b.includes(one));
}
