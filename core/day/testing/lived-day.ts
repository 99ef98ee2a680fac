import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { must } from "../../must";
import { uniform } from "../../random";
import type { DayPlan, DayProblem } from "../types";

/**
 * A planned day as people live it, told minute by minute of what happens next, without anything of the planner: they go to the
 * sites in the plan's order, take up their own work in the plan's order as soon as it can be begun, and go on when all is done.
 * The check that the chance shown is true.
 */
export function livedDay(problem: DayProblem, plan: DayPlan, factorOf: (duty: string) => number): boolean {
  let now = problem.startAt;
  let place = 0;
  let inTime = true;
  // Breaks that are not on a site are taken before one sets off: each comes before the first stop that begins after it.
  let rests = (plan.breaks ?? []).filter((one) => one.site === null);
  const restBefore = (begin: number): void => {
    for (const one of rests.filter(({ to }) => to <= begin))
      now = Math.max(now, must(problem.breaks?.[one.index]).from) + one.to - one.from;
    rests = rests.filter(({ to }) => to > begin);
  };
  for (const stop of plan.stops) {
    restBefore(stop.begin);
    const at = problem.sites.findIndex((site) => site.id === stop.site) + 1;
    const site = must(problem.sites[at - 1]);
    now = travelled(problem, place, at, now);
    place = at;
    const doors = site.access ?? [];
    const open = doors.filter(([, to]) => to > now).map(([from]) => Math.max(from, now));
    if (doors.length > 0 && open.length > 0) now = Math.min(...open);
    now += site.arriving;
    const breaks = (plan.breaks ?? []).filter((one) => one.site === site.id);
    const visit = new LivedVisit({ ...problem, taken: breaks }, at - 1, stop, now, factorOf);
    now = visit.live() + site.leaving;
    for (const job of site.jobs) {
      const until = Math.min(
        job.readyBy ?? Infinity,
        job.windows?.length ? Math.max(...job.windows.map(([, to]) => to)) : Infinity,
        doors.length > 0 ? Math.max(...doors.map(([, to]) => to)) : Infinity,
      );
      if (visit.overAt(job.id) > until + 1e-6) inTime = false;
    }
  }
  restBefore(Infinity);
  if (plan.stops.length > 0) now = travelled(problem, place, 0, now);
  return inTime && now <= problem.endBy + 1e-6;
}

function travelled(problem: DayProblem, from: number, to: number, leave: number): number {
  const ferry = problem.timetables?.find((one) => one.from === from && one.to === to);
  if (!ferry) return leave + must(must(problem.travel[from])[to]);
  for (let day = 0; ; day++) {
    const sails = ferry.departures.map((one) => one + 1440 * day).filter((one) => one >= leave);
    if (sails.length > 0) return Math.min(...sails) + ferry.minutes;
  }
}

interface Task {
  name: string;
  job: string;
  duty: string;
  index: number;
  hands: boolean;
  minutes: number;
  most: number | undefined;
  needs: string[];
  uses: string[];
  who: number;
  plannedAt: number;
  /** Of a break: not before then. */
  notBefore?: number;
}

class LivedVisit {
  readonly #tasks: Task[] = [];
  readonly #begun = new Map<string, number>();
  readonly #ended = new Map<string, number>();
  readonly #site: DayProblem["sites"][number];
  readonly #stop: DayPlan["stops"][number];
  readonly #from: number;
  readonly #factorOf: (duty: string) => number;

  constructor(
    problem: DayProblem & { taken: NonNullable<DayPlan["breaks"]> },
    site: number,
    stop: DayPlan["stops"][number],
    from: number,
    factorOf: (duty: string) => number,
  ) {
    this.#site = must(problem.sites[site]);
    this.#stop = stop;
    this.#from = from;
    this.#factorOf = factorOf;
    for (const { id, phases, bench = [] } of this.#site.jobs) {
      const lanes = [
        { job: id, after: [] as { job: string; index: number }[], phases },
        ...bench.map((one) => ({ job: `${id}/${one.path}`, after: one.after, phases: one.phases })),
      ];
      const named = (path: string): string => (path === "" ? id : `${id}/${path}`);
      for (const lane of lanes)
        lane.phases.forEach((phase, index) => {
          const planned = stop.schedule.phases.find((one) => one.job === lane.job && one.index === index);
          const after = [
            ...(index === 0 ? lane.after : []),
            ...(phase.kind === "hands" ? (phase.after ?? []) : []),
          ].map((one) => `${named(one.job)} ${one.index}`);
          this.#tasks.push({
            name: `${lane.job} ${index}`,
            job: lane.job,
            duty: id,
            index,
            hands: phase.kind === "hands",
            minutes: phase.minutes,
            most: phase.kind === "wait" ? phase.maxMinutes : undefined,
            needs: [...(index > 0 ? [`${lane.job} ${index - 1}`] : []), ...after],
            uses: phase.uses ?? [],
            who: planned?.technician ?? 0,
            plannedAt: planned?.start ?? 0,
          });
        });
    }
    for (const one of problem.taken)
      for (let who = 0; who < problem.technicians; who++)
        this.#tasks.push({
          name: `break ${one.index} ${who}`,
          job: `break ${one.index} ${who}`,
          duty: "break",
          index: 0,
          hands: true,
          minutes: one.to - one.from,
          most: undefined,
          needs: [],
          uses: [],
          who,
          plannedAt: one.from,
          notBefore: must(problem.breaks?.[one.index]).from,
        });
    this.#tasks.sort((a, b) => a.plannedAt - b.plannedAt);
  }

  /** Goes from one event to the next until all hands are done. */
  live(): number {
    let now = this.#from;
    for (;;) {
      let moved = true;
      while (moved) moved = this.#beginWhatCan(now);
      const open = this.#tasks.filter((task) => task.hands && !this.#isOver(task.name, now));
      if (open.length === 0) break;
      const next = this.#nextEvent(now);
      if (next === Infinity) throw new Error(`Nobody can go on at ${now}: ${must(open[0]).name}`);
      now = next;
    }
    return Math.max(this.#from, ...this.#tasks.filter((task) => task.hands).map((task) => this.#endOf(task.name)));
  }

  overAt(duty: string): number {
    return Math.max(
      this.#from,
      ...this.#tasks.filter((task) => task.duty === duty).map((task) => this.#ended.get(task.name) ?? this.#from),
    );
  }

  #endOf(name: string): number {
    return this.#ended.get(name) ?? Infinity;
  }

  #isOver(name: string, now: number): boolean {
    return this.#endOf(name) <= now;
  }

  #beginWhatCan(now: number): boolean {
    for (const task of this.#tasks) {
      if (this.#begun.has(task.name)) continue;
      if (task.needs.some((need) => !this.#isOver(need, now))) continue;
      if (task.hands && !this.#handsCan(task, now)) continue;
      this.#begun.set(task.name, now);
      this.#ended.set(
        task.name,
        now + task.minutes * (task.hands && task.duty !== "break" ? this.#factorOf(task.duty) : 1),
      );
      return true;
    }
    return false;
  }

  #handsCan(task: Task, now: number): boolean {
    const mine = this.#tasks.filter((one) => one.hands && one.who === task.who);
    // Their own work, in the plan's order.
    if (mine.find((one) => !this.#isOver(one.name, now)) !== task) return false;
    if (this.#allowed(task, now) > now) return false;
    return task.uses.every((id) => {
      const room = this.#site.resources.find((one) => one.id === id)?.capacity ?? 1;
      const held = this.#tasks.filter((one) => one !== task && one.uses.includes(id) && this.#holds(one, now, task));
      return held.length < room;
    });
  }

  /** Whether a task has hold of what it uses: a wait until the next thing of its job is begun. */
  #holds(one: Task, now: number, instead: Task): boolean {
    if (!this.#begun.has(one.name)) return false;
    if (one.hands) return !this.#isOver(one.name, now);
    const next = this.#tasks.find((other) => other.job === one.job && other.index === one.index + 1);
    if (next === instead) return false;
    return next ? !this.#begun.has(next.name) : !this.#isOver(one.name, now);
  }

  /** When it may be begun at the earliest, as far as hours and soaks that are held back say. */
  #allowed(task: Task, now: number): number {
    let from = now;
    if (task.notBefore !== undefined) return Math.max(now, task.notBefore);
    const next = this.#tasks.find((one) => one.job === task.job && one.index === task.index + 1);
    if (next?.most !== undefined) from = Math.max(from, this.#from + task.plannedAt - this.#stop.begin);
    if (this.#stop.late > 0) return from;
    const job = must(this.#site.jobs.find((one) => one.id === task.duty));
    const doors: [number, number][] = this.#site.access ?? [[0, 1e6]];
    const hours: [number, number][] = job.windows ?? [[0, 1e6]];
    let first = Infinity;
    for (const [a, b] of doors)
      for (const [c, d] of hours) {
        const begin = Math.max(a, c, from);
        if (begin + task.minutes <= Math.min(b, d)) first = Math.min(first, begin);
      }
    return first === Infinity ? from : first;
  }

  #nextEvent(now: number): number {
    const times = [...this.#ended.values()];
    for (const task of this.#tasks) if (task.hands && !this.#begun.has(task.name)) times.push(this.#allowed(task, now));
    return Math.min(...times.filter((time) => time > now), Infinity);
  }
}

/** Minutes as they scatter: a lognormal factor of median 1, by sums of uniform draws (their own source, not the planner's). */
export function drawnFactors(seed: number): (spread: number) => number {
  const random = uniform(xoroshiro128plus(seed ^ 0x5bd1e995));
  // What comes first out of a seed is not yet as scattered as what follows.
  for (let i = 0; i < 200; i++) random();
  return (spread) => {
    let sum = -6;
    for (let i = 0; i < 12; i++) sum += random();
    return Math.exp(spread * sum);
  };
}
