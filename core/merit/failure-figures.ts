import { instantMs } from "../days/parse-instant";
import { CoreError } from "../errors";
import { requireList, requireRecord } from "../inputs";
import { requireNotNegative } from "../numbers";

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
  return figuresOf([sumsOf(input, "input")]);
}

export interface GroupFigures extends FailureFigures {
  /** Failures that began in the span, and repairs that ended in it. */
  failures: number;
  repairs: number;
}

/**
 * What failures come to over several machines together: operating time and failures of all of them, whichever machine they were on.
 *
 * @param input.machines those that failed, or were down at some time of their span; as `failureFigures` takes one
 * @param input.unfailedHours hours of the spans of all others, which were up throughout
 * @throws CoreError as `failureFigures`, and `out-of-range` where nothing was there at all
 */
export function groupFigures(input: {
  machines: readonly Parameters<typeof failureFigures>[0][];
  unfailedHours: number;
}): GroupFigures {
  const { machines, unfailedHours } = requireRecord(input, "input");
  const hours = requireNotNegative(unfailedHours, "unfailedHours");
  const sums = [
    ...requireList(machines, "machines").map((one, i) => sumsOf(one, `machines[${i}]`)),
    { span: hours * HOUR_MS, up: hours * HOUR_MS, began: 0, repairs: [] },
  ];
  if (sums.every((one) => one.span === 0))
    throw new CoreError("out-of-range", "machines", "No machine was there in this span.");
  return {
    ...figuresOf(sums),
    failures: sums.reduce((sum, one) => sum + one.began, 0),
    repairs: sums.reduce((sum, one) => sum + one.repairs.length, 0),
  };
}

/** What a span of one machine comes to, milliseconds. */
interface Sums {
  span: number;
  up: number;
  began: number;
  repairs: number[];
}

function sumsOf(input: Parameters<typeof failureFigures>[0], name: string): Sums {
  const { from, until, failures } = requireRecord(input, name);
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
  return {
    span: end - begin,
    up: end - begin - downTime(down, begin, end),
    began: down.filter(({ stopped }) => stopped >= begin && stopped < end).length,
    repairs: down.flatMap(({ stopped, back }) =>
      back !== null && back >= begin && back <= end ? [back - stopped] : [],
    ),
  };
}

function figuresOf(sums: readonly Sums[]): FailureFigures {
  const total = (of: (one: Sums) => number): number => sums.reduce((sum, one) => sum + of(one), 0);
  const [up, began] = [total((one) => one.up), total((one) => one.began)];
  const repairs = sums.flatMap((one) => one.repairs);
  return {
    mtbfHours: began === 0 ? null : up / began / HOUR_MS,
    mttrHours: repairs.length === 0 ? null : repairs.reduce((sum, one) => sum + one, 0) / repairs.length / HOUR_MS,
    availability: up / total((one) => one.span),
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
