import { FAR } from "./model";

/** Spans [first, last] in which a technician may start a phase, in order; null = at any time. */
type Starts = readonly (Int32Array | null)[];

/** The first moment from `time` on at which one of the technicians in `bits` may start; FAR when there is none. */
export function nextStart(lists: Starts, bits: number, time: number): number {
  let best = FAR;
  for (let t = 0; t < lists.length; t++) {
    if (!(bits & (1 << t))) continue;
    const spans = lists[t] as Int32Array | null;
    if (spans === null) return time;
    for (let i = 0; i < spans.length; i += 2) {
      if (time > spans[i + 1]!) continue;
      best = Math.min(best, Math.max(time, spans[i]!));
      break;
    }
  }
  return best;
}

/** The last moment up to `time` at which one of the technicians in `bits` may start; -FAR when there is none. */
export function previousStart(lists: Starts, bits: number, time: number): number {
  let best = -FAR;
  for (let t = 0; t < lists.length; t++) {
    if (!(bits & (1 << t))) continue;
    const spans = lists[t] as Int32Array | null;
    if (spans === null) return time;
    for (let i = spans.length - 2; i >= 0; i -= 2) {
      if (time < spans[i]!) continue;
      best = Math.max(best, Math.min(time, spans[i + 1]!));
      break;
    }
  }
  return best;
}
