import type { Effort } from "../effort";
import { shuffled } from "../random";
import { range } from "./model";
import type { Network } from "./network";
import type { Placement } from "./placement";
import { searchBelow } from "./search";

/** Contradictions per attempt: small neighbourhoods are searched nearly out, large ones sampled. */
const FAILS = 80;

/**
 * Frees a part of the best schedule known, keeps the order of the rest, and searches for one that is better there.
 *
 * Method: large-neighbourhood search over partial orders: D. Godard, P. Laborie, W. Nuijten, "Randomized Large
 * Neighborhood Search for Cumulative Scheduling", ICAPS 2005 (from memory).
 *
 * @param by what to better: the end of the last work, or the sum of the jobs' ends with the last work no later
 */
export function improveOnce(
  network: Network,
  best: Placement,
  { by, share, random }: { by: "makespan" | "sum"; share: number; random: () => number },
  effort: Effort,
): Placement | null {
  const free = neighbourhood(network, best, share, random);
  network.mark();
  let found: Placement | null = null;
  if (keepOrder(network, best, free) && network.limitMakespan(by === "makespan" ? best.makespan - 1 : best.makespan)) {
    const outcome = searchBelow(
      network,
      { fails: FAILS, guide: best, ...(by === "sum" ? { sumBelow: best.sumOfEnds } : {}) },
      effort,
    );
    if (typeof outcome === "object") found = outcome.found;
  }
  network.undo();
  return found;
}

/** Phases set free: those of some jobs, those at work in some span of time, or those that use one thing. */
function neighbourhood(network: Network, best: Placement, share: number, random: () => number): Uint8Array {
  const { model } = network;
  const free = new Uint8Array(model.phases);
  const jobs = model.firstPhase.length - 1;
  const pick = random();
  if (pick < 0.35 || best.makespan === 0) {
    const count = Math.max(2, Math.round(share * jobs));
    const chosen = new Set(shuffled(range(jobs), random).slice(0, count));
    for (let p = 0; p < model.phases; p++) if (chosen.has(model.jobOf[p]!)) free[p] = 1;
  } else if (pick < 0.75 || model.groups.length < 3) {
    const span = Math.max(1, share * best.makespan);
    const from = random() * (best.makespan + span) - span;
    for (let p = 0; p < model.phases; p++) if (best.start[p]! < from + span && best.end[p]! > from) free[p] = 1;
  } else {
    const count = Math.max(1, Math.round(share * model.groups.length));
    for (const g of shuffled(range(model.groups.length), random).slice(0, count))
      for (const p of model.groups[g]!.tasks) free[p] = 1;
  }
  return free;
}

function keepOrder(network: Network, best: Placement, free: Uint8Array): boolean {
  const { model } = network;
  const before = (p: number, q: number): boolean => model.jobOf[p] === model.jobOf[q] || network.keepBefore(p, q);
  const kept = model.groups.every((group, g) => {
    const tasks = group.tasks
      .filter((p) => !free[p] && best.end[p]! > best.start[p]!)
      .sort((p, q) => best.start[p]! - best.start[q]!);
    if (group.capacity === 1) return tasks.every((p, i) => i === 0 || before(tasks[i - 1]!, p));
    return tasks.every((p) =>
      tasks.every((q) => {
        // Of alike technicians any may take the next; of others only what one does keeps its order.
        if (model.distinct && g === 0 && best.technician[p] !== best.technician[q]) return true;
        return best.end[p]! > best.start[q]! || before(p, q);
      }),
    );
  });
  return kept && (!model.distinct || keepTechnicians(network, best, free));
}

/** What is not set free stays with whom it was. */
function keepTechnicians(network: Network, best: Placement, free: Uint8Array): boolean {
  const { phases, isHands } = network.model;
  for (let p = 0; p < phases; p++) {
    if (isHands[p] && !free[p] && !network.decideTechnician(p, 1 << best.technician[p]!, true)) return false;
  }
  return true;
}
