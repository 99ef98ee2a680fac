import { must } from "../must";
import type { PlanHistory } from "./history";
import { type DayValue, increase } from "./usage-rate";

/** One point of a meter's story: the face value on a day, and the use added up since the meter was new. */
export interface MeterPoint extends DayValue {
  /** Sum of increases up to here; a replaced meter goes on from the sum of the old one. */
  total: number;
  /** Index of the completion that noted this value; −1 for a reading. */
  completion: number;
}

/**
 * Readings and the values noted at completions, in one line of time with cumulative use.
 *
 * A completion's value is placed among the readings of its day where the whole takes the least use: any other place
 * would read the difference as a replaced meter.
 */
export function meterTrack(history: PlanHistory, meter: string): MeterPoint[] {
  const points: MeterPoint[] = history.meter(meter).map(({ on, value }) => ({ on, value, total: 0, completion: -1 }));
  history.completions.forEach((completion, index) => {
    const value = completion.meters?.[meter];
    if (value === undefined) return;
    const slot = cheapestSlot(points, completion.on, value);
    points.splice(slot, 0, { on: completion.on, value, total: 0, completion: index });
  });
  let total = 0;
  let face = 0;
  for (const point of points) {
    total += increase(face, point.value);
    face = point.value;
    point.total = total;
  }
  return points;
}

function cheapestSlot(points: readonly MeterPoint[], on: number, value: number): number {
  let low = points.length;
  while (low > 0 && must(points[low - 1]).on >= on) low--;
  let high = low;
  while (high < points.length && must(points[high]).on === on) high++;
  if (low === high) return low;
  let best = high;
  let bestAdded = Infinity;
  for (let slot = high; slot >= low; slot--) {
    const before = slot > 0 ? must(points[slot - 1]).value : 0;
    const after = slot < points.length ? must(points[slot]).value : null;
    const added = increase(before, value) + (after === null ? 0 : increase(value, after) - increase(before, after));
    if (added < bestAdded) {
      best = slot;
      bestAdded = added;
    }
  }
  return best;
}
