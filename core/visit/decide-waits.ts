import { EMPTY, HOLDS } from "./decided";
import { NOT_LAST, placeOf, type StartsWith } from "./first-waits";
import type { Network } from "./network";

/** Decides whether a wait that may take no time does. False: contradiction. */
export function decideHolds(network: Network, p: number, holds: boolean): boolean {
  const { startPoint, startOffset, endPoint, endOffset } = network.model;
  network.save(network.holdsAt + p, holds ? HOLDS : EMPTY);
  network.touch(p);
  const offset = startOffset[p]! - endOffset[p]!;
  const posted = holds
    ? network.addEdge(startPoint[p]!, endPoint[p]!, offset + 1, -1)
    : network.addEdge(endPoint[p]!, startPoint[p]!, -offset, -1);
  return posted && network.propagate();
}

/** Decides whether a first wait begins with the end of one of those it comes after. False: contradiction. */
export function decideStartsWith(network: Network, choice: StartsWith, does: boolean): boolean {
  const { point, ends } = network.model.firstWaits[choice.w]!;
  const end = ends[choice.e]!;
  if (does) return network.addEdge(point, end.point, -end.offset, -1) && network.propagate();
  network.save(network.startsWithAt + placeOf(network.model, choice), NOT_LAST);
  return network.addEdge(end.point, point, end.offset + 1, -1) && network.propagate();
}
