import { must } from "../must";
import type { PlanHistory } from "./history";
import { type FaceValue, increase, inLeastUse } from "./least-use";

/** One point of a meter's story: the face value on a day, and the use added up since the meter was new. */
export interface MeterPoint extends FaceValue {
  /** Sum of increases up to here; a replaced meter goes on from the sum of the old one. */
  total: number;
  /** Noted at a completion, not read by itself. */
  noted: boolean;
}

/**
 * Readings and the values noted at completions, in one line of time with cumulative use. A completion's value takes part
 * like a reading of its day.
 */
export function meterTrack(history: PlanHistory, meter: string): MeterPoint[] {
  const readings = history.meter(meter).map(({ on, value, at }) => ({ on, value, at, total: 0, noted: false }));
  const noted = history.completions.flatMap(({ on, meters }) => {
    const value = meters?.[meter];
    return value === undefined ? [] : [{ on, value, at: null, total: 0, noted: true }];
  });
  const points = noted.length === 0 ? readings : inLeastUse(inDayOrder(readings, noted));
  let total = 0;
  let face = 0;
  for (const point of points) {
    total += increase(face, point.value);
    face = point.value;
    point.total = total;
  }
  return points;
}

/** Two lists in day order as one. */
function inDayOrder(a: readonly MeterPoint[], b: readonly MeterPoint[]): MeterPoint[] {
  const all: MeterPoint[] = [];
  let next = 0;
  for (const point of a) {
    while (next < b.length && must(b[next]).on < point.on) all.push(must(b[next++]));
    all.push(point);
  }
  return [...all, ...b.slice(next)];
}
