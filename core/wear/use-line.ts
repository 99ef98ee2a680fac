import { must } from "../must";
import { increase } from "../schedule/least-use";
import { DEFAULT_RATE_WINDOW_DAYS } from "../schedule/usage-rate";

const DAY_MS = 86_400_000;

/** What a machine has been used, over time, by the values of one meter. */
export interface UseLine {
  /** Use added up since the first value, at an instant: between two values in a straight line, before and after them at the rate there. */
  at(ms: number): number;
  /** Use per day over the last quarter of what was read. */
  rate: number | null;
}

/** Days themselves: what wears by age. */
export const DAYS: UseLine = { at: (ms) => ms / DAY_MS, rate: 1 };

/**
 * The line of use of a meter. A value lower than the one before is a replaced meter that began at nothing.
 *
 * @param readings face values with their instants (ms), in any order
 * @returns null with values of fewer than two instants: nothing is known of its use
 */
export function useLine(readings: readonly { at: number; value: number }[]): UseLine | null {
  const points: { at: number; total: number }[] = [];
  let face = 0;
  for (const { at, value } of [...readings].sort((a, b) => a.at - b.at)) {
    const last = points.at(-1);
    const total = last ? last.total + increase(face, value) : 0;
    face = value;
    // Of several at one instant the last counts.
    if (last?.at === at) last.total = total;
    else points.push({ at, total });
  }
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last || first === last) return null;
  const rate = rateAtEnd(points, last);
  const atFirst = must(points[1]).total / (must(points[1]).at - first.at);
  return {
    at(ms) {
      if (ms >= last.at) return last.total + rate * (ms - last.at);
      if (ms <= first.at) return atFirst * (ms - first.at);
      let [low, high] = [0, points.length - 1];
      while (high - low > 1) {
        const middle = (low + high) >> 1;
        if (must(points[middle]).at <= ms) low = middle;
        else high = middle;
      }
      const [a, b] = [must(points[low]), must(points[high])];
      return a.total + ((b.total - a.total) * (ms - a.at)) / (b.at - a.at);
    },
    rate: rate * DAY_MS,
  };
}

/** Per millisecond, over the last quarter of a year; where nothing else was read in it, since the value before. */
function rateAtEnd(points: readonly { at: number; total: number }[], last: { at: number; total: number }): number {
  const since = last.at - DEFAULT_RATE_WINDOW_DAYS * DAY_MS;
  const from = points.find(({ at }) => at >= since);
  const start = from === undefined || from === last ? must(points.at(-2)) : from;
  return (last.total - start.total) / (last.at - start.at);
}
