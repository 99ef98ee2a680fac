import { must } from "../must";
import { type Clockwork, clockworkOf } from "../round/clockwork";
import { allPhases, dutyOfJob, visitJobs } from "../visit/bench-jobs";
import { horizonOf } from "../visit/model";
import { pack } from "../visit/pack-visit";
import type { Phase, VisitProblem, VisitSchedule } from "../visit/types";
import { type BreakInVisit, takenApart, type VisitBreak, visitsWithBreaks } from "./breaks";
import { leastEndOf } from "./least-end";
import type { DayBreak, DayJob, DayPlan, DayProblem, DaySite, DayStop, PlannedBreak } from "./types";

/** Search nodes for one packing of one site's visit: several hundred are looked at for a day. */
const VISIT_NODES = 1200;
/** Minutes that stand for "any time". */
const WHOLE_DAY: [number, number] = [0, 3 * 1440];

/** A visit packed from a given minute on; when its hours do not allow it, without them, and by how much it is late. */
export interface Packed {
  schedule: VisitSchedule;
  late: number;
  oneByOne: number;
  breaks: VisitBreak[];
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
  /** Taken so far: the first ones of the problem's. */
  breaks: PlannedBreak[];
}

/** Drives a day's sites in any order, each visit packed from its real arrival. */
export class DayDriver {
  readonly clock: Clockwork;
  readonly #problem: DayProblem;
  readonly #first: number;
  readonly #seed: number;
  readonly #visits: PackedVisits;
  readonly #nodes: number;
  readonly #packed = new Map<string, Packed>();
  readonly #breaks: readonly DayBreak[];
  /** The day surely ends after this minute. */
  readonly #leastEnd: number;

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
    this.#breaks = problem.breaks ?? [];
    this.#leastEnd = this.#breaks.length > 0 ? leastEndOf(problem) : 0;
    this.clock = clockworkOf({
      stops: problem.sites.map((site) => ({ id: site.id, minutes: 0 })),
      travel: problem.travel,
      startAt: problem.startAt,
      ...(problem.timetables && { timetables: problem.timetables }),
    });
  }

  start(): Underway {
    return { stops: [], time: this.#problem.startAt, at: 0, travelMinutes: 0, lateMinutes: 0, breaks: [] };
  }

  /** The round with one more site. */
  goOn(before: Underway, i: number): Underway {
    const site = must(this.#problem.sites[i]);
    const way = this.#restedBefore(before, i);
    const { arrive, begin } = this.#reached(way, i);
    const { schedule, late, oneByOne, breaks } = this.#visit(i, begin, way.breaks.length);
    const leave = begin + schedule.makespan + site.leaving;
    return {
      stops: [...way.stops, { site: site.id, arrive, begin, leave, schedule, oneByOne, late }],
      time: leave,
      at: i + 1,
      travelMinutes: way.travelMinutes + (i === this.#first ? 0 : must(must(this.clock.travel[way.at])[i + 1])),
      lateMinutes: way.lateMinutes + late,
      breaks: [
        ...way.breaks,
        ...breaks.map((one) => ({ index: one.index, site: site.id, from: begin + one.from, to: begin + one.to })),
      ],
    };
  }

  /** The day when one goes back from there. */
  home(gone: Underway): DayPlan {
    const none = gone.stops.length === 0;
    const over = (way: Underway): number => (none ? way.time : this.clock.arrive(way.at, 0, way.time));
    let way = gone;
    for (;;) {
      const next = this.#breaks[way.breaks.length];
      if (none || !next || over(way) <= next.by) break;
      way = rested(way, next);
    }
    const endAt = over(way);
    return {
      // What is packed is in minutes from the beginning of the visit.
      stops: way.stops.map((stop) => ({ ...stop, schedule: shifted(stop.schedule, stop.begin) })),
      ...(this.#breaks.length > 0 && { breaks: way.breaks }),
      travelMinutes: way.travelMinutes + (none ? 0 : must(must(this.clock.travel[way.at])[0])),
      lateMinutes: way.lateMinutes,
      endAt,
      overtime: Math.max(0, endAt - this.#problem.endBy),
      conflicts: [],
    };
  }

  #reached(way: Underway, i: number): { arrive: number; begin: number } {
    if (i === this.#first) return { arrive: way.time, begin: way.time };
    const site = must(this.#problem.sites[i]);
    const arrive = this.clock.arrive(way.at, i + 1, way.time);
    return { arrive, begin: opening(site, arrive) + site.arriving };
  }

  /** With the breaks that have to be taken before one sets off, and those that cost nothing there: a door or a ferry waits. */
  #restedBefore(gone: Underway, i: number): Underway {
    let way = gone;
    for (;;) {
      const next = this.#breaks[way.breaks.length];
      if (!next) return way;
      const { begin } = this.#reached(way, i);
      const later = rested(way, next);
      if (begin <= next.by && this.#reached(later, i).begin > begin) return way;
      way = later;
    }
  }

  /** A visit with the breaks that cannot wait until it is over, and those that cost less there than elsewhere. */
  #visit(i: number, begin: number, taken: number): Packed {
    const site = must(this.#problem.sites[i]);
    let packed = this.packAt(i, begin);
    for (let count = 1; ; count++) {
      const next = this.#breaks[taken + count - 1];
      if (!next) return packed;
      const leave = begin + packed.schedule.makespan + site.leaving;
      if (leave <= next.from) return packed;
      const isNeeded = this.#leastEnd > next.by;
      // One who goes alone finds no more room for it than the hands are idle.
      const idle = this.#problem.technicians === 1 ? idleIn(packed) : Infinity;
      if (leave <= next.by && idle < (isNeeded ? 1 : next.minutes)) return packed;
      const more = this.packAt(i, begin, { taken, count });
      if (!isPacked(more.schedule)) return packed;
      const cost = more.schedule.makespan - packed.schedule.makespan;
      const gains = more.late <= packed.late && (isNeeded ? cost < next.minutes : cost === 0);
      if (leave <= next.by && !gains) return packed;
      packed = more;
    }
  }

  drive(order: readonly number[]): DayPlan {
    return this.home(order.reduce((way, i) => this.goOn(way, i), this.start()));
  }

  /** @param rest breaks in it: so many, after those that are taken before */
  packAt(i: number, begin: number, { taken, count } = NO_BREAKS): Packed {
    const key = `${i} ${begin} ${taken} ${count}`;
    let found = this.#packed.get(key);
    if (!found) {
      const rest = this.#breaks.slice(taken, taken + count).map((one, k) => ({ ...one, index: taken + k }));
      found = this.#packSite(must(this.#problem.sites[i]), begin, rest);
      this.#packed.set(key, found);
    }
    return found;
  }

  #packSite(site: DaySite, begin: number, rest: readonly BreakInVisit[]): Packed {
    const oneByOne = site.jobs.flatMap(allPhases).reduce((sum, phase) => sum + phase.minutes, 0);
    const inHours = this.#packedWith(site, begin, rest, true);
    if (isPacked(inHours.schedule)) return { ...inHours, late: 0, oneByOne };
    const free = this.#packedWith(site, begin, rest, false);
    return { ...free, late: lateness(site, begin, free.schedule), oneByOne };
  }

  /** Of the ways to put the breaks in the shortest. */
  #packedWith(
    site: DaySite,
    begin: number,
    rest: readonly BreakInVisit[],
    hours: boolean,
  ): { schedule: VisitSchedule; breaks: VisitBreak[] } {
    const visit = visitAt(this.#problem, site, begin, hours);
    if (rest.length === 0) return { schedule: this.#pack(visit), breaks: [] };
    const shifted = rest.map((one) => ({ ...one, from: one.from - begin, by: one.by - begin }));
    const ways = visitsWithBreaks(visit, shifted).map((way) => takenApart(this.#pack(way.visit), way.together));
    const good = ways.filter((way) => isPacked(way.schedule));
    return good.sort((a, b) => a.schedule.makespan - b.schedule.makespan)[0] ?? must(ways[0]);
  }

  #pack(bound: VisitProblem): VisitSchedule {
    const visit = unbound(withoutTurns(bound));
    const key = JSON.stringify(visit);
    let found = this.#visits.get(key);
    if (!found) {
      found = pack(visit, { nodeLimit: this.#nodes, seed: this.#seed }, () => []);
      this.#visits.set(key, found);
    }
    return found;
  }
}

/** Minutes of a packed visit in which nobody's hands are on anything, of one who goes alone. */
function idleIn({ schedule, breaks }: Packed): number {
  const worked = schedule.phases.reduce(
    (sum, phase) => (phase.technician === undefined ? sum : sum + phase.end - phase.start),
    0,
  );
  return schedule.makespan - worked - breaks.reduce((sum, one) => sum + one.to - one.from, 0);
}

const NO_BREAKS = { taken: 0, count: 0 };

const isPacked = ({ status }: VisitSchedule): boolean => status === "optimal" || status === "feasible";

/** The round with the next break taken where one is. */
function rested(way: Underway, { minutes, from }: DayBreak): Underway {
  const begin = Math.max(way.time, from);
  return {
    ...way,
    time: begin + minutes,
    breaks: [...way.breaks, { index: way.breaks.length, site: null, from: begin, to: begin + minutes }],
  };
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

/**
 * The visit without what only one job uses: its phases come one after the other anyway. It is then the same visit whatever else
 * might have been on the day.
 */
function withoutTurns(visit: VisitProblem): VisitProblem {
  const users = new Map<string, Set<string>>();
  for (const { id, phases } of visit.jobs)
    for (const { uses = [] } of phases)
      uses.forEach((one, i) => {
        const known = (users.get(one) ?? new Set()).add(id);
        // What a phase takes two of may be more than there is.
        users.set(one, uses.indexOf(one) === i ? known : known.add(`${id} again`));
      });
  const isShared = (id: string): boolean => (users.get(id)?.size ?? 0) > 1;
  const capacity = new Map((visit.resources ?? []).map((one) => [one.id, one.capacity]));
  return {
    ...visit,
    resources: [...users.keys()].filter(isShared).map((id) => ({ id, capacity: must(capacity.get(id)) })),
    jobs: visit.jobs.map((job) => ({
      ...job,
      phases: job.phases.map(({ uses, ...phase }): Phase => {
        const shared = uses?.filter(isShared) ?? [];
        return shared.length > 0 ? { ...phase, uses: shared } : phase;
      }),
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
