import { must } from "../must";

/** A face value read on a day, and the instant when it is known. */
export interface FaceValue {
  on: number;
  value: number;
  /** Milliseconds; null when only the day is known. */
  at: number | null;
  /** Noted when the work was done: where nothing else decides, after what was read that day, as a counter is reset last. */
  noted?: boolean;
}

/** Increase from one face value to the next: a lower value is a replaced meter that restarted from zero. */
export function increase(before: number, after: number): number {
  return after < before ? after : after - before;
}

interface Way<Point> {
  total: number;
  /** Null before the first value: nothing is known of what was used before it. */
  face: number | null;
  /** How late in their days the noted values stand. */
  late: number;
  order: readonly Point[];
  before: Way<Point> | null;
}

/**
 * Values in day order. Several of one day go by their instants; without them in the order that counts the least use, as any
 * other would read a difference as a replaced meter.
 *
 * @param points in day order
 */
export function inLeastUse<Point extends FaceValue>(points: Point[]): Point[] {
  let alone = true;
  for (let i = 1; alone && i < points.length; i++) alone = must(points[i]).on !== must(points[i - 1]).on;
  if (alone) return points;
  let ways: Way<Point>[] = [{ total: 0, face: null, late: 0, order: [], before: null }];
  for (let from = 0; from < points.length;) {
    let to = from + 1;
    while (to < points.length && must(points[to]).on === must(points[from]).on) to++;
    const orders = to - from === 1 ? [[must(points[from])]] : ordersOf(points.slice(from, to), ways);
    ways = goOn(ways, orders);
    from = to;
  }
  const best = ways.reduce((best, way) => (isBetter(way, best) ? way : best));
  const days: (readonly Point[])[] = [];
  for (let way: Way<Point> | null = best; way; way = way.before) days.push(way.order);
  return days.reverse().flat();
}

/** Each way with each order of the next day; of those that end at one face value the one of least use. */
function goOn<Point extends FaceValue>(ways: readonly Way<Point>[], orders: readonly Point[][]): Way<Point>[] {
  const next = new Map<number | null, Way<Point>>();
  for (const before of ways)
    for (const order of orders) {
      let { total, face, late } = before;
      order.forEach(({ value, noted }, place) => {
        if (face !== null) total += increase(face, value);
        face = value;
        if (noted) late += place;
      });
      const way = { total, face, late, order, before };
      const known = next.get(face);
      if (!known || isBetter(way, known)) next.set(face, way);
    }
  return [...next.values()];
}

const isBetter = (one: { total: number; late: number }, other: { total: number; late: number }): boolean =>
  one.total < other.total || (one.total === other.total && one.late > other.late);

/**
 * The orders of one day's values that can count the least: those with instants as these say. Of values without any, a meter
 * that was replaced at most once: rising, up to one restart. One without an instant among some that have one may stand
 * anywhere between them.
 */
function ordersOf<Point extends FaceValue>(day: readonly Point[], ways: readonly Way<Point>[]): Point[][] {
  const timed = day.filter((point) => point.at !== null).sort((a, b) => must(a.at) - must(b.at) || a.value - b.value);
  const free = day.filter((point) => point.at === null).sort((a, b) => a.value - b.value);
  if (timed.length === 0) {
    // Of many, those that go on from where a way has come to, and the one that begins anew.
    const starts =
      free.length <= FEW
        ? free.map((_, start) => start)
        : new Set([
            0,
            ...ways.map(({ face }) =>
              face === null
                ? widestStep(free)
                : Math.max(
                    0,
                    free.findIndex(({ value }) => value >= face),
                  ),
            ),
          ]);
    return [...starts].map((start) => [...free.slice(start), ...free.slice(0, start)]);
  }
  return free.reduce<Point[][]>(
    (orders, point) =>
      orders
        .flatMap((order) =>
          Array.from({ length: order.length + 1 }, (_, slot) => [...order.slice(0, slot), point, ...order.slice(slot)]),
        )
        .slice(0, MOST_ORDERS),
    [timed],
  );
}

/** Where a line of which nothing is known before begins best: behind the widest step between two values, which is not counted then. */
function widestStep(rising: readonly FaceValue[]): number {
  let [best, width] = [0, must(rising[0]).value];
  for (let i = 1; i < rising.length; i++) {
    const step = must(rising[i]).value - must(rising[i - 1]).value;
    if (step > width) [best, width] = [i, step];
  }
  return best;
}

/** As many values of one day as all orders of are looked at. */
const FEW = 8;
/** More ways to put untimed values between timed ones of one day than anybody reads. */
const MOST_ORDERS = 2000;
