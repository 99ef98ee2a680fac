import { Effort } from "../effort";
import { buildModel } from "./model";
import { Network } from "./network";
import { searchBelow } from "./search";
import type { VisitProblem } from "./types";

/**
 * Whether it is proven, within so many search nodes, that nothing is possible. False says nothing: possible, or not proven.
 */
export function proveImpossible(problem: VisitProblem, nodes: number): boolean {
  const model = buildModel(problem);
  if (model.conflicts.length > 0) return true;
  const network = new Network(model);
  if (!network.start(model.horizon)) return true;
  return searchBelow(network, { fails: Infinity, guide: null }, new Effort({ nodeLimit: nodes })) === "exhausted";
}
