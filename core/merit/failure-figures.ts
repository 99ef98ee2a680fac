import { instantMs } from "../days/parse-instant";
import { CoreError } from "../errors";
import { requireList, requireRecord } from "../inputs";

const HOUR_MS = 3_600_000;

export interface FailureFigures {
  /** Mean operating time between failures, hours; null without a failure in the span. */
  mtbfHours: number | null;
  /** Mean time to restoration, hours; null without a repair that ended in the span. */
  mttrHours: number | null;
  /** Share of the span in which it was up. */
  availability: number;
}

/**
 * What failures come to over a span; terms of IEC 60050-192 (192-05-11 mean operating time between failures, 192-07-23 mean time to
 * restoration, 192-08 availability) and of EN 15341. Down times that overlap count once, what was open before the span or is open
 * at its end as far as it lies within; failures count when they begin in it, repairs when they end in it, with their whole length.
 *
 * @param input.from, input.until instants with offset, one before the other
 * @param input.failures `backAt` null: still down
 * @throws CoreError `bad-instant`, or `out-of-range` for a span or a repair that ends before it begins
 * @example failureFigures({ from: "2026-01-01T00:00Z", until: "2026-01-11T00:00Z", failures: [
 *   { stoppedAt: "2026-01-02T00:00Z", backAt: "2026-01-03T00:00Z" }] })
 * // => { mtbfHours: 216, mttrHours: 24, availability: 0.9 }
 */
export function failureFigures(input: {
  from: string;
  until: string;
  failures: readonly { stoppedAt: string; backAt: string | null }[];
}): FailureFigures {
  const { from, until, failures } = requireRecord(input, "input");
  const [begin, end] = [instantMs(from, "from"), instantMs(until, "until")];
  if (end <= begin) throw new CoreError("out-of-range", "until", "The span ends after it begins.");
  const down = requireList(failures, "failures").map((one, i) => {
    const path = `failures[${i}]`;
    const { stoppedAt, backAt } = requireRecord(one, path);
    const stopped = instantMs(stoppedAt, `${path}.stoppedAt`);
    const back = backAt === null ? null : instantMs(backAt, `${path}.backAt`);
    if (back !== null && back < stopped)
      throw new CoreError("out-of-range", `${path}.backAt`, "It was back after it had stopped.");
    return { stopped, back };
  });
  const span = end - begin;
  const up = span - downTime(down, begin, end);
  const began = down.filter(({ stopped }) => stopped >= begin && stopped < end).length;
  const repairs = down.flatMap(({ stopped, back }) =>
    back !== null && back >= begin && back <= end ? [back - stopped] : [],
  );
  const mean = (list: readonly number[]): number => list.reduce((sum, one) => sum + one, 0) / list.length;
  return {
    mtbfHours: began === 0 ? null : up / began / HOUR_MS,
    mttrHours: repairs.length === 0 ? null : mean(repairs) / HOUR_MS,
    availability: up / span,
  };
}

/** How much of the span at least one of them was down. */
function downTime(down: readonly { stopped: number; back: number | null }[], begin: number, end: number): number {
  const within = down
    .map(({ stopped, back }): [number, number] => [Math.max(begin, stopped), Math.min(end, back ?? end)])
    .filter(([from, to]) => to > from)
    .sort((a, b) => a[0] - b[0]);
  let [total, until] = [0, begin];
  for (const [from, to] of within) {
    total += Math.max(0, to - Math.max(from, until));
    until = Math.max(until, to);
  }
  return total;
}
