import { Effort } from "../effort";
import { requireRecord } from "../inputs";
import { must } from "../must";
import { allPhases } from "../visit/bench-jobs";
import { dayInTime, inTime } from "./day-in-time";
import { DayDriver, type PackedVisits } from "./drive-day";
import { leastEndOf } from "./least-end";
import { type DayOptions, planDay } from "./plan-day";
import { readDayProblem } from "./read-day";
import { keepJobs } from "./suggest-changes";
import type { DayJob, DayPlan, DayProblem, DaySite } from "./types";

export interface ProposedDay {
  jobs: string[];
  problem: DayProblem;
  plan: DayPlan;
}

/** From this worth on a duty comes before anything that is merely on the way: late and locked machines. */
const PRESSING = 300;
/** A duty that adds nothing to the day still costs a look. */
const LEAST_COST = 3;

/** As many open duties, at as many sites, as all choices of are looked at. */
const MOST_EXACT_JOBS = 10;
const MOST_EXACT_STOPS = 5;
/** Days that filling up tries at most. */
const MOST_FILLED = 400;

/**
 * The duties worth most for the hours there are, out of everything that could be done. Of a few, the choice worth most in sum
 * (of equal ones the one with more that presses, then with less work): every choice is tried. Of many, pressing ones first,
 * then by worth for the minutes they add, ways included: filled up by a quick estimate, planned in earnest, what does not fit
 * left again, and what still fits then put on.
 *
 * @param problem the day with all candidates on it; `value` of a job says what it is worth
 * @throws CoreError for a malformed day
 */
export function proposeDay(given: DayProblem, options: DayOptions = {}): ProposedDay {
  const problem = readDayProblem(given);
  const { nodeLimit: _nodes, ...limits } = requireRecord(options, "options");
  const effort = new Effort(limits);
  const filled = new Proposal(problem, options);
  const jobs = problem.sites.reduce((sum, site) => sum + site.jobs.length, 0);
  if (jobs > MOST_EXACT_JOBS || problem.sites.length > MOST_EXACT_STOPS) return filled.byEstimate(effort);
  return filled.bestChoice(effort) ?? filled.byEstimate(effort);
}

const worth = (job: DayJob): number => job.value ?? 1;
const pressing = (job: DayJob): number => (worth(job) >= PRESSING ? worth(job) : 0);
const handsOf = (job: DayJob): number =>
  allPhases(job).reduce((sum, phase) => (phase.kind === "hands" ? sum + phase.minutes : sum), 0);

/** A day being chosen; a duty is told by its site and name. */
class Proposal {
  readonly #problem: DayProblem;
  readonly #options: DayOptions;
  readonly #all: { key: string; job: DayJob }[];
  /** Visits are packed once for all the days that are tried. */
  readonly #visits: PackedVisits = new Map();

  constructor(problem: DayProblem, options: DayOptions) {
    this.#problem = problem;
    this.#options = options;
    this.#all = problem.sites.flatMap((site) => site.jobs.map((job) => ({ key: keyOf(site.id, job.id), job })));
  }

  /** Of all choices the one worth most that holds; null when time ran out before that was known. */
  bestChoice(effort: Effort): ProposedDay | null {
    const sum = (of: (job: DayJob) => number, choice: number): number =>
      this.#all.reduce((total, { job }, i) => (choice & (1 << i) ? total + of(job) : total), 0);
    const choices = Array.from({ length: 1 << this.#all.length }, (_, choice) => ({
      choice,
      value: sum(worth, choice),
      presses: sum(pressing, choice),
      minutes: sum(handsOf, choice),
    })).sort((a, b) => b.value - a.value || b.presses - a.presses || a.minutes - b.minutes || a.choice - b.choice);
    // What alone does not hold holds with nothing else.
    const hopeless = this.#all.reduce((bits, _, i) => (this.#holds(1 << i, effort) ? bits : bits | (1 << i)), 0);
    for (const { choice } of choices) {
      if (choice & hopeless) continue;
      if (!effort.look()) return null;
      if (this.#holds(choice, effort)) return this.#planned(new Set(this.#keysOf(choice)));
      if (effort.stopped) return null;
    }
    return null;
  }

  #keysOf(choice: number): string[] {
    return this.#all.flatMap(({ key }, i) => (choice & (1 << i) ? [key] : []));
  }

  /** Whether there is an order in which these are done in time. */
  #holds(choice: number, effort: Effort): boolean {
    const how = { visits: this.#visits, seed: this.#options.seed ?? 1, goesOn: () => effort.look() };
    return Boolean(dayInTime(this.#only(new Set(this.#keysOf(choice))), how));
  }

  #only(keys: ReadonlySet<string>): DayProblem {
    return keepJobs(this.#problem, (job, site) => keys.has(keyOf(site, job)));
  }

  #planned(keys: ReadonlySet<string>): ProposedDay {
    const problem = this.#only(keys);
    return {
      jobs: problem.sites.flatMap((site) => site.jobs.map((job) => job.id)),
      problem,
      plan: planDay(problem, { nodeLimit: PLAN_NODES, ...this.#options }),
    };
  }

  byEstimate(effort: Effort): ProposedDay {
    let keys = estimated(this.#problem);
    let day = this.#planned(keys);
    while (keys.size > 0 && !inTime(day.plan)) {
      keys = without(keys, this.#leastUse(day));
      day = this.#planned(keys);
    }
    return this.#filledUp(day, keys, effort);
  }

  /** Of a day that does not hold: the duty without which it is soonest over and least late, for its worth. */
  #leastUse({ problem, plan }: ProposedDay): string {
    const late = new Set(plan.stops.flatMap((stop) => (stop.late > 0 ? [stop.site] : [])));
    const order = plan.stops.map((stop) => stop.site);
    let least: { key: string; cost: number } | null = null;
    for (const site of problem.sites)
      for (const job of site.jobs) {
        if (late.size > 0 && !late.has(site.id) && plan.overtime === 0) continue;
        const key = keyOf(site.id, job.id);
        const rest = keepJobs({ ...problem, order }, (id, at) => keyOf(at, id) !== key);
        const driver = new DayDriver(rest, this.#options.seed ?? 1, this.#visits);
        const left = driver.drive((rest.order ?? []).map((id) => rest.sites.findIndex((one) => one.id === id)));
        const gained = plan.lateMinutes + plan.overtime - left.lateMinutes - left.overtime;
        // What gains nothing is left only when nothing gains anything.
        const cost = gained > 0 ? worth(job) / gained : 1e9 + worth(job);
        if (least === null || cost < least.cost) least = { key, cost };
      }
    return must(least).key;
  }

  /** What was left and still fits somewhere in the round, most worth first. */
  #filledUp(day: ProposedDay, chosen: ReadonlySet<string>, effort: Effort): ProposedDay {
    let keys = chosen;
    let order = day.plan.stops.map((stop) => stop.site);
    let tried = 0;
    const left = this.#all.filter(({ key }) => !keys.has(key)).sort((a, b) => worth(b.job) - worth(a.job));
    for (const { key } of left) {
      if (tried >= MOST_FILLED || !effort.look()) break;
      const more = new Set([...keys, key]);
      const problem = this.#only(more);
      if (problem.sites.some((site) => site.access?.length === 0) || leastEndOf(problem) > problem.endBy) continue;
      const driver = new DayDriver(problem, this.#options.seed ?? 1, this.#visits);
      for (const next of problem.order ? [problem.order] : ordersWith(problem, order)) {
        tried++;
        const places = next.map((id) => problem.sites.findIndex((site) => site.id === id));
        if (!inTime(driver.drive(places))) continue;
        keys = more;
        order = next;
        break;
      }
    }
    if (keys.size === chosen.size) return day;
    const better = this.#planned(keys);
    if (inTime(better.plan)) return better;
    // The order that was found by filling up holds, whatever the search came to.
    return { ...better, plan: planDay({ ...better.problem, order }) };
  }
}

/** Steps of the search of a day that is proposed. */
const PLAN_NODES = 400;

const keyOf = (site: string, job: string): string => JSON.stringify([site, job]);
const without = (keys: ReadonlySet<string>, one: string): Set<string> =>
  new Set([...keys].filter((key) => key !== one));

/** The round with the site that is new to it at each place; the round as it is when there is none. */
function ordersWith(problem: DayProblem, order: readonly string[]): string[][] {
  const added = problem.sites.find((site) => !order.includes(site.id))?.id;
  if (added === undefined) return [[...order]];
  if (added === problem.first) return [[added, ...order]];
  const from = problem.first === undefined ? 0 : 1;
  return Array.from({ length: order.length + 1 - from }, (_, i) => {
    const at = from + i;
    return [...order.slice(0, at), added, ...order.slice(at)];
  });
}

/** Duties for the hours there are by a quick estimate of minutes. */
function estimated(problem: DayProblem): Set<string> {
  const room = problem.endBy - problem.startAt;
  const chosen = new Map<string, DayJob[]>();
  const lengths = new Map(problem.sites.map((site) => [site.id, 0]));
  const keys = new Set<string>();
  let tour: number[] = [];
  const open = problem.sites.flatMap((site, i) => site.jobs.map((job) => ({ site, node: i + 1, job })));
  for (;;) {
    const total = tourMinutes(problem, tour) + [...lengths.values()].reduce((sum, one) => sum + one, 0);
    let best: { at: number; score: number } | null = null;
    open.forEach(({ site, node, job }, at) => {
      const jobs = [...(chosen.get(site.id) ?? []), job];
      const way = tour.includes(node)
        ? 0
        : tourMinutes(problem, inserted(problem, tour, node)) - tourMinutes(problem, tour);
      const cost = siteMinutes(site, jobs) - must(lengths.get(site.id)) + way;
      if (total + cost > room || (site.access && site.access.length === 0)) return;
      const score = (pressing(job) > 0 ? 1_000_000 : 0) + worth(job) / Math.max(LEAST_COST, cost);
      if (best === null || score > best.score) best = { at, score };
    });
    const at = (best as { at: number } | null)?.at;
    if (at === undefined) return keys;
    const { site, node, job } = must(open.splice(at, 1)[0]);
    keys.add(keyOf(site.id, job.id));
    chosen.set(site.id, [...(chosen.get(site.id) ?? []), job]);
    lengths.set(site.id, siteMinutes(site, must(chosen.get(site.id))));
    if (!tour.includes(node)) tour = inserted(problem, tour, node);
  }
}

/** Hands cannot be shorter than their sum, nor any machine than its own work and waits. */
function siteMinutes(site: DaySite, jobs: readonly DayJob[]): number {
  if (jobs.length === 0) return 0;
  const hands = jobs.reduce((sum, job) => sum + handsOf(job), 0);
  const longest = Math.max(...jobs.map((job) => job.phases.reduce((sum, phase) => sum + phase.minutes, 0)));
  return site.arriving + Math.max(hands, longest) + site.leaving;
}

function tourMinutes({ travel }: DayProblem, tour: readonly number[]): number {
  if (tour.length === 0) return 0;
  return [0, ...tour].reduce((sum, node, i) => sum + must(must(travel[node])[tour[i] ?? 0]), 0);
}

function inserted(problem: DayProblem, tour: readonly number[], node: number): number[] {
  let best: number[] = [];
  let least = Infinity;
  for (let at = 0; at <= tour.length; at++) {
    const tried = [...tour.slice(0, at), node, ...tour.slice(at)];
    const minutes = tourMinutes(problem, tried);
    if (minutes < least) {
      least = minutes;
      best = tried;
    }
  }
  return best;
}
