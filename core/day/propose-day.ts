import { Effort } from "../effort";
import { requireRecord } from "../inputs";
import { UNKNOWN_SPREAD } from "../minutes/learn-minutes";
import { must } from "../must";
import { requireShare } from "../numbers";
import { dayInTime, inTime } from "./day-in-time";
import { DayDriver, type PackedVisits } from "./drive-day";
import { estimated, handsOf, keyOf, pressing, worth } from "./estimate-day";
import { leastEndOf } from "./least-end";
import { compareDays } from "./order-sites";
import { type DayOptions, planWith } from "./plan-day";
import { readDayProblem } from "./read-day";
import { dayRisk } from "./risk";
import { keepJobs } from "./suggest-changes";
import type { DayJob, DayPlan, DayProblem } from "./types";

export interface ProposedDay {
  jobs: string[];
  problem: DayProblem;
  plan: DayPlan;
}

/** Why a duty is not on a proposed day. */
export interface LeftOut {
  site: string;
  job: string;
  /** Nobody is let in; its own hours allow no such day; there is no room beside the rest; with it the day holds too rarely. */
  because: "closed" | "hours" | "room" | "chance";
  /** Where there would be one: the end of the day with it, and the share of days on which that holds. */
  endAt: number | null;
  holds: number | null;
}

export interface ProposeOptions extends DayOptions {
  /** Share of days on which it has to hold when minutes scatter; 0: only when each takes what is planned. */
  chance?: number;
  /** Standard deviation of the logarithm of a duty's hands-on minutes; 0.25 when absent. */
  spread?: (job: string) => number;
}

/** As many open duties, at as many sites, as all choices of are looked at. */
const MOST_EXACT_JOBS = 10;
const MOST_EXACT_STOPS = 5;
/** Duties that it is said of why they are left, the worthiest first. */
const MOST_EXPLAINED = 20;
/** Days that filling up tries at most. */
const MOST_FILLED = 400;
/** Search nodes for a visit of a day that is only tried. */
const TRIED_NODES = 120;
/** Shares of the time for filling the day up, for exchanging duties, and for looking at every choice of a few. */
const FILL_TIME = 0.3;
const SWAP_TIME = 0.2;
const CHOOSE_TIME = 0.3;
/** Duties that are tried without, of a day that does not hold. */
const MOST_LEFT_TRIED = 5;
/** Exchanges of a duty for one worth more that are tried at most. */
const MOST_SWAPS = 60;
/** Drawn days while it is searched; the day that is proposed is drawn in full. */
const SEARCH_SAMPLES = 200;

/**
 * The duties worth most for the hours there are, out of everything that could be done. Of a few, the choice worth most in sum
 * (of equal ones the one with more that presses, then with less work): every choice is tried. Of many, pressing ones first,
 * then by worth for the minutes they add, ways included: filled up by a quick estimate, planned in earnest, what does not fit
 * left again, and what still fits then put on.
 *
 * @param problem the day with all candidates on it; `value` of a job says what it is worth
 * @throws CoreError for a malformed day
 */
export function proposeDay(given: DayProblem, options: ProposeOptions = {}): ProposedDay {
  const problem = readDayProblem(given);
  const { nodeLimit: _nodes, ...limits } = requireRecord(options, "options");
  if (limits.chance !== undefined) requireShare(limits.chance, "options.chance");
  // Each part has its share of the time: what takes long leaves the rest its own.
  const part = (share: number): Effort =>
    new Effort({ ...limits, timeLimitMs: share * (limits.timeLimitMs ?? DEFAULT_MS) });
  const filled = new Proposal(problem, options);
  const jobs = problem.sites.reduce((sum, site) => sum + site.jobs.length, 0);
  const quick = filled.byEstimate(part);
  if (jobs > MOST_EXACT_JOBS || problem.sites.length > MOST_EXACT_STOPS) return quick;
  return filled.betterChoice(quick, part(CHOOSE_TIME)) ?? quick;
}

/**
 * Why those that are not on a proposed day are left, the worthiest first; the first twenty.
 *
 * @param given the day with all candidates on it, as it was proposed from
 * @throws CoreError for a malformed day
 */
export function whyLeft(given: DayProblem, day: ProposedDay, options: ProposeOptions = {}): LeftOut[] {
  return new Proposal(readDayProblem(given), options).whyLeft(day);
}

/** A day being chosen; a duty is told by its site and name. */
class Proposal {
  readonly #problem: DayProblem;
  readonly #options: ProposeOptions;
  readonly #chance: number;
  readonly #all: { key: string; job: DayJob }[];
  /** Visits are packed once for all the days that are tried. */
  readonly #visits: PackedVisits = new Map();
  /** The same by a short search each: what only has to be good enough to be tried. */
  readonly #tried: PackedVisits = new Map();

  constructor(problem: DayProblem, options: ProposeOptions) {
    this.#problem = problem;
    this.#options = options;
    this.#chance = options.chance ?? 0;
    this.#all = problem.sites.flatMap((site) => site.jobs.map((job) => ({ key: keyOf(site.id, job.id), job })));
  }

  /** Of all choices that come before a known one the first that holds: worth most; null when there is none, or time ran out. */
  betterChoice(known: ProposedDay, effort: Effort): ProposedDay | null {
    const keys = keysIn(known);
    const own = this.#all.reduce((bits, { key }, i) => (keys.has(key) ? bits | (1 << i) : bits), 0);
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
      if (choice === own) return null;
      if (choice & hopeless) continue;
      if (!effort.look()) return null;
      if (this.#holds(choice, effort)) {
        const day = this.#planned(new Set(this.#keysOf(choice)));
        if (this.#chanceOf(day.problem, day.plan) >= this.#chance) return day;
      }
      if (effort.stopped) return null;
    }
    return null;
  }

  /** Share of days on which a plan holds; as it is drawn for whoever looks at the day, or roughly while it is searched. */
  #chanceOf(problem: DayProblem, plan: DayPlan, samples?: number): number {
    if (this.#chance === 0) return inTime(plan) ? 1 : 0;
    if (!inTime(plan)) return 0;
    const { spread = () => UNKNOWN_SPREAD, seed = 1 } = this.#options;
    return dayRisk(problem, plan, spread, seed, samples).holds;
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
      plan: planWith(problem, { nodeLimit: PLAN_NODES, ...this.#options }, this.#visits),
    };
  }

  byEstimate(part: (share: number) => Effort): ProposedDay {
    const { spread = () => UNKNOWN_SPREAD } = this.#options;
    const first = this.#planned(estimated(this.#problem, { chance: this.#chance, spread }));
    const day = this.#bettered(this.#filledUp(this.#lightened(first), part(FILL_TIME)), part(SWAP_TIME));
    // Filling up draws few days, and goes by orders that a search may change: in full it may hold a little less often.
    return this.#heldBack(this.#planned(keysIn(day)));
  }

  /** The best day of fewer duties, until it holds. */
  #heldBack(given: ProposedDay): ProposedDay {
    let day = given;
    while (day.jobs.length > 0 && !this.#good(day)) {
      const less = this.#lightened(day);
      day = this.#planned(
        less.jobs.length < day.jobs.length ? keysIn(less) : without(keysIn(day), this.#leastUse(day).key),
      );
    }
    return day;
  }

  /** The day in its order without what it does not hold with. */
  #lightened(given: ProposedDay): ProposedDay {
    let day = given;
    while (
      day.jobs.length > 0 &&
      this.#chanceOf(day.problem, day.plan, SEARCH_SAMPLES) < Math.max(this.#chance, EVER)
    ) {
      const { problem, plan } = this.#leastUse(day);
      day = { jobs: problem.sites.flatMap((site) => site.jobs.map((job) => job.id)), problem, plan };
    }
    return day;
  }

  #good = (day: ProposedDay): boolean =>
    inTime(day.plan) !== null && this.#chanceOf(day.problem, day.plan) >= this.#chance;

  /** Of a day that does not hold: the duty without which it holds most, or is soonest over and least late, for its worth. */
  #leastUse({ problem, plan }: ProposedDay): { key: string; problem: DayProblem; plan: DayPlan } {
    const late = new Set(plan.stops.flatMap((stop) => (stop.late > 0 ? [stop.site] : [])));
    const order = plan.stops.map((stop) => stop.site);
    const holds = inTime(plan) === null ? null : this.#chanceOf(problem, plan, SEARCH_SAMPLES);
    const open = problem.sites
      .filter((site) => late.size === 0 || late.has(site.id) || plan.overtime > 0)
      .flatMap((site) => site.jobs.map((job) => ({ job, key: keyOf(site.id, job.id) })))
      // Those that are worth least for their minutes: of them the one that helps most.
      .sort((a, b) => worth(a.job) / Math.max(1, handsOf(a.job)) - worth(b.job) / Math.max(1, handsOf(b.job)))
      .slice(0, MOST_LEFT_TRIED);
    let least: { key: string; cost: number; problem: DayProblem; plan: DayPlan } | null = null;
    for (const { job, key } of open) {
      const rest = keepJobs({ ...problem, order }, (id, at) => keyOf(at, id) !== key);
      const left = this.#drive(rest, rest.order ?? []);
      const gained =
        holds === null
          ? plan.lateMinutes + plan.overtime - left.lateMinutes - left.overtime
          : this.#chanceOf(rest, left, SEARCH_SAMPLES) - holds;
      // What gains nothing is left only when nothing gains anything.
      const cost = gained > 0 ? worth(job) / gained : 1e9 + worth(job);
      if (least === null || cost < least.cost) least = { key, cost, problem: freely(rest, problem), plan: left };
    }
    return must(least);
  }

  #drive(problem: DayProblem, order: readonly string[]): DayPlan {
    const driver = new DayDriver(problem, this.#options.seed ?? 1, this.#tried, TRIED_NODES);
    return driver.drive(order.map((id) => problem.sites.findIndex((site) => site.id === id)));
  }

  #driven(keys: ReadonlySet<string>, order: readonly string[]): ProposedDay {
    const problem = this.#only(keys);
    return {
      jobs: problem.sites.flatMap((site) => site.jobs.map((job) => job.id)),
      problem,
      plan: this.#drive(problem, order),
    };
  }

  /** What was left and still fits somewhere in the round, most worth first. */
  #filledUp(day: ProposedDay, effort: Effort): ProposedDay {
    let keys = keysIn(day);
    let order = day.plan.stops.map((stop) => stop.site);
    const chosen = keys.size;
    let tried = 0;
    const left = this.#all.filter(({ key }) => !keys.has(key)).sort((a, b) => worth(b.job) - worth(a.job));
    for (const { key } of left) {
      if (tried >= MOST_FILLED || !effort.look()) break;
      const more = new Set([...keys, key]);
      const found = this.#placeFor(more, order, () => ++tried <= MOST_FILLED);
      if (!found) continue;
      keys = more;
      order = found;
    }
    return keys.size === chosen ? day : this.#driven(keys, order);
  }

  /** A duty that was left in the place of one worth less, while one is found. */
  #bettered(given: ProposedDay, effort: Effort): ProposedDay {
    let day = given;
    let tried = 0;
    for (let again = true; again;) {
      again = false;
      const keys = keysIn(day);
      const order = day.plan.stops.map((stop) => stop.site);
      const byWorth = [...this.#all].sort((a, b) => worth(b.job) - worth(a.job));
      const pairs = byWorth
        .filter(({ key }) => !keys.has(key))
        .flatMap((more) =>
          byWorth
            .filter(({ key, job }) => keys.has(key) && !job.pinned && worth(job) < worth(more.job))
            .reverse()
            .map((less) => ({ more, less })),
        );
      for (const { more, less } of pairs) {
        if (tried++ >= MOST_SWAPS || !effort.look()) return day;
        const swapped = new Set([...without(keys, less.key), more.key]);
        const found = this.#placeFor(swapped, order, () => true);
        if (!found) continue;
        day = this.#driven(swapped, found);
        again = true;
        break;
      }
    }
    return day;
  }

  whyLeft(day: ProposedDay): LeftOut[] {
    const keys = keysIn(day);
    const order = day.plan.stops.map((stop) => stop.site);
    return this.#problem.sites
      .flatMap((site) => site.jobs.map((job) => ({ site, job, key: keyOf(site.id, job.id) })))
      .filter(({ key }) => !keys.has(key))
      .sort((a, b) => worth(b.job) - worth(a.job))
      .slice(0, MOST_EXPLAINED)
      .map(({ site, job, key }) => {
        const left = { site: site.id, job: job.id, endAt: null, holds: null };
        if (site.access?.length === 0) return { ...left, because: "closed" };
        const alone = this.#only(new Set([key]));
        const [only] = alone.sites;
        if (only && !inTime(this.#drive({ ...alone, endBy: LAST_MINUTE }, [only.id])))
          return { ...left, because: "hours" };
        const problem = this.#only(new Set([...keys, key]));
        const plans = (problem.order ? [problem.order] : ordersWith(problem, order)).map((next) =>
          this.#drive(problem, next),
        );
        const plan = must(plans.sort(compareDays)[0]);
        if (!inTime(plan)) return { ...left, because: "room", endAt: plan.endAt };
        return { ...left, because: "chance", endAt: plan.endAt, holds: this.#chanceOf(problem, plan) };
      });
  }

  /** An order of the round in which these duties hold; null when none of those that are tried does. */
  #placeFor(keys: ReadonlySet<string>, order: readonly string[], goesOn: () => boolean): string[] | null {
    const problem = this.#only(keys);
    if (problem.sites.some((site) => site.access?.length === 0) || leastEndOf(problem) > problem.endBy) return null;
    const kept = order.filter((id) => problem.sites.some((site) => site.id === id));
    for (const next of problem.order ? [problem.order] : ordersWith(problem, kept)) {
      if (!goesOn()) return null;
      if (this.#chanceOf(problem, this.#drive(problem, next), SEARCH_SAMPLES) >= Math.max(this.#chance, EVER))
        return next;
    }
    return null;
  }
}

/** As long as any search, when nothing is said. */
const DEFAULT_MS = 5000;
/** Later than any day ends. */
const LAST_MINUTE = 2 * 1440;
/** A day that never holds is none, whatever chance is wanted. */
const EVER = 1e-9;

const keysIn = ({ problem }: ProposedDay): Set<string> =>
  new Set(problem.sites.flatMap((site) => site.jobs.map((job) => keyOf(site.id, job.id))));

/** A day whose order was held fast to try something, with the order it had before. */
function freely(problem: DayProblem, { order }: DayProblem): DayProblem {
  const { order: _held, ...free } = problem;
  return order ? { ...free, order: order.filter((id) => free.sites.some((site) => site.id === id)) } : free;
}

/** Steps of the search of a day that is proposed. */
const PLAN_NODES = 400;

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
