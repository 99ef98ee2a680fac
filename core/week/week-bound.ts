import { must } from "../must";
import type { WeekProblem } from "./types";

/** Cost of a unit of worth left undone: an hour more on the road is worth a small duty. */
export const LEFT_COST = 10;
/** Share of its worth that a duty costs for each day after its due day. */
const LATE_COST = 0.5;

/** Prices of hours that are tried: enough for them to settle. */
const PRICE_STEPS = 120;

/** A person's day. */
interface Hours {
  day: number;
  minutes: number;
}

/** What a duty costs on a day for being late. */
export const latenessOf = ({ due, value }: { due: number; value: number }, day: number): number =>
  Math.max(0, day - Math.max(0, due)) * LATE_COST * value;

/**
 * What no plan of a week can do without, in parts that share no cost: duties that nobody may do; late ones, by when their site
 * lets people in and who may do them has hours; ways between the sites and arriving there. Leaving a duty undone settles its
 * share of the last two, so each of them counts half of that cost.
 *
 * @param allowed for each duty, which of the days may do it
 */
export function weekBound(
  problem: WeekProblem,
  days: readonly Hours[],
  allowed: readonly (readonly number[])[],
): number {
  const { duties, sites, travel } = problem;
  const impossible = duties.filter((_, d) => must(allowed[d]).length === 0);
  const possible = duties.flatMap((duty, d) => (must(allowed[d]).length > 0 ? [{ duty, may: must(allowed[d]) }] : []));
  const prizes = sites.map((site) =>
    possible.reduce((sum, { duty }) => sum + (duty.site === site.id ? (LEFT_COST / 2) * duty.value : 0), 0),
  );
  const overheads = sites.map((site) => site.overhead);
  return (
    impossible.reduce((sum, duty) => sum + LEFT_COST * duty.value, 0) +
    leastLateness(problem, days, possible) +
    leastWays(travel, overheads, prizes)
  );
}

/**
 * Lateness at the least, by a price for the minutes of each day that its hours are too few for (Lagrangian relaxation, any
 * prices give a bound; bettered by subgradient steps: M. Held, R. Karp, Mathematical Programming 1, 1971, from memory).
 */
function leastLateness(
  { travel, sites }: WeekProblem,
  days: readonly Hours[],
  possible: readonly { duty: WeekProblem["duties"][number]; may: readonly number[] }[],
): number {
  if (possible.length === 0) return 0;
  // Who does anything on a day goes out and comes back, not always by the same site: the way from there may be the longer one.
  const leastOf = (of: (site: number) => number): number => Math.min(...sites.map((_, i) => of(i)));
  const leastWay =
    leastOf((i) => must(must(travel[0])[i + 1])) +
    leastOf((i) => must(sites[i]).overhead) +
    leastOf((i) => must(must(travel[i + 1])[0]));
  const room = days.map(({ minutes }) => Math.max(0, minutes - leastWay));
  const prices = days.map(() => 0);
  let best = 0;
  let reach = Math.max(...possible.map(({ duty }) => duty.value / Math.max(1, duty.hands)));
  for (let step = 0; step < PRICE_STEPS; step++) {
    const used = days.map(() => 0);
    let bound = -prices.reduce((sum, price, s) => sum + price * must(room[s]), 0);
    for (const { duty, may } of possible) {
      let cost = (LEFT_COST / 2) * duty.value;
      let on = -1;
      for (const s of may) {
        const own = latenessOf(duty, must(days[s]).day) + must(prices[s]) * duty.hands;
        if (own < cost) [cost, on] = [own, s];
      }
      bound += cost;
      if (on >= 0) used[on] = must(used[on]) + duty.hands;
    }
    best = Math.max(best, bound);
    // Dearer where more is wanted than there is, cheaper where less.
    prices.forEach((price, s) => {
      const over = (must(used[s]) - must(room[s])) / Math.max(1, must(room[s]));
      prices[s] = Math.max(0, price + reach * Math.max(-1, Math.min(1, over)));
    });
    reach *= 0.95;
  }
  return best;
}

/**
 * The least that ways between places and arriving at them come to, in minutes, however they are shared out over rounds that
 * begin and end at the first place.
 *
 * Grows a margin about every place at once until margins meet, or the place is worth no more: whoever goes there crosses each
 * margin twice (dual of the prize-collecting round trip: M. Goemans, D. Williamson, SIAM Journal on Computing 24, 1995).
 *
 * @param travel minutes from row to column; row 0 is where rounds begin and end
 * @param overheads of each place, without the first
 * @param prizes what it costs to leave a place out; infinite when it must be gone to
 */
export function leastWays(
  travel: readonly (readonly number[])[],
  overheads: readonly number[],
  prizes: readonly number[] = overheads.map(() => Infinity),
): number {
  return grown(travel, overheads, prizes, () => 1);
}

/**
 * As `leastWays`, of work that must all be done in rounds of so many minutes at most: what lies within a margin takes several
 * rounds when its work is longer than one.
 *
 * @param loads minutes of work at each place, without the first
 * @param longest minutes of work that one round has room for
 */
export function leastWaysInRounds(
  travel: readonly (readonly number[])[],
  loads: readonly number[],
  longest: number,
): number {
  const none = loads.map(() => 0);
  const all = loads.map(() => Infinity);
  return grown(travel, none, all, (places) => {
    const work = places.reduce((sum, i) => sum + must(loads[i - 1]), 0);
    return Math.max(1, Math.ceil(work / Math.max(1, longest) - 1e-9));
  });
}

/** @param rounds at least so many go to these places, numbered as in `travel` */
function grown(
  travel: readonly (readonly number[])[],
  overheads: readonly number[],
  prizes: readonly number[],
  rounds: (places: readonly number[]) => number,
): number {
  const over = (i: number): number => (i === 0 ? 0 : must(overheads[i - 1]) / 2);
  const count = overheads.length + 1;
  const between = Array.from({ length: count }, (_, i) =>
    Array.from(
      { length: count },
      (_unused, k) => Math.min(must(must(travel[i])[k]), must(must(travel[k])[i])) + over(i) + over(k),
    ),
  );
  // Of each place: how far its margins reach, and which cluster it is in.
  const reach = new Float64Array(count);
  const cluster = Array.from({ length: count }, (_, i) => i);
  const left = [Infinity, ...prizes];
  const grows = left.map((prize, i) => i > 0 && prize > 0);
  const times = grows.map((_, i) => (i === 0 ? 0 : rounds([i])));
  let bound = 0;
  for (;;) {
    let step = Infinity;
    let meets: [number, number] | null = null;
    let spent = -1;
    for (let i = 0; i < count; i++) {
      const a = must(cluster[i]);
      if (grows[a] && a === i && must(left[a]) / 2 < step) [step, spent, meets] = [must(left[a]) / 2, a, null];
      for (let k = 0; k < i; k++) {
        const b = must(cluster[k]);
        const speed = Number(grows[a]) + Number(grows[b]);
        if (a === b || speed === 0) continue;
        const free = Math.max(0, must(must(between[i])[k]) - must(reach[i]) - must(reach[k])) / speed;
        if (free < step) [step, meets, spent] = [free, [a, b], -1];
      }
    }
    if (step === Infinity) return bound;
    for (let i = 0; i < count; i++) if (grows[must(cluster[i])]) reach[i] = must(reach[i]) + step;
    for (let c = 0; c < count; c++)
      if (grows[c]) {
        bound += 2 * step * must(times[c]);
        left[c] = must(left[c]) - 2 * step;
      }
    if (spent >= 0) grows[spent] = false;
    if (meets) {
      const [a, b] = meets[0] < meets[1] ? meets : [meets[1], meets[0]];
      cluster.forEach((one, i) => {
        if (one === b) cluster[i] = a;
      });
      left[a] = must(left[a]) + must(left[b]);
      // Together with where rounds begin it is reached.
      grows[a] = a !== 0 && must(left[a]) > 0;
      grows[b] = false;
      if (grows[a]) times[a] = rounds(cluster.flatMap((one, i) => (one === a ? [i] : [])));
    }
  }
}
