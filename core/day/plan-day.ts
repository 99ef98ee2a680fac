import { Effort, type EffortLimits } from "../effort";
import { CoreError } from "../errors";
import { must } from "../must";
import { requireNotNegative } from "../numbers";
import { clockworkOf } from "../round/clockwork";
import { orderRound } from "../round/order-round";
import { explainConflicts } from "../visit/explain-conflicts";
import { pack } from "../visit/pack-visit";
import type { VisitProblem, VisitSchedule } from "../visit/types";
import type { DayPlan, DayProblem, DaySite, DayStop } from "./types";

/** Search nodes for one packing of one site's visit: several hundred are looked at for a day. */
const VISIT_NODES = 1200;
/** Minutes that stand for "any time". */
const WHOLE_DAY: [number, number] = [0, 3 * 1440];

export interface DayOptions extends EffortLimits {
  seed?: number;
  /** Called with each better plan; false stops. */
  onProgress?: (plan: DayPlan) => boolean | void;
}

/**
 * Plans a day: the order of the sites and the packing of each visit together, as the hours of sites and machines make one
 * depend on the other. Fewest minutes late, then back earliest, then least travel.
 *
 * Any order is judged by packing each visit from its real arrival; the search begins with the best round for the visits'
 * lengths and moves sites about.
 *
 * @throws CoreError for a malformed day
 */
export function planDay(problem: DayProblem, options: DayOptions = {}): DayPlan {
  const { sites } = problem;
  requireNotNegative(problem.startAt, "startAt");
  requireNotNegative(problem.endBy, "endBy");
  const index = new Map(sites.map((site, i) => [site.id, i]));
  for (const id of [...(problem.order ?? []), ...(problem.first === undefined ? [] : [problem.first])]) {
    if (!index.has(id)) throw new CoreError("unknown-reference", "order", `There is no site ${id} on this day.`);
  }
  if (problem.order && new Set(problem.order).size !== sites.length)
    throw new CoreError("bad-value", "order", "An order names every site once.");
  const effort = new Effort(options);
  const clock = clockworkOf({
    stops: sites.map((site) => ({ id: site.id, minutes: 0 })),
    travel: problem.travel,
    startAt: problem.startAt,
    ...(problem.timetables && { timetables: problem.timetables }),
  });
  const packed = new Map<string, Packed>();
  const packAt = (i: number, time: number): Packed => {
    const key = `${i} ${time}`;
    let found = packed.get(key);
    if (!found) {
      found = packSite(problem, must(sites[i]), time, options.seed ?? 1);
      packed.set(key, found);
    }
    return found;
  };
  const first = problem.first === undefined ? -1 : must(index.get(problem.first));

  const drive = (order: readonly number[]): DayPlan => {
    const stops: DayStop[] = [];
    let time = problem.startAt;
    let at = 0;
    let travelMinutes = 0;
    for (const i of order) {
      const site = must(sites[i]);
      const here = i === first;
      const arrive = here ? time : clock.arrive(at, i + 1, time);
      if (!here) travelMinutes += must(must(clock.travel[at])[i + 1]);
      const letIn = here ? arrive : opening(site, arrive);
      const begin = letIn + (here ? 0 : site.arriving);
      const { schedule, late, oneByOne } = packAt(i, begin);
      const leave = begin + schedule.makespan + site.leaving;
      stops.push({ site: site.id, arrive, begin, leave, schedule: shifted(schedule, begin), oneByOne, late });
      time = leave;
      at = i + 1;
    }
    if (order.length > 0) {
      travelMinutes += must(must(clock.travel[at])[0]);
      time = clock.arrive(at, 0, time);
    }
    const overtime = Math.max(0, time - problem.endBy);
    return {
      stops,
      travelMinutes,
      lateMinutes: stops.reduce((sum, stop) => sum + stop.late, 0),
      endAt: time,
      overtime,
      conflicts: [],
    };
  };
  const explained = (plan: DayPlan): DayPlan => ({
    ...plan,
    conflicts: plan.stops.flatMap((stop) => {
      const site = must(sites[must(index.get(stop.site))]);
      return stop.late > 0
        ? explainConflicts(visitAt(problem, site, stop.begin, true), (minute) => clockTime(stop.begin + minute))
        : [];
    }),
  });

  if (problem.order) return explained(drive(problem.order.map((id) => must(index.get(id)))));
  let order = firstOrder(problem, packAt, first);
  let best = drive(order);
  if (options.onProgress?.(best) === false) return explained(best);
  for (let improved = true; improved && !effort.stopped;) {
    improved = false;
    for (const next of neighbours(order, first)) {
      if (!effort.step(16)) break;
      const tried = drive(next);
      if (compareDays(tried, best) >= 0) continue;
      best = tried;
      order = next;
      improved = true;
      if (options.onProgress?.(best) === false) return explained(best);
      break;
    }
  }
  return explained(best);
}

/** Below zero: the first is better. */
export function compareDays(a: DayPlan, b: DayPlan): number {
  return a.lateMinutes - b.lateMinutes || a.endAt - b.endAt || a.travelMinutes - b.travelMinutes;
}

interface Packed {
  schedule: VisitSchedule;
  late: number;
  oneByOne: number;
}

/** A visit packed from a given minute on; when its hours do not allow it, without them, and by how much it is late. */
function packSite(problem: DayProblem, site: DaySite, begin: number, seed: number): Packed {
  const oneByOne = site.jobs.reduce(
    (sum, job) => sum + job.phases.reduce((inner, phase) => inner + phase.minutes, 0),
    0,
  );
  const attempt = (hours: boolean): VisitSchedule =>
    pack(visitAt(problem, site, begin, hours), { nodeLimit: VISIT_NODES, seed }, () => []);
  const schedule = attempt(true);
  if (schedule.status === "optimal" || schedule.status === "feasible") return { schedule, late: 0, oneByOne };
  const free = attempt(false);
  return { schedule: free, late: lateness(site, begin, free), oneByOne };
}

/** The visit with minute 0 at `begin`. */
function visitAt(problem: DayProblem, site: DaySite, begin: number, hours: boolean): VisitProblem {
  const shift = (spans: [number, number][]): [number, number][] =>
    spans.filter(([, to]) => to > begin).map(([from, to]): [number, number] => [Math.max(0, from - begin), to - begin]);
  return {
    technicians: problem.technicians,
    resources: site.resources,
    fixed: (site.fixed ?? []).map((one) => ({ ...one, start: one.start - begin })),
    jobs: site.jobs.map(({ id, phases, windows, readyBy }) => {
      const open =
        site.access || windows ? shift(within(site.access ?? [WHOLE_DAY], windows ?? [WHOLE_DAY])) : undefined;
      return {
        id,
        phases,
        ...(hours && open ? { windows: open } : {}),
        ...(hours && readyBy !== undefined ? { deadline: Math.max(0, readyBy - begin) } : {}),
      };
    }),
  };
}

/** Spans that lie in both lists. */
function within(a: [number, number][], b: [number, number][]): [number, number][] {
  return a.flatMap(([from, to]) =>
    b.flatMap(([start, end]): [number, number][] =>
      Math.max(from, start) < Math.min(to, end) ? [[Math.max(from, start), Math.min(to, end)]] : [],
    ),
  );
}

function lateness(site: DaySite, begin: number, schedule: VisitSchedule): number {
  const over = site.jobs.map((job) => {
    const end =
      begin + Math.max(0, ...schedule.phases.filter((phase) => phase.job === job.id).map((phase) => phase.end));
    const close = Math.min(
      job.readyBy ?? Infinity,
      lastClosing(site),
      ...(job.windows ? [Math.max(...job.windows.map((span) => span[1]))] : []),
    );
    return Math.max(0, end - close);
  });
  return Math.max(1, ...over);
}

function lastClosing(site: DaySite): number {
  return site.access && site.access.length > 0 ? Math.max(...site.access.map((span) => span[1])) : Infinity;
}

/** When one is let in for an arrival. */
function opening(site: DaySite, arrival: number): number {
  if (!site.access) return arrival;
  const next = site.access.filter(([, to]) => arrival < to).map(([from]) => Math.max(from, arrival));
  return next.length > 0 ? Math.min(...next) : arrival;
}

/** The best round for the lengths that the visits have when nothing hinders them. */
function firstOrder(problem: DayProblem, packAt: (i: number, time: number) => Packed, first: number): number[] {
  const { sites } = problem;
  const rest = sites.map((_, i) => i).filter((i) => i !== first);
  const length = (i: number): number => {
    const site = must(sites[i]);
    const begin = opening(site, problem.startAt);
    return site.arriving + packAt(i, begin + site.arriving).schedule.makespan + site.leaving;
  };
  const from = first < 0 ? 0 : first + 1;
  const leaveFirst =
    first < 0
      ? problem.startAt
      : problem.startAt + packAt(first, problem.startAt).schedule.makespan + must(sites[first]).leaving;
  const places = [from, ...rest.map((i) => i + 1)];
  const place = new Map(places.map((node, at) => [node, at]));
  const travel = places.map((a) => places.map((b, at) => must(must(problem.travel[a])[at === 0 ? 0 : b])));
  const timetables = (problem.timetables ?? []).flatMap((one) => {
    const [a, b] = [place.get(one.from), one.to === 0 ? 0 : place.get(one.to)];
    return a === undefined || b === undefined || (first >= 0 && one.from === 0) ? [] : [{ ...one, from: a, to: b }];
  });
  const stops = rest.map((i) => {
    const minutes = length(i);
    const windows = must(sites[i]).access?.map(([open, close]): [number, number] => [
      open,
      Math.max(open, close - minutes),
    ]);
    return { id: String(i), minutes, ...(windows ? { windows } : {}) };
  });
  const round = orderRound({ stops, travel, startAt: leaveFirst, timetables }, { nodeLimit: 60_000 });
  return [...(first < 0 ? [] : [first]), ...round.order.map(Number)];
}

/** Orders one change away: a site put elsewhere, two exchanged, a stretch turned round. The first stays when one stands there. */
function* neighbours(order: readonly number[], first: number): Generator<number[]> {
  const from = first < 0 ? 0 : 1;
  for (let i = from; i < order.length; i++) {
    for (let k = from; k < order.length; k++) {
      if (i === k) continue;
      const moved = order.filter((_, at) => at !== i);
      moved.splice(k, 0, must(order[i]));
      yield moved;
      if (k <= i + 1) continue;
      yield [...order.slice(0, i), ...order.slice(i, k + 1).reverse(), ...order.slice(k + 1)];
      const swapped = [...order];
      [swapped[i], swapped[k]] = [must(swapped[k]), must(swapped[i])];
      yield swapped;
    }
  }
}

/** Minute of the day as HH:MM; past midnight it goes on counting from 00:00. */
export function clockTime(minute: number): string {
  const whole = Math.round(minute);
  return `${String(Math.floor(whole / 60) % 24).padStart(2, "0")}:${String(((whole % 60) + 60) % 60).padStart(2, "0")}`;
}

function shifted(schedule: VisitSchedule, by: number): VisitSchedule {
  return {
    ...schedule,
    phases: schedule.phases.map((phase) => ({ ...phase, start: phase.start + by, end: phase.end + by })),
  };
}
