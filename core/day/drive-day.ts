import { must } from "../must";
import { type Clockwork, clockworkOf } from "../round/clockwork";
import { allPhases, dutyOfJob, visitJobs } from "../visit/bench-jobs";
import { horizonOf } from "../visit/model";
import { pack } from "../visit/pack-visit";
import type { VisitProblem, VisitSchedule } from "../visit/types";
import type { DayJob, DayPlan, DayProblem, DaySite, DayStop } from "./types";

/** Search nodes for one packing of one site's visit: several hundred are looked at for a day. */
const VISIT_NODES = 1200;
/** Minutes that stand for "any time". */
const WHOLE_DAY: [number, number] = [0, 3 * 1440];

/** A visit packed from a given minute on; when its hours do not allow it, without them, and by how much it is late. */
export interface Packed {
  schedule: VisitSchedule;
  late: number;
  oneByOne: number;
}

/** Visits as they were packed, by what they are: the same whenever their hours bind the same. */
export type PackedVisits = Map<string, VisitSchedule>;

/** A round as far as it is driven. */
export interface Underway {
  stops: DayStop[];
  time: number;
  /** Row of `travel` where one is. */
  at: number;
  travelMinutes: number;
  lateMinutes: number;
}

/** Drives a day's sites in any order, each visit packed from its real arrival. */
export class DayDriver {
  readonly clock: Clockwork;
  readonly #problem: DayProblem;
  readonly #first: number;
  readonly #seed: number;
  readonly #visits: PackedVisits;
  readonly #nodes: number;
  readonly #packed = new Map<number, Packed>();

  /**
   * @param visits kept from one day to another that differs in its duties
   * @param nodes of the search for one visit's packing; fewer where many days are tried
   */
  constructor(problem: DayProblem, seed: number, visits: PackedVisits = new Map(), nodes = VISIT_NODES) {
    this.#problem = problem;
    this.#seed = seed;
    this.#visits = visits;
    this.#nodes = nodes;
    this.#first = problem.sites.findIndex((site) => site.id === problem.first);
    this.clock = clockworkOf({
      stops: problem.sites.map((site) => ({ id: site.id, minutes: 0 })),
      travel: problem.travel,
      startAt: problem.startAt,
      ...(problem.timetables && { timetables: problem.timetables }),
    });
  }

  start(): Underway {
    return { stops: [], time: this.#problem.startAt, at: 0, travelMinutes: 0, lateMinutes: 0 };
  }

  /** The round with one more site. */
  goOn(way: Underway, i: number): Underway {
    const site = must(this.#problem.sites[i]);
    const here = i === this.#first;
    const arrive = here ? way.time : this.clock.arrive(way.at, i + 1, way.time);
    const letIn = here ? arrive : opening(site, arrive);
    const begin = letIn + (here ? 0 : site.arriving);
    const { schedule, late, oneByOne } = this.packAt(i, begin);
    const leave = begin + schedule.makespan + site.leaving;
    return {
      stops: [...way.stops, { site: site.id, arrive, begin, leave, schedule, oneByOne, late }],
      time: leave,
      at: i + 1,
      travelMinutes: way.travelMinutes + (here ? 0 : must(must(this.clock.travel[way.at])[i + 1])),
      lateMinutes: way.lateMinutes + late,
    };
  }

  /** The day when one goes back from there. */
  home(way: Underway): DayPlan {
    const none = way.stops.length === 0;
    const endAt = none ? way.time : this.clock.arrive(way.at, 0, way.time);
    return {
      // What is packed is in minutes from the beginning of the visit.
      stops: way.stops.map((stop) => ({ ...stop, schedule: shifted(stop.schedule, stop.begin) })),
      travelMinutes: way.travelMinutes + (none ? 0 : must(must(this.clock.travel[way.at])[0])),
      lateMinutes: way.lateMinutes,
      endAt,
      overtime: Math.max(0, endAt - this.#problem.endBy),
      conflicts: [],
    };
  }

  drive(order: readonly number[]): DayPlan {
    return this.home(order.reduce((way, i) => this.goOn(way, i), this.start()));
  }

  packAt(i: number, begin: number): Packed {
    const key = begin * this.#problem.sites.length + i;
    let found = this.#packed.get(key);
    if (!found) {
      found = this.#packSite(must(this.#problem.sites[i]), begin);
      this.#packed.set(key, found);
    }
    return found;
  }

  #packSite(site: DaySite, begin: number): Packed {
    const oneByOne = site.jobs.flatMap(allPhases).reduce((sum, phase) => sum + phase.minutes, 0);
    const schedule = this.#pack(site, begin, true);
    if (schedule.status === "optimal" || schedule.status === "feasible") return { schedule, late: 0, oneByOne };
    const free = this.#pack(site, begin, false);
    return { schedule: free, late: lateness(site, begin, free), oneByOne };
  }

  #pack(site: DaySite, begin: number, hours: boolean): VisitSchedule {
    const visit = unbound(visitAt(this.#problem, site, begin, hours));
    const key = JSON.stringify(visit);
    let found = this.#visits.get(key);
    if (!found) {
      found = pack(visit, { nodeLimit: this.#nodes, seed: this.#seed }, () => []);
      this.#visits.set(key, found);
    }
    return found;
  }
}

/** The visit with minute 0 at `begin`. */
export function visitAt(
  problem: Pick<DayProblem, "technicians">,
  site: DaySite,
  begin: number,
  hours: boolean,
): VisitProblem {
  const shift = (spans: [number, number][]): [number, number][] =>
    spans.filter(([, to]) => to > begin).map(([from, to]): [number, number] => [Math.max(0, from - begin), to - begin]);
  return {
    technicians: problem.technicians,
    resources: site.resources,
    fixed: (site.fixed ?? []).map((one) => ({ ...one, start: one.start - begin })),
    jobs: site.jobs.flatMap(({ windows, readyBy, ...job }) => {
      const spans = jobSpans(site, { windows });
      const open = spans ? shift(spans) : undefined;
      const bounds = {
        id: job.id,
        ...(hours && open ? { windows: open } : {}),
        ...(hours && readyBy !== undefined ? { deadline: Math.max(0, readyBy - begin) } : {}),
      };
      return visitJobs(bounds, job);
    }),
  };
}

/**
 * The visit with hours that end after all of it could be over left open: it is then the same visit whenever it begins, and
 * packed once.
 */
function unbound(visit: VisitProblem): VisitProblem {
  const last = horizonOf(visit);
  return {
    ...visit,
    jobs: visit.jobs.map(({ windows, deadline, ...job }) => ({
      ...job,
      ...(windows && {
        windows: windows.map(([from, to]): [number, number] => [from, Math.min(to, Math.max(from, last))]),
      }),
      ...(deadline !== undefined && deadline < last ? { deadline } : {}),
    })),
  };
}

/** When a duty may be worked on: the site's and its machine's hours; null at any time. */
export function jobSpans(
  site: DaySite,
  { windows }: { windows?: [number, number][] | undefined },
): [number, number][] | null {
  return site.access || windows ? within(site.access ?? [WHOLE_DAY], windows ?? [WHOLE_DAY]) : null;
}

/** Spans that lie in both lists. */
function within(a: [number, number][], b: [number, number][]): [number, number][] {
  return a.flatMap(([from, to]) =>
    b.flatMap(([start, end]): [number, number][] =>
      Math.max(from, start) < Math.min(to, end) ? [[Math.max(from, start), Math.min(to, end)]] : [],
    ),
  );
}

/** Minutes by which a packed visit, from minute 0 at `begin`, is past its hours; at least one. */
export function lateness(site: DaySite, begin: number, schedule: VisitSchedule): number {
  const over = site.jobs.map((job) => {
    const end =
      begin +
      Math.max(0, ...schedule.phases.filter((phase) => dutyOfJob(phase.job) === job.id).map((phase) => phase.end));
    return Math.max(0, end - closingOf(site, job));
  });
  return Math.max(1, ...over);
}

const lastEnd = (spans: readonly [number, number][] | undefined): number =>
  spans && spans.length > 0 ? Math.max(...spans.map((span) => span[1])) : Infinity;

/** When a duty has to be over: the site's and the machine's last closing, and when the machine has to be ready. */
export const closingOf = (site: DaySite, job: DayJob): number =>
  Math.min(job.readyBy ?? Infinity, lastEnd(job.windows), lastEnd(site.access));

/** When one is let in for an arrival. */
export function opening(site: DaySite, arrival: number): number {
  if (!site.access) return arrival;
  const next = site.access.filter(([, to]) => arrival < to).map(([from]) => Math.max(from, arrival));
  return next.length > 0 ? Math.min(...next) : arrival;
}

function shifted(schedule: VisitSchedule, by: number): VisitSchedule {
  return {
    ...schedule,
    phases: schedule.phases.map((phase) => ({ ...phase, start: phase.start + by, end: phase.end + by })),
  };
}
