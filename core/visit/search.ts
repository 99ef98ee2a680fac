import type { Effort } from "../effort";
import { decideHolds, decideStartsWith } from "./decide-waits";
import { EMPTY, FIRST_BEFORE, HOLDS, NOT_FIRST_BEFORE, NOT_SECOND_BEFORE, SECOND_BEFORE } from "./decided";
import { looseFirstWait, type StartsWith } from "./first-waits";
import type { VisitModel } from "./model";
import type { Network } from "./network";
import { SAME_TECHNICIAN } from "./pairs";
import { measure, type Placement, shareOut } from "./placement";

export interface SearchLimits {
  /** Contradictions after which to give up. */
  fails: number;
  /** Only schedules with a smaller sum of the jobs' ends. */
  sumBelow?: number;
  /** A schedule whose order is tried first. */
  guide: Placement | null;
}

/** `exhausted`: there is no schedule under the decisions in force. */
export type SearchOutcome = { found: Placement } | "exhausted" | "gave up" | "stopped";

type Decision =
  | { kind: "pair"; k: number; bit: number; otherwise: number }
  | { kind: "technician"; p: number; bit: number }
  | { kind: "holds"; p: number; holds: boolean }
  | StartsWith
  /** Nothing is left that could be decided differently. */
  | { kind: "dead end" };

/**
 * Depth-first search below the network's present state: takes a pair that has to take turns, puts one before the other,
 * and the other way round when that leads nowhere. The earliest times are a schedule as soon as nothing collides in them.
 * The network is left as it was.
 *
 * Pairs whose times leave least room and that failed most are decided first, in the order of the best schedule known:
 * D. Grimes, E. Hebrard, "Job Shop Scheduling with Setup Times and Maximal Time-Lags: A Simple Constraint Programming
 * Approach", CPAIOR 2010 (from memory).
 */
export function searchBelow(network: Network, limits: SearchLimits, effort: Effort): SearchOutcome {
  const stack: { decision: Decision; second: boolean }[] = [];
  let fails = 0;
  const fits = (): boolean => limits.sumBelow === undefined || sumOfEnds(network) < limits.sumBelow;
  const leave = (outcome: SearchOutcome): SearchOutcome => {
    for (let i = 0; i < stack.length; i++) network.undo();
    return outcome;
  };

  let consistent = fits();
  for (;;) {
    if (consistent) {
      const decision = nextDecision(network, limits.guide);
      if (decision === null) return leave({ found: read(network) });
      if (!effort.step()) return leave("stopped");
      network.mark();
      stack.push({ decision, second: false });
      consistent = apply(network, decision, false) && fits();
    } else {
      network.blame();
      fails++;
      // The last choice that has another side.
      while (stack.length > 0 && stack[stack.length - 1]!.second) {
        network.undo();
        stack.pop();
      }
      const last = stack[stack.length - 1];
      if (!last) return "exhausted";
      if (fails >= limits.fails) return leave("gave up");
      if (!effort.step()) return leave("stopped");
      network.undo();
      network.mark();
      last.second = true;
      consistent = apply(network, last.decision, true) && fits();
    }
  }
}

function apply(network: Network, decision: Decision, second: boolean): boolean {
  switch (decision.kind) {
    case "pair":
      return network.decidePair(decision.k, second ? decision.otherwise : decision.bit);
    case "technician":
      return network.decideTechnician(decision.p, decision.bit, !second);
    case "holds":
      return decideHolds(network, decision.p, second ? !decision.holds : decision.holds);
    case "starts with":
      return decideStartsWith(network, decision, !second);
    case "dead end":
      return false;
  }
}

/** What to decide next; null when the earliest times are a schedule. */
function nextDecision(network: Network, guide: Placement | null): Decision | null {
  return (
    tightestPair(network, guide) ??
    (network.model.maybeEmpty.length > 0 ? undecidedWait(network) : null) ??
    overfull(network, guide) ??
    (network.model.firstWaits.length > 0 ? looseFirstWait(network) : null) ??
    (network.model.distinct ? unassigned(network, guide) : null)
  );
}

/** Of the pairs that must take turns and collide in the earliest times, the one with least room for its trouble so far. */
function tightestPair(network: Network, guide: Placement | null): Decision | null {
  const { pairs, pairWeight } = network;
  let best = -1;
  let least = Infinity;
  for (let k = 0; k < pairs.count; k++) {
    if (network.pairState(k) & (FIRST_BEFORE | SECOND_BEFORE)) continue;
    const p = pairs.first[k]!;
    const q = pairs.second[k]!;
    if (!network.mustTakeTurns(k)) continue;
    const startP = network.earliestStart(p);
    const startQ = network.earliestStart(q);
    const endP = network.earliestEnd(p);
    const endQ = network.earliestEnd(q);
    if (startP >= endQ || startQ >= endP) continue;
    const room = (network.latestStart(p) - startP + network.latestStart(q) - startQ + 2) / pairWeight[k]!;
    if (room < least) {
      least = room;
      best = k;
    }
  }
  if (best < 0) return null;
  const firstFirst = goesFirst(network, pairs.first[best]!, pairs.second[best]!, guide);
  return firstFirst
    ? { kind: "pair", k: best, bit: FIRST_BEFORE, otherwise: SECOND_BEFORE }
    : { kind: "pair", k: best, bit: SECOND_BEFORE, otherwise: FIRST_BEFORE };
}

/** Sum of the jobs' ends in the earliest times. */
function sumOfEnds(network: Network): number {
  let sum = 0;
  const { firstPhase } = network.model;
  for (let j = 0; j + 1 < firstPhase.length; j++)
    if (firstPhase[j + 1]! > firstPhase[j]!) sum += network.earliestEnd(firstPhase[j + 1]! - 1);
  return sum;
}

/** As in the guide; without one, the way round that leaves more room. */
function goesFirst(network: Network, p: number, q: number, guide: Placement | null): boolean {
  if (guide) {
    if (guide.end[p]! <= guide.start[q]!) return true;
    if (guide.end[q]! <= guide.start[p]!) return false;
  }
  const room = network.latestStart(q) - network.earliestEnd(p);
  const otherRoom = network.latestStart(p) - network.earliestEnd(q);
  return room > otherRoom || (room === otherRoom && network.earliestStart(p) <= network.earliestStart(q));
}

/** A wait that may take no time at all, but does in the earliest times. */
function undecidedWait(network: Network): Decision | null {
  for (const p of network.model.maybeEmpty) {
    if (network.holds(p) !== HOLDS && network.holds(p) !== EMPTY && network.earliestEnd(p) > network.earliestStart(p))
      return { kind: "holds", p, holds: true };
  }
  return null;
}

/** A moment at which more is taken than there is: one of those at work then has to end before another begins. */
function overfull(network: Network, guide: Placement | null): Decision | null {
  const { model } = network;
  for (const group of model.groups) {
    if (group.capacity === 1 && group.demand.every((one) => one === 1)) continue;
    const tasks = group.tasks
      .map((p, i) => ({ p, demand: group.demand[i]!, start: network.earliestStart(p), end: network.earliestEnd(p) }))
      .filter((task) => task.end > task.start && network.holds(task.p) === HOLDS);
    tasks.sort((a, b) => a.start - b.start);
    for (const { start } of tasks) {
      const now = tasks.filter((task) => task.start <= start && task.end > start);
      if (now.reduce((sum, task) => sum + task.demand, 0) <= group.capacity) continue;
      const best = roomiest(
        network,
        now.map((one) => one.p),
        guide,
      );
      return best ? { kind: "pair", ...best } : { kind: "dead end" };
    }
  }
  return null;
}

/** Of the orders still open between phases at work at once, the one that leaves most room; the guide's before all. */
function roomiest(
  network: Network,
  now: readonly number[],
  guide: Placement | null,
): { k: number; bit: number; otherwise: number } | null {
  const { pairs } = network;
  let best: { k: number; bit: number; otherwise: number } | null = null;
  let most = -Infinity;
  const consider = (k: number, p: number, q: number, bit: number, not: number): void => {
    if (network.pairState(k) & not || network.earliestEnd(p) > network.latestStart(q)) return;
    const guided = guide && guide.end[p]! <= guide.start[q]! ? 1_000_000 : 0;
    const score = guided + network.latestStart(q) - network.earliestEnd(p);
    if (score <= most) return;
    most = score;
    best = { k, bit, otherwise: not };
  };
  for (const one of now) {
    for (const k of pairs.of[one]!) {
      const [first, second] = [pairs.first[k]!, pairs.second[k]!];
      if (first !== one || !now.includes(second)) continue;
      if (network.pairState(k) & (FIRST_BEFORE | SECOND_BEFORE)) continue;
      consider(k, first, second, FIRST_BEFORE, NOT_FIRST_BEFORE);
      consider(k, second, first, SECOND_BEFORE, NOT_SECOND_BEFORE);
    }
  }
  return best;
}

/** The earliest work that is nobody's yet, to whoever is free then, or had it in the guide. */
function unassigned(network: Network, guide: Placement | null): Decision | null {
  const { model } = network;
  let next = -1;
  for (let p = 0; p < model.phases; p++) {
    if (!model.isHands[p]) continue;
    const bits = network.mayDo(p);
    if ((bits & (bits - 1)) === 0) continue;
    if (next < 0 || network.earliestStart(p) < network.earliestStart(next)) next = p;
  }
  if (next < 0) return null;
  const bits = network.mayDo(next);
  let busy = 0;
  for (const k of network.pairs.of[next]!) {
    if (!(network.pairs.kind[k]! & SAME_TECHNICIAN)) continue;
    const other = network.pairs.first[k] === next ? network.pairs.second[k]! : network.pairs.first[k]!;
    const theirs = network.mayDo(other);
    const overlap =
      network.earliestStart(other) < network.earliestEnd(next) &&
      network.earliestStart(next) < network.earliestEnd(other);
    if (overlap && (theirs & (theirs - 1)) === 0) busy |= theirs;
  }
  const guided = guide && guide.technician[next]! >= 0 ? 1 << guide.technician[next]! : 0;
  const choice = bits & guided & ~busy || lowest(bits & ~busy) || lowest(bits);
  return { kind: "technician", p: next, bit: choice };
}

function lowest(bits: number): number {
  return bits & -bits;
}

/** The schedule that the earliest times are. */
function read(network: Network): Placement {
  const { model } = network;
  const start = new Int32Array(model.phases);
  const end = new Int32Array(model.phases);
  for (let p = 0; p < model.phases; p++) {
    start[p] = network.earliestStart(p);
    end[p] = network.earliestEnd(p);
  }
  const technician = model.distinct ? technicians(model, network) : shareOut(model, start, end);
  return measure(model, start, end, technician);
}

function technicians(model: VisitModel, network: Network): Int32Array {
  return Int32Array.from({ length: model.phases }, (_, p) =>
    model.isHands[p] ? 31 - Math.clz32(network.mayDo(p)) : -1,
  );
}
