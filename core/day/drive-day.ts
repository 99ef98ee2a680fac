import { must } from "../must";
import { type Clockwork, clockworkOf } from "../round/clockwork";
import { allPhases } from "../visit/bench-jobs";
import { pack } from "../visit/pack-visit";
import type { VisitProblem, VisitSchedule } from "../visit/types";
import { type BreakInVisit, LONG, takenApart, type VisitBreak, visitsWithBreaks } from "./breaks";
import { leastEndOf } from "./least-end";
import type { DayBreak, DayPlan, DayProblem, DaySite, DayStop, PlannedBreak } from "./types";
import {
  keepsEnds,
  lateness,
  openEnded,
  opening,
  shifted,
  unbound,
  visitAt,
  withoutHours,
  withoutTurns,
} from "./visit-at";

/** Search nodes for one packing of one site's visit: several hundred are looked at for a day. */
const VISIT_NODES = 1200;

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
  /** For each site, the minutes that going there takes at the least. */
  readonly #least: number[] = [];
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
      // Who is there already may have soaks that do not wait: the visit has the break where it can.
      if (!next || i === this.#first) return way;
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
      const isAlone = this.#problem.technicians === 1;
      const idle = isAlone ? idleIn(packed) : Infinity;
      if (leave <= next.by && idle < (isNeeded ? 1 : next.minutes)) return packed;
      const inTime = this.packAt(i, begin, { taken, count });
      const more =
        isPacked(inTime.schedule) || leave <= next.by || !isAlone ? inTime : this.#packLate(i, begin, { taken, count });
      if (!isPacked(more.schedule)) return packed;
      const cost = more.schedule.makespan - packed.schedule.makespan;
      const gains = more.late <= packed.late && (isNeeded ? cost < next.minutes : cost === 0);
      if (leave <= next.by && !gains) return packed;
      packed = more;
    }
  }

  /** Minutes that going on to these sites in any order and then back takes at the least, whatever their hours. */
  leastFor(sites: readonly number[]): number {
    if (sites.length === 0) return 0;
    const home = Math.min(...sites.map((i) => must(must(this.clock.travel[i + 1])[0])));
    return sites.reduce((sum, i) => sum + this.#leastAt(i), home);
  }

  #leastAt(i: number): number {
    const known = this.#least[i];
    if (known !== undefined) return known;
    const site = must(this.#problem.sites[i]);
    const visit = withoutTurns(visitAt(this.#problem, site, 0, false));
    // Never held to hours; what has begun may begin before it.
    const free = (site.fixed ?? []).length > 0 ? 0 : this.#packOnce(withoutHours(visit), false).lowerBound;
    const into = this.clock.travel.flatMap((row, from) => (from === i + 1 ? [] : [must(row[i + 1])]));
    const least = (i === this.#first ? 0 : Math.min(...into) + site.arriving) + free + site.leaving;
    this.#least[i] = least;
    return least;
  }

  /** The day with each machine's work over as soon as it can be without anybody leaving later. */
  polished(plan: DayPlan): DayPlan {
    let breaks = plan.breaks ?? [];
    const stops = plan.stops.map((stop) => {
      const site = must(this.#problem.sites.find((one) => one.id === stop.site));
      const mine = breaks.filter((one) => one.site === stop.site);
      const rest = mine.map(({ index }) => ({ ...must(this.#breaks[index]), index }));
      if (stop.late > 0) return stop;
      const better = this.#packedWith(site, stop.begin, rest, { hours: true, sums: true });
      if (!isPacked(better.schedule) || better.schedule.makespan !== stop.schedule.makespan) return stop;
      const moved = better.breaks.map((one) => ({
        ...{ index: one.index, site: stop.site, from: stop.begin + one.from, to: stop.begin + one.to },
      }));
      breaks = breaks.map((one) => moved.find((other) => other.index === one.index) ?? one);
      return { ...stop, schedule: shifted(better.schedule, stop.begin) };
    });
    return { ...plan, stops, ...(plan.breaks && { breaks }) };
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

  /** With breaks that are begun too late rather than not at all, as soon as the work lets one go. */
  #packLate(i: number, begin: number, { taken, count }: typeof NO_BREAKS): Packed {
    const rest = this.#breaks
      .slice(taken, taken + count)
      .map((one, k) => ({ ...one, by: begin + LONG, index: taken + k }));
    return this.#packSite(must(this.#problem.sites[i]), begin, rest);
  }

  #packSite(site: DaySite, begin: number, rest: readonly BreakInVisit[]): Packed {
    const oneByOne = site.jobs.flatMap(allPhases).reduce((sum, phase) => sum + phase.minutes, 0);
    const inHours = this.#packedWith(site, begin, rest, { hours: true, sums: false });
    if (isPacked(inHours.schedule)) return { ...inHours, late: 0, oneByOne };
    // By how much it is late is told of each machine's end.
    const free = this.#packedWith(site, begin, rest, { hours: false, sums: true });
    return { ...free, late: lateness(site, begin, free.schedule), oneByOne };
  }

  /** Of the ways to put the breaks in the shortest. */
  #packedWith(
    site: DaySite,
    begin: number,
    rest: readonly BreakInVisit[],
    { hours, sums }: { hours: boolean; sums: boolean },
  ): { schedule: VisitSchedule; breaks: VisitBreak[] } {
    const visit = visitAt(this.#problem, site, begin, hours);
    if (rest.length === 0) return { schedule: this.#pack(visit, sums), breaks: [] };
    const shifted = rest.map((one) => ({ ...one, from: one.from - begin, by: one.by - begin }));
    const ways = visitsWithBreaks(visit, shifted).map((way) => takenApart(this.#pack(way.visit, sums), way.together));
    const good = ways.filter((way) => isPacked(way.schedule));
    return good.sort((a, b) => a.schedule.makespan - b.schedule.makespan)[0] ?? must(ways[0]);
  }

  /** What is over in time without being held to its ends is the best with them too, and the same whenever the visit begins. */
  #pack(bound: VisitProblem, sums: boolean): VisitSchedule {
    const visit = withoutTurns(bound);
    const free = this.#packOnce(openEnded(visit), sums);
    if (free.status === "infeasible" || (isPacked(free) && keepsEnds(visit, free))) return free;
    return this.#packOnce(unbound(visit), sums);
  }

  /** @param sums as `pack` has it: whoever only compares days does without */
  #packOnce(visit: VisitProblem, sums: boolean): VisitSchedule {
    const key = `${sums} ${JSON.stringify(visit)}`;
    let found = this.#visits.get(key);
    if (!found) {
      found = pack(visit, { nodeLimit: this.#nodes, seed: this.#seed }, () => [], sums);
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
