import { isRecord } from "../inputs";
import { isAsFound } from "../wear/tune-interval";
import type { Procedure, Step } from "./procedure";
import type { Correction, EventOf, RunEvent, RunEventType } from "./run-event";

/** Answer of a search that found nothing. */
export const UNKNOWN_CAUSE = "unknown";

/** Every kind of entry, and whether it is logged on a step. */
const KINDS: Record<RunEventType, "sheet" | "step"> = {
  started: "sheet",
  "safety-confirmed": "step",
  "step-done": "step",
  "step-not-applicable": "step",
  "step-skipped": "step",
  checked: "step",
  "gate-passed": "step",
  counted: "step",
  reading: "step",
  "wear-decided": "step",
  "as-found": "sheet",
  "timer-started": "step",
  "timer-stopped": "step",
  "part-fitted": "step",
  "part-turned": "step",
  mixed: "step",
  "consumable-used": "sheet",
  note: "sheet",
  finding: "sheet",
  photo: "sheet",
  interim: "sheet",
  "interim-ended": "sheet",
  "put-right": "sheet",
  "handed-over": "sheet",
  "lock-lifted": "sheet",
  paused: "sheet",
  resumed: "sheet",
  undone: "sheet",
  corrected: "sheet",
  signed: "sheet",
  outcome: "sheet",
};

/** What of a log this version can read: anything else, from a newer device for example, is kept and changes nothing. */
export class ReadableEvents {
  readonly #steps: ReadonlyMap<string, Step>;
  readonly #states: ReadonlySet<string>;
  /** Passes that the block around a step has at most. */
  readonly #mostRounds = new Map<string, number>();

  constructor(procedure: Procedure, steps: ReadonlyMap<string, Step>) {
    this.#steps = steps;
    this.#states = new Set((procedure.states ?? []).map((one) => one.id));
    const place = new Map(procedure.steps.map((step, i) => [step.id, i]));
    procedure.steps.forEach((step, end) => {
      if (step.kind !== "repeat" || step.maxRounds === undefined) return;
      for (let i = place.get(step.from) ?? end; i <= end; i++) {
        const inner = procedure.steps[i]?.id ?? step.id;
        this.#mostRounds.set(inner, Math.min(step.maxRounds, this.#mostRounds.get(inner) ?? Infinity));
      }
    });
  }

  mostRounds(step: string): number {
    return this.#mostRounds.get(step) ?? Infinity;
  }

  isReadable(event: RunEvent): boolean {
    if (!Object.hasOwn(KINDS, event.type)) return false;
    const kind = KINDS[event.type];
    const { step, round } = event as { step?: string; round?: number };
    if (step === undefined ? kind === "step" : !this.#steps.has(step)) return false;
    if (kind === "step" && !this.#isRound(step ?? "", round)) return false;
    return this.#isWhole(event);
  }

  #isRound(step: string, round: number | undefined): boolean {
    return round !== undefined && Number.isInteger(round) && round >= 1 && round <= this.mostRounds(step);
  }

  /** Whether the fields that are counted with are there. */
  #isWhole(event: RunEvent): boolean {
    switch (event.type) {
      case "reading":
        return Number.isFinite(event.value) && this.#isPoint(event.step, event.point) && isAsked(event.asked);
      case "started":
        return isBeginning(event.begins);
      case "step-done":
        return isCounted(event.off) && isCounted(event.back) && isTried(event.results);
      case "checked":
        return this.#isCheck(event);
      case "gate-passed":
        return this.#isGate(event);
      case "wear-decided":
        return this.#isDecision(event);
      case "as-found":
        return isAsFound(event.found);
      case "consumable-used":
      case "part-fitted":
        return Number.isFinite(event.qty);
      case "part-turned":
        return Number.isFinite(event.usesLeft);
      case "mixed":
        return Array.isArray(event.amounts) && event.amounts.every(({ ml }) => Number.isFinite(ml));
      case "put-right":
        return typeof event.item === "string";
      case "outcome":
        return event.part === undefined || (isRecord(event.part) && typeof event.part.item === "string");
      case "signed":
        return event.role === "technician" || ((event.role as string) === "customer" && isListed(event.sheets));
      default:
        return true;
    }
  }

  #isGate({ step, state, way }: EventOf<"gate-passed">): boolean {
    return this.#steps.get(step)?.kind === "find" && this.#states.has(state) && isWay(way);
  }

  #isDecision({ step: id, choice, chance = 0 }: EventOf<"wear-decided">): boolean {
    const step = this.#steps.get(id);
    const isOne = step?.kind === "measure" && step.wears !== undefined && ["now", "next"].includes(choice);
    return isOne && Number.isFinite(chance);
  }

  /** Whether a search has that check, and the check can show that cause. */
  #isCheck(event: EventOf<"checked">): boolean {
    const step = this.#steps.get(event.step);
    const check = step?.kind === "find" ? step.checks.find((one) => one.id === event.check) : undefined;
    if (!check || !["found", "clear", "left-out"].includes(event.result)) return false;
    return event.result !== "found" || this.causeOf(event) !== null;
  }

  /** What a check has found: the cause that is named, or the only one that it can show. */
  causeOf({ step: id, check: name, result, cause }: EventOf<"checked">): string | null {
    const step = this.#steps.get(id);
    if (result !== "found" || step?.kind !== "find") return null;
    const finds = step.checks.find((one) => one.id === name)?.finds ?? [];
    if (cause === undefined) return finds.length === 1 ? (finds[0]?.cause ?? null) : null;
    return finds.some((one) => one.cause === cause) ? cause : null;
  }

  #isPoint(id: string, point: number | undefined): boolean {
    const step = this.#steps.get(id);
    return (
      point === undefined || (step !== undefined && Number.isInteger(point) && point >= 0 && point < pointsOf(step))
    );
  }

  /** Whether a correction can be applied to an entry. */
  corrects(set: unknown, event: RunEvent): set is Correction {
    if (set === null || typeof set !== "object" || Array.isArray(set)) return false;
    const { value, qty, text, answer, lot, slot } = set as Correction;
    const numbers = [value, qty].every((one) => one === undefined || Number.isFinite(one));
    const texts = [text, answer, lot, slot].every((one) => one === undefined || typeof one === "string");
    if (event.type === "as-found" && answer !== undefined && !isAsFound(answer)) return false;
    return numbers && texts && (answer === undefined || !("step" in event) || this.mayAnswer(event.step ?? "", answer));
  }

  /** A choice has one of its own answers; other steps take what they are given. */
  mayAnswer(id: string, answer: string | null): boolean {
    const step = this.#steps.get(id);
    if (step?.kind === "choose") return step.schools.some((one) => one.id === answer);
    if (step?.kind === "decide") return step.branches.some((one) => one.id === answer);
    if (step?.kind === "find") return answer === UNKNOWN_CAUSE || step.causes.some((one) => one.id === answer);
    return true;
  }
}

const isWay = (way: unknown): boolean => way === "in" || way === "out";

/** Readings that a step takes, one a point or trial. */
export const pointsOf = (step: Step): number =>
  step.kind === "measure" ? (step.points?.length ?? step.trials ?? 1) : 1;

/** Whether a list, where there is one, holds words alone. */
function isListed(list: unknown): boolean {
  return list === undefined || (Array.isArray(list) && list.every((one) => typeof one === "string"));
}

/** Whether a list of parts, where there is one, says how many of each, and the rest in words. */
function isCounted(list: unknown): boolean {
  if (list === undefined) return true;
  if (!Array.isArray(list)) return false;
  return list.every((one: unknown) => {
    if (!isRecord(one)) return false;
    const { item, count, wayRound, place, path } = one;
    const words = [wayRound, place, path].every((text) => text === undefined || typeof text === "string");
    return typeof item === "string" && Number.isInteger(count) && (count as number) >= 0 && words;
  });
}

/** Whether the answer of somebody who was asked about a value, where there is one, is one of those. */
function isAsked(asked: unknown): boolean {
  if (asked === undefined) return true;
  if (!isRecord(asked) || !["right", "replaced"].includes(String(asked["answer"]))) return false;
  return asked["oldValue"] === undefined || Number.isFinite(asked["oldValue"]);
}

/** Whether the functions of a proof, where there are any, say how they were. */
function isTried(results: unknown): boolean {
  if (results === undefined) return true;
  if (!Array.isArray(results)) return false;
  return results.every((one: unknown) => {
    if (!isRecord(one)) return false;
    const { function: name, ok, note } = one;
    return typeof name === "string" && typeof ok === "boolean" && (note === undefined || typeof note === "string");
  });
}

/** Whether what a sheet begins with, where it does, is states and parts. */
export function isBeginning(begins: unknown): boolean {
  if (begins === undefined || begins === null) return true;
  if (!isRecord(begins)) return false;
  const { states, off, heldBy, baselines } = begins;
  const clean =
    baselines === undefined ||
    (isRecord(baselines) && Object.values(baselines).every((value) => Number.isFinite(value)));
  const named = states === undefined || (Array.isArray(states) && states.every((one) => typeof one === "string"));
  return named && isCounted(off) && (heldBy === undefined || typeof heldBy === "string") && clean;
}
