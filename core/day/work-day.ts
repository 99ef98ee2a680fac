import { must } from "../must";
import { type Clockwork, clockworkOf } from "../round/clockwork";
import { afterOf } from "../visit/after";
import { dutyOfJob, visitJobs } from "../visit/bench-jobs";
import type { DayBreak, DayPlan, DayProblem, DaySite, DayStop, PlannedBreak } from "./types";
import { closingOf, jobSpans, opening } from "./visit-at";

/** How a day went that was worked by its plan with other minutes. */
export interface WorkedDay {
  endAt: number;
  /** For each stop of the plan, in its order. */
  stops: { begin: number; leave: number; late: number; soakTooLong: boolean }[];
}

/**
 * Works a planned day with hands-on minutes as they happen to be: sites in the plan's order, everybody's hands in theirs, each
 * thing as soon as its machine, its parts, the hands, what is shared and the hours let it. A soak with a longest time is not
 * begun before the plan has it, as far as the visit begins then: the plan may hold it back on purpose. Ferries that are missed
 * are waited for.
 */
export class DayWorker {
  readonly duties: readonly string[];
  readonly #clock: Clockwork;
  readonly #startAt: number;
  readonly #stops: StopWorker[];
  /** For each stop, and for the way back, what is taken before one sets off. */
  readonly #rests: DayBreak[][];

  constructor(problem: DayProblem, plan: DayPlan) {
    const sites = new Map(problem.sites.map((site, i) => [site.id, { site, node: i + 1 }]));
    this.duties = problem.sites.flatMap((site) => site.jobs.map((job) => job.id));
    const place = new Map(this.duties.map((id, i) => [id, i]));
    this.#startAt = problem.startAt;
    this.#clock = clockworkOf({
      stops: problem.sites.map((site) => ({ id: site.id, minutes: 0 })),
      travel: problem.travel,
      startAt: problem.startAt,
      ...(problem.timetables && { timetables: problem.timetables }),
    });
    const breaks = plan.breaks ?? [];
    const rules = problem.breaks ?? [];
    this.#stops = plan.stops.map((stop) => {
      const { site, node } = must(sites.get(stop.site));
      const rests = breaks
        .filter((one) => one.site === stop.site)
        .map((one) => ({ ...one, notBefore: must(rules[one.index]).from, technicians: problem.technicians }));
      return new StopWorker(site, stop, { node, here: site.id === problem.first, place, rests });
    });
    this.#rests = Array.from({ length: plan.stops.length + 1 }, () => []);
    for (const one of breaks.filter(({ site }) => site === null)) {
      const next = plan.stops.findIndex((stop) => stop.begin >= one.to);
      must(this.#rests[next < 0 ? plan.stops.length : next]).push(must(rules[one.index]));
    }
  }

  /** @param factors for each of `duties`: how many times its planned minutes its hands take */
  work(factors: ArrayLike<number>): WorkedDay {
    let [time, at] = [this.#startAt, 0];
    const rest = (n: number): void => {
      for (const { minutes, from } of must(this.#rests[n])) time = Math.max(time, from) + minutes;
    };
    const stops = this.#stops.map((stop, n) => {
      rest(n);
      const arrive = stop.here ? time : this.#clock.arrive(at, stop.node, time);
      const begin = stop.begin(arrive);
      const worked = stop.work(begin, factors);
      time = worked.leave;
      at = stop.node;
      return worked;
    });
    rest(stops.length);
    return { endAt: stops.length === 0 ? time : this.#clock.arrive(at, 0, time), stops };
  }
}

/** A phase, with everything it waits for by number. */
interface Work {
  job: number;
  hands: boolean;
  /** Place of the duty among all of the day's; hands take its factor. Negative: a break. */
  duty: number;
  minutes: number;
  /** Longest wait. */
  most: number;
  technician: number;
  after: number[];
  uses: number[];
  spans: readonly [number, number][] | null;
  /** Not before so many minutes from the visit's beginning: a soak that the plan holds back. */
  held: number | null;
  /** Begun before now: from when to when, minutes of the day. */
  begun: [number, number] | null;
  /** Place of the duty at the site; negative: a break. */
  own: number;
  /** Minute of the day before which it is not begun: a break has its time. */
  notBefore: number;
}

type Rest = PlannedBreak & { notBefore: number; technicians: number };

class StopWorker {
  readonly node: number;
  readonly here: boolean;
  readonly #site: DaySite;
  readonly #works: Work[];
  readonly #jobs: number;
  readonly #technicians: number;
  readonly #capacities: number[];
  /** Of each duty here, when it has to be over. */
  readonly #closings: number[];
  /** Minutes late however quick the hands are: nobody is let in, or a machine is never free for so long. */
  #leastLate = 0;

  constructor(
    site: DaySite,
    stop: DayStop,
    {
      node,
      here,
      place,
      rests,
    }: { node: number; here: boolean; place: ReadonlyMap<string, number>; rests: readonly Rest[] },
  ) {
    this.node = node;
    this.here = here;
    this.#site = site;
    this.#capacities = site.resources.map((one) => one.capacity);
    this.#closings = site.jobs.map((job) => closingOf(site, job));
    const own = new Map(site.jobs.map((job, i) => [job.id, i]));
    const jobs = site.jobs.flatMap((job) => visitJobs({ id: job.id }, job));
    const jobAt = new Map(jobs.map((job, j) => [job.id, j]));
    const resource = new Map(site.resources.map((one, i) => [one.id, i]));
    const begun = new Set((site.fixed ?? []).map((one) => `${one.index} ${one.job}`));
    const resting = rests.flatMap((one, k) => restsOf(one, jobs.length + k * one.technicians));
    const inOrder = [
      ...stop.schedule.phases.map((phase, i) => ({ ...phase, i, phase, rest: null })),
      ...resting.map((rest, i) => ({
        start: rest.plannedAt,
        end: rest.plannedAt + rest.minutes,
        i,
        phase: null,
        rest,
      })),
    ].sort((a, b) => a.start - b.start || a.end - b.end || a.i - b.i);
    const numberOf = new Map(
      inOrder.flatMap(({ phase }, n) => (phase ? [[`${phase.index} ${phase.job}`, n] as const] : [])),
    );
    this.#jobs = jobs.length + resting.length;
    this.#technicians = 1 + Math.max(0, ...inOrder.map((one) => (one.phase ?? one.rest).technician ?? 0));
    this.#works = inOrder.map(({ phase, rest }): Work => {
      if (!phase) return rest;
      const j = must(jobAt.get(phase.job));
      const job = must(jobs[j]);
      const kind = must(job.phases[phase.index]);
      const duty = must(site.jobs.find((one) => one.id === dutyOfJob(phase.job)));
      const next = job.phases[phase.index + 1];
      const bounded = next?.kind === "wait" && next.maxMinutes !== undefined;
      return {
        job: j,
        hands: kind.kind === "hands",
        duty: must(place.get(duty.id)),
        minutes: kind.minutes,
        most: kind.kind === "wait" ? (kind.maxMinutes ?? Infinity) : Infinity,
        technician: phase.technician ?? 0,
        after: afterOf(job, phase.index).flatMap((ref) => numberOf.get(`${ref.index} ${ref.job}`) ?? []),
        uses: (kind.uses ?? []).flatMap((id) => resource.get(id) ?? []),
        // What could not keep its hours was planned without them.
        spans: stop.late > 0 ? null : jobSpans(site, duty),
        held: bounded ? phase.start - stop.begin : null,
        begun: begun.has(`${phase.index} ${phase.job}`) ? [phase.start, phase.end] : null,
        own: must(own.get(duty.id)),
        notBefore: -Infinity,
      };
    });
    // Late, and yet over before the last closing when it goes as planned: not for want of time.
    if (stop.late > 0 && this.work(stop.begin, new Float64Array(place.size).fill(1)).late <= 0)
      this.#leastLate = stop.late;
  }

  begin(arrive: number): number {
    return this.here ? arrive : opening(this.#site, arrive) + this.#site.arriving;
  }

  work(begin: number, factors: ArrayLike<number>): WorkedDay["stops"][number] {
    const over = new Float64Array(this.#works.length);
    const jobFree = new Float64Array(this.#jobs).fill(begin);
    const handsFree = new Float64Array(this.#technicians).fill(begin);
    const waiting: ({ from: number; most: number; units: [number, number][] } | null)[] = new Array<null>(
      this.#jobs,
    ).fill(null);
    const shared = this.#capacities.map((capacity) => new Float64Array(capacity).fill(-Infinity));
    const ends = new Float64Array(this.#closings.length).fill(begin);
    let end = begin;
    let soakTooLong = false;
    this.#works.forEach((one, n) => {
      let ready = must(jobFree[one.job]);
      for (const before of one.after) ready = Math.max(ready, must(over[before]));
      if (!one.hands) {
        const from = one.begun ? one.begun[0] : ready;
        waiting[one.job] = { from, most: one.most, units: take(shared, one.uses, Infinity) };
        over[n] = from + one.minutes;
        jobFree[one.job] = from + one.minutes;
        ends[one.own] = Math.max(must(ends[one.own]), from + one.minutes);
        return;
      }
      const start = one.begun
        ? one.begun[0]
        : this.#startOf(one, begin, ready, must(handsFree[one.technician]), shared);
      const ended = one.begun ? one.begun[1] : start + one.minutes * (one.duty < 0 ? 1 : must(factors[one.duty]));
      const wait = waiting[one.job];
      if (wait) {
        if (start - wait.from > wait.most + 1e-9) soakTooLong = true;
        for (const [resource, unit] of wait.units) must(shared[resource])[unit] = start;
        waiting[one.job] = null;
      }
      take(shared, one.uses, ended);
      over[n] = ended;
      jobFree[one.job] = ended;
      handsFree[one.technician] = Math.max(must(handsFree[one.technician]), ended);
      if (one.own >= 0) ends[one.own] = Math.max(must(ends[one.own]), ended);
      end = Math.max(end, ended);
    });
    let late = this.#leastLate;
    this.#closings.forEach((closing, i) => (late = Math.max(late, must(ends[i]) - closing)));
    return { begin, leave: end + this.#site.leaving, late, soakTooLong };
  }

  #startOf(one: Work, begin: number, ready: number, hands: number, shared: readonly Float64Array[]): number {
    let start = Math.max(ready, hands, one.notBefore, one.held === null ? -Infinity : begin + one.held);
    for (const resource of one.uses) {
      const free = Math.min(...must(shared[resource]));
      // Held by what is known to end only later: the plan has it otherwise, and somebody makes room.
      if (Number.isFinite(free)) start = Math.max(start, free);
    }
    return inHours(one.spans, start, one.minutes);
  }
}

/** A break as everybody's work, each a job of its own from `job` on. */
function restsOf({ from, to, notBefore, technicians }: Rest, job: number): (Work & { plannedAt: number })[] {
  return Array.from({ length: technicians }, (_, technician) => ({
    job: job + technician,
    hands: true,
    duty: -1,
    minutes: to - from,
    most: Infinity,
    technician,
    after: [],
    uses: [],
    spans: null,
    held: null,
    begun: null,
    own: -1,
    notBefore,
    plannedAt: from,
  }));
}

/** Takes a unit of each resource until a time; which they were. */
function take(shared: readonly Float64Array[], uses: readonly number[], until: number): [number, number][] {
  return uses.map((resource) => {
    const units = must(shared[resource]);
    let unit = 0;
    for (let i = 1; i < units.length; i++) if (must(units[i]) < must(units[unit])) unit = i;
    units[unit] = until;
    return [resource, unit];
  });
}

/** The first start at which it is to be over within its hours; where there is none, it goes on all the same. */
function inHours(spans: readonly [number, number][] | null, start: number, minutes: number): number {
  if (spans === null) return start;
  let first = Infinity;
  for (const [from, to] of spans)
    if (Math.max(from, start) + minutes <= to) first = Math.min(first, Math.max(from, start));
  return Number.isFinite(first) ? first : start;
}
