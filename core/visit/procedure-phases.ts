import { must } from "../must";
import { pathsOfParts } from "../sheet/parts";
import type { MachineFacts, Procedure, Step } from "../sheet/procedure";
import { gateOf } from "../sheet/states";
import { usualSteps } from "../sheet/usual-steps";
import { type BenchPath, MACHINE } from "./bench-jobs";
import type { Phase, PhaseRef } from "./types";

export interface ProcedurePhases {
  /** The machine's own way. Its `after` names bench paths by `BenchPath.path`. */
  phases: Phase[];
  /** Ids of the steps in each phase. */
  steps: string[][];
  /** The ways that parts go on the bench, beside the machine's. */
  bench: PlannedBench[];
  /** Hands-on minutes in all phases, on the bench too. */
  handsOn: number;
  /** Least waiting minutes in all phases, on the bench too. */
  waiting: number;
  /** Steps that only come up when something is found, and what they would add. */
  likely: { step: string; title: string; minutes: number }[];
}

/** One way on the bench, with the ids of the steps in each phase. */
export interface PlannedBench extends BenchPath {
  steps: string[][];
}

interface Piece {
  kind: "hands" | "wait";
  minutes: number;
  maxMinutes?: number;
  needs: string[];
  steps: string[];
  after?: PhaseRef[];
}

/** A step without a figure of its own. */
const SHORT_STEP_MINUTES = 1;

/**
 * A procedure as phases of hands-on work and waits, for packing a visit: fitted options only, everything found as it should
 * be, the usual way where there are several, one round of what is repeated. Parts that go their own way on the bench are worked
 * beside the machine, from when they are off until they are put back.
 *
 * What may be done while a soak runs is put right behind its beginning, in one piece with it, so that the soak's longest
 * time holds; the rest of the soak is the wait.
 *
 * @param procedure with nested procedures and gates in place
 * @param handsOn hands-on minutes in all when they are known better than by the procedure's own figure
 * @param done steps that the customer has seen to before somebody comes (`beforehandOf`): their work and waits are none
 */
export function procedurePhases(
  procedure: Procedure,
  machine: Pick<MachineFacts, "options">,
  handsOn: number = procedure.minutes.handsOn,
  done: ReadonlySet<string> = new Set(),
): ProcedurePhases {
  const { steps, likely } = usualSteps(procedure, machine);
  const own = steps.reduce((sum, step) => sum + handsMinutes(step), 0);
  // The typical total is what people know; a step's minutes say how it is shared out.
  const lanes = layOut(procedure, steps, own > 0 ? handsOn / own : 0, done);
  const machineLane = must(lanes.get(MACHINE));
  if (own === 0 && handsOn > 0) machineLane.unshift(handsOn, steps);
  const bench = [...lanes].flatMap(([path, lane]): PlannedBench[] =>
    path === MACHINE ? [] : [{ path, after: lane.after, phases: lane.phases(), steps: lane.steps() }],
  );
  const phases = machineLane.phases();
  const all = [phases, ...bench.map((one) => one.phases)].flat();
  return {
    phases,
    steps: machineLane.steps(),
    bench,
    handsOn: total(all, "hands"),
    waiting: total(all, "wait"),
    likely: likely.map((step) => ({ step: step.id, title: step.title, minutes: handsMinutes(step) })),
  };
}

/** Each way with its steps in pieces, tied to each other where one waits for the other. */
function layOut(
  procedure: Procedure,
  steps: readonly Step[],
  scale: number,
  done: ReadonlySet<string>,
): Map<string, Lane> {
  const lanes = new Map<string, Lane>([[MACHINE, new Lane(scale, done)]]);
  const laneOf = (path: string): Lane => {
    const lane = lanes.get(path) ?? new Lane(scale, done);
    lanes.set(path, lane);
    return lane;
  };
  const paths = new PathsOfParts(procedure, steps);
  const inLane = new Map<string, Step[]>();
  for (const step of steps) {
    const own = inLane.get(pathOf(step));
    if (own) own.push(step);
    else inLane.set(pathOf(step), [step]);
  }
  /** How many steps of each way are laid out. */
  const laid = new Map<string, number>();
  const benchNeeds = steps.some((step) => step.path !== undefined && (step.state ?? []).length > 0);
  /** The last gate at the machine, and work on the bench that needs the machine as it is. */
  let gate: PhaseRef[] = [];
  let needing: PhaseRef[] = [];
  for (const step of steps) {
    const path = pathOf(step);
    const lane = laneOf(path);
    const isGate = gateOf(step) !== undefined;
    const needsMachine = path !== MACHINE && (step.state ?? []).length > 0;
    const ended = paths
      .endedBefore(step, [...lanes.keys()])
      .flatMap((one) => laneOf(one).end(one, (laid.get(one) ?? 0) < (inLane.get(one) ?? []).length));
    const after = [...ended, ...(isGate ? needing : []), ...(needsMachine ? gate : [])];
    if (after.length > 0) lane.cut(after);
    const behind = (laid.get(path) ?? 0) + 1;
    laid.set(path, behind);
    lane.add(step, () => (inLane.get(path) ?? []).slice(behind));
    if (isGate) [gate, needing] = [lane.end(path, benchNeeds), []];
    if (needsMachine) needing.push(...lane.end(path, true));
    if (step.opens !== undefined) laneOf(step.opens).after.push(...lane.end(path));
    if (needsMachine || step.opens !== undefined) lane.cut([]);
  }
  return lanes;
}

const pathOf = (step: Step): string => step.path ?? MACHINE;

/** Which parts go which way, and which ways have to have ended before a step. */
class PathsOfParts {
  readonly #pathsOf: Map<string, Set<string>>;
  /** Ways of parts that are left off. */
  readonly #left: Set<string>;

  constructor({ leaves }: Procedure, steps: readonly Step[]) {
    this.#pathsOf = pathsOfParts(steps);
    this.#left = new Set((leaves?.off ?? []).flatMap((item) => [...(this.#pathsOf.get(item) ?? [])]));
  }

  endedBefore(step: Step, begun: readonly string[]): string[] {
    const closes = step.kind === "prove" || step.kind === "hand-off";
    const paths = closes
      ? begun.filter((path) => !this.#left.has(path))
      : (step.putsBack ?? []).flatMap(({ item }) => [...(this.#pathsOf.get(item) ?? [])]);
    return [...new Set(paths)].filter((path) => path !== MACHINE && path !== pathOf(step));
  }
}

/** One way of a procedure on the way to phases. */
class Lane {
  readonly after: PhaseRef[] = [];
  readonly #pieces: Piece[] = [];
  readonly #scale: number;
  /** Steps that were put beside a wait already. */
  readonly #beside = new Set<string>();
  readonly #beforehand: ReadonlySet<string>;
  #cooled = false;
  /** What the next piece comes after; null when work may go on in the last one. */
  #next: PhaseRef[] | null = null;

  constructor(scale: number, beforehand: ReadonlySet<string>) {
    this.#scale = scale;
    this.#beforehand = beforehand;
  }

  /** What comes now is a piece of its own, and comes after something. */
  cut(after: readonly PhaseRef[]): void {
    this.#next = [...(this.#next ?? []), ...after];
  }

  /**
   * The last phase so far, as something to come after. A wait ends with what follows it: where that must not be waited for
   * (`more` is to come), its end is marked by work that takes no time.
   */
  end(path: string, more = false): PhaseRef[] {
    if (more && this.#pieces.at(-1)?.kind === "wait") {
      const next = this.#next;
      this.#next = null;
      this.#push({ kind: "hands", minutes: 0, needs: [], steps: [] });
      this.#next = next ?? [];
    }
    return this.#pieces.length > 0 ? [{ job: path, index: this.#pieces.length - 1 }] : [];
  }

  /** Adds a step; `rest` are those behind it on the same way. */
  add(step: Step, rest: () => readonly Step[]): void {
    if (this.#beside.has(step.id)) return;
    const isDone = this.#beforehand.has(step.id);
    // A gate is looked at all the same: only its wait is over.
    const minutes = isDone && !gateOf(step) ? 0 : handsMinutes(step) * this.#scale;
    if (minutes > 0 || (this.#next?.length ?? 0) > 0) this.#hands(step, minutes);
    // Cold once, it stays cold: a nested procedure's own cool-down is over already. Gates that were placed know better.
    const placed = gateOf(step) !== undefined;
    const wait = isDone || (step.kind === "safety" && this.#cooled && !placed) ? null : waitOf(step);
    if (!wait) return;
    this.#cooled ||= step.kind === "safety" && !placed;
    // On the bench a part waits for its sink: it goes in when there is room.
    if (this.#pieces.length === 0 && step.path !== undefined)
      this.#push({ kind: "hands", minutes: 0, needs: [], steps: [] });
    const during = step.kind === "wait" ? this.#meanwhile(step, rest()) : 0;
    const left = Math.max(0, wait.minMinutes - during);
    if (left === 0 && wait.maxMinutes === undefined) return;
    this.#push({
      kind: "wait",
      minutes: left,
      ...(wait.maxMinutes === undefined ? {} : { maxMinutes: Math.max(left, wait.maxMinutes - during) }),
      needs: step.needs ?? [],
      steps: [step.id],
    });
  }

  /** Puts what may be done while a wait runs right behind its beginning. @returns its minutes */
  #meanwhile(step: Extract<Step, { kind: "wait" }>, rest: readonly Step[]): number {
    const start = this.#pieces[this.#pieces.length - 1];
    if (start?.kind !== "hands" || this.#next) return 0;
    let during = 0;
    for (const next of rest) {
      const more = handsMinutes(next) * this.#scale;
      const tied = next.opens ?? next.putsBack ?? next.takesOff;
      if (
        !(step.meanwhile ?? []).includes(next.id) ||
        waitOf(next) ||
        tied ||
        during + more > (step.maxMinutes ?? Infinity)
      )
        break;
      during += more;
      this.#beside.add(next.id);
      start.steps.push(next.id);
      start.needs = [...new Set([...start.needs, ...(step.needs ?? []), ...(next.needs ?? [])])];
    }
    start.minutes += during;
    return during;
  }

  #hands(step: Step, minutes: number): void {
    const needs = step.needs ?? [];
    const last = this.#pieces[this.#pieces.length - 1];
    if (!this.#next && last?.kind === "hands" && sameNeeds(last.needs, needs)) {
      last.minutes += minutes;
      last.steps.push(step.id);
    } else this.#push({ kind: "hands", minutes, needs, steps: minutes > 0 ? [step.id] : [] });
  }

  #push(piece: Piece): void {
    this.#pieces.push(this.#next && this.#next.length > 0 ? { ...piece, after: this.#next } : piece);
    this.#next = null;
  }

  /** All the work as one piece, for a procedure whose steps have no minutes. */
  unshift(minutes: number, steps: readonly Step[]): void {
    this.#pieces.unshift({ kind: "hands", minutes, needs: [], steps: steps.map((step) => step.id) });
  }

  phases(): Phase[] {
    // A wait at the very end has nothing after it that could come too late.
    return this.#pieces.map((piece, i) => {
      const { maxMinutes: _longest, ...open } = piece;
      return asPhase(piece.kind === "wait" && i === this.#pieces.length - 1 ? open : piece);
    });
  }

  steps(): string[][] {
    return this.#pieces.map((piece) => piece.steps);
  }
}

function asPhase({ kind, minutes, maxMinutes, needs, steps, after }: Piece): Phase {
  const uses = needs.length > 0 ? { uses: needs } : {};
  if (kind === "hands") {
    const least = steps.length > 0 && minutes > 0 ? 1 : 0;
    return { kind, minutes: Math.max(least, Math.round(minutes)), ...uses, ...(after ? { after } : {}) };
  }
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
