import { type Effort, OutOfTime } from "../effort";
import { buildModel } from "./model";
import { Network } from "./network";
import { searchBelow } from "./search";
import type { VisitProblem } from "./types";

/**
 * Whether it is proven, within so many search nodes and before `effort` ends, that nothing is possible. False says nothing:
 * possible, or not proven.
 */
export function proveImpossible(problem: VisitProblem, nodes: number, effort: Effort): boolean {
  if (!effort.look()) return false;
  const model = buildModel(problem);
  if (model.conflicts.length > 0) return true;
  const network = new Network(model, () => effort.look());
  try {
    if (!network.start(model.horizon)) return true;
    return searchBelow(network, { fails: Infinity, guide: null }, effort.atMost(nodes)) === "exhausted";
  } catch (error) {
    if (error instanceof OutOfTime) return false;
    throw error;
  }
}
