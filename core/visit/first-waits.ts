import type { VisitModel } from "./model";
import type { Network } from "./network";

/**
 * A first wait that comes after something: it begins at the latest of its release and those ends, neither later nor (as its
 * bounds say already) earlier.
 */
export interface FirstWait {
  /** The point at which it begins. */
  point: number;
  release: number;
  /** `time of the point + offset` is when each of what it comes after ends. */
  ends: { point: number; offset: number }[];
}

/** Of a first wait that begins later than all it comes after, one of which has to end later: which. */
export interface StartsWith {
  kind: "starts with";
  /** Number of the first wait, and of the one of its ends. */
  w: number;
  e: number;
}

/** What one number in the network's state says of each end: that it is not the last. */
export const NOT_LAST = 1;

/** How many numbers of state the first waits take. */
export const stateOf = (waits: readonly FirstWait[]): number => waits.reduce((sum, wait) => sum + wait.ends.length, 0);

/** Holds first waits to what they begin with, as far as that follows from the bounds. False: contradiction. */
export function pushFirstWaits(network: Network): boolean {
  let at = network.startsWithAt;
  for (const { point, release, ends } of network.model.firstWaits) {
    const earliest = network.state[point]!;
    let latest = release;
    let able = 0;
    let only = -1;
    ends.forEach((end, e) => {
      if (network.state[at + e] === NOT_LAST) return;
      const time = network.state[network.latestAt + end.point]! + end.offset;
      latest = Math.max(latest, time);
      if (time < earliest) return;
      able++;
      only = e;
    });
    at += ends.length;
    if (!network.setLatest(point, latest, -1)) return false;
    if (earliest <= release) continue;
    if (able === 0) return false;
    if (able > 1) continue;
    const end = ends[only]!;
    if (!network.setEarliest(end.point, earliest - end.offset, -1)) return false;
  }
  return true;
}

/** A first wait that begins later in the earliest times than it may: what to try. `dead end` when nothing is left to try. */
export function looseFirstWait(network: Network): StartsWith | { kind: "dead end" } | null {
  const { firstWaits } = network.model;
  let at = network.startsWithAt;
  for (let w = 0; w < firstWaits.length; w++) {
    const { point, release, ends } = firstWaits[w]!;
    const begins = network.state[point]!;
    if (begins > ends.reduce((most, end) => Math.max(most, network.state[end.point]! + end.offset), release)) {
      // The one that has to be moved least.
      let best = -1;
      let latest = -Infinity;
      ends.forEach((end, e) => {
        if (network.state[at + e] === NOT_LAST) return;
        if (network.state[network.latestAt + end.point]! + end.offset < begins) return;
        const time = network.state[end.point]! + end.offset;
        if (time > latest) [latest, best] = [time, e];
      });
      return best < 0 ? { kind: "dead end" } : { kind: "starts with", w, e: best };
    }
    at += ends.length;
  }
  return null;
}

/** Where the state of a first wait's end stands. */
export function placeOf({ firstWaits }: VisitModel, { w, e }: StartsWith): number {
  return stateOf(firstWaits.slice(0, w)) + e;
}
