import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { Effort, type EffortLimits } from "../effort";
import { requireRecord } from "../inputs";
import { must } from "../must";
import { shuffled, uniform } from "../random";
import { requireWeek } from "./require-week";
import type { WeekDuty, WeekPlan, WeekProblem } from "./types";
import { latenessOf, LEFT_COST, weekBound } from "./week-bound";

export interface WeekOptions extends EffortLimits {
  seed?: number;
  onProgress?: (cost: number, bound: number) => boolean | void;
}

/** Most duties taken out at once. */
const MOST_OUT = 40;
/** Share of the cost by which a dearer week is taken now and then. */
const HEAT = 0.001;
/** How often everything that fits is put in first, whatever way it takes, and what does not pay taken out after. */
const EAGER = 0.2;

/**
 * Gives a week's duties to people and days: what is worth most is done, in time, with as little as possible spent on ways,
 * arriving and leaving. The same objective as a single day's proposal, for many people at once; by who may do what, where.
 *
 * Method: ruin and recreate (G. Schrimpf et al., Journal of Computational Physics 159, 2000; from memory): related duties are
 * taken out and put back where they cost least. The bound: see `weekBound`.
 *
 * @throws CoreError for a malformed week
 */
export function assignWeek(problem: WeekProblem, options: WeekOptions = {}): WeekPlan {
  requireWeek(problem);
  requireRecord(options, "options");
  const { people, duties } = problem;
  // Absent counts as everybody, everywhere.
  const read: WeekProblem = {
    ...problem,
    people: people.map((person) => ({ ...person, sites: person.sites ?? null })),
    duties: duties.map((duty) => ({ ...duty, people: duty.people ?? null })),
  };
  return new Week(read, options).assign();
}

/** A stop of a route: a site with duties, all by index. */
interface Stop {
  site: number;
  duties: number[];
}

/** The search: everything by index, a slot (a person's day) holds stops in order, a stop its duties. */
class Week {
  readonly #problem: WeekProblem;
  readonly #options: WeekOptions;
  readonly #siteIndex: ReadonlyMap<string, number>;
  readonly #slots: { person: number; day: number; minutes: number }[];
  /** Slots that may do a duty. */
  readonly #allowed: number[][];
  readonly #random: () => number;
  #routes: Stop[][];
  /** Slot of each duty; -1 = left. */
  #place: number[];

  constructor(problem: WeekProblem, options: WeekOptions) {
    this.#problem = problem;
    this.#options = options;
    this.#siteIndex = new Map(problem.sites.map((site, i) => [site.id, i]));
    this.#slots = problem.people.flatMap((person, p) =>
      person.minutes.map((minutes, day) => ({ person: p, day, minutes })).filter((slot) => slot.minutes > 0),
    );
    this.#allowed = problem.duties.map((duty) => this.#slotsFor(duty));
    this.#random = uniform(xoroshiro128plus(options.seed ?? 1));
    this.#routes = this.#slots.map(() => []);
    this.#place = problem.duties.map(() => -1);
  }

  assign(): WeekPlan {
    const { duties } = this.#problem;
    const effort = new Effort(this.#options);
    const bound = weekBound(this.#problem, this.#slots, this.#allowed);
    for (const d of this.#byValue(duties.map((_, i) => i))) this.#insert(d, 0);
    let cost = this.#cost();
    let best = { cost, routes: this.#routes, place: this.#place };
    this.#options.onProgress?.(cost, bound);
    while (duties.length > 0 && this.#slots.length > 0 && best.cost > bound + 1e-9 && effort.step()) {
      const [oldRoutes, oldPlace] = [this.#routes, this.#place];
      this.#routes = [...this.#routes];
      this.#place = [...this.#place];
      this.#shake();
      const next = this.#cost();
      // A little more is taken now and then: it may be the way to less.
      if (next > cost - best.cost * HEAT * Math.log(1 - this.#random())) {
        [this.#routes, this.#place] = [oldRoutes, oldPlace];
        continue;
      }
      cost = next;
      if (next >= best.cost - 1e-9) continue;
      best = { cost, routes: this.#routes, place: this.#place };
      if (this.#options.onProgress?.(next, bound) === false) effort.stop();
    }
    [this.#routes, this.#place] = [best.routes, best.place];
    return { ...this.#result(), cost: best.cost, bound };
  }

  #slotsFor(duty: WeekDuty): number[] {
    const site = must(this.#problem.sites[must(this.#siteIndex.get(duty.site))]);
    return this.#slots.flatMap((slot, s) => {
      const person = must(this.#problem.people[slot.person]);
      const may =
        (duty.people === null || duty.people.includes(person.id)) &&
        (person.sites === null || person.sites.includes(duty.site));
      return may && must(site.open[slot.day]) > 0 ? [s] : [];
    });
  }

  #byValue(list: number[]): number[] {
    const value = (d: number): number => must(this.#problem.duties[d]).value;
    return list.sort((a, b) => value(b) - value(a) || a - b);
  }

  #stopMinutes(stop: Stop): number {
    let hands = 0;
    let longest = 0;
    for (const d of stop.duties) {
      const duty = must(this.#problem.duties[d]);
      hands += duty.hands;
      longest = Math.max(longest, duty.longest);
    }
    return Math.max(hands, longest);
  }

  /** Minutes of a route that are no work: on the way and of getting in. */
  #ways(route: readonly Stop[]): number {
    const { travel, sites } = this.#problem;
    let sum = 0;
    let at = 0;
    for (const stop of route) {
      sum += must(must(travel[at])[stop.site + 1]) + must(sites[stop.site]).overhead;
      at = stop.site + 1;
    }
    return route.length > 0 ? sum + must(must(travel[at])[0]) : 0;
  }

  #minutesOf(route: readonly Stop[]): number {
    return this.#ways(route) + route.reduce((sum, stop) => sum + this.#stopMinutes(stop), 0);
  }

  #lateness(d: number, day: number): number {
    return latenessOf(must(this.#problem.duties[d]), day);
  }

  #cost(): number {
    let cost = 0;
    this.#routes.forEach((route, s) => {
      cost += this.#ways(route);
      for (const stop of route) for (const d of stop.duties) cost += this.#lateness(d, must(this.#slots[s]).day);
    });
    this.#place.forEach((s, d) => (cost += s < 0 ? LEFT_COST * must(this.#problem.duties[d]).value : 0));
    return cost;
  }

  /** The route with the duty in it where it costs least; null when it does not fit the hours. */
  #withDuty(s: number, d: number): { route: Stop[]; added: number } | null {
    const route = must(this.#routes[s]);
    const site = must(this.#siteIndex.get(must(this.#problem.duties[d]).site));
    const { minutes, day } = must(this.#slots[s]);
    const known = route.findIndex((stop) => stop.site === site);
    const candidates: Stop[][] =
      known >= 0
        ? [route.map((stop, i) => (i === known ? { site, duties: [...stop.duties, d] } : stop))]
        : Array.from({ length: route.length + 1 }, (_, at) => [
            ...route.slice(0, at),
            { site, duties: [d] },
            ...route.slice(at),
          ]);
    let best: { route: Stop[]; added: number } | null = null;
    const before = this.#ways(route);
    for (const candidate of candidates) {
      const added = this.#ways(candidate) - before + this.#lateness(d, day);
      if (best && added >= best.added) continue;
      if (this.#minutesOf(candidate) > minutes) continue;
      const own = must(candidate.find((stop) => stop.site === site));
      if (this.#stopMinutes(own) > must(must(this.#problem.sites[site]).open[day])) continue;
      best = { route: candidate, added };
    }
    return best;
  }

  /** @param eager also where the way alone costs more than the duty is worth: others may share it */
  #insert(d: number, noise: number, eager = false): void {
    const worth = eager ? Infinity : LEFT_COST * must(this.#problem.duties[d]).value;
    let chosen: { s: number; route: Stop[]; added: number } | null = null;
    for (const s of must(this.#allowed[d])) {
      const found = this.#withDuty(s, d);
      if (!found) continue;
      const added = found.added * (1 + noise * this.#random());
      if (added < worth && (chosen === null || added < chosen.added)) chosen = { s, route: found.route, added };
    }
    if (!chosen) return;
    this.#routes[chosen.s] = chosen.route;
    this.#place[d] = chosen.s;
  }

  #remove(d: number): void {
    const s = must(this.#place[d]);
    if (s < 0) return;
    this.#routes[s] = must(this.#routes[s])
      .map((stop) => ({ site: stop.site, duties: stop.duties.filter((one) => one !== d) }))
      .filter((stop) => stop.duties.length > 0);
    this.#place[d] = -1;
  }

  /** Takes some duties out and puts everything that is left back in, in another order. */
  #shake(): void {
    for (const d of this.#related()) this.#remove(d);
    const pending = this.#place.flatMap((s, d) => (s < 0 ? [d] : []));
    const order = this.#random() < 0.5 ? shuffled(pending, this.#random) : this.#byValue(pending);
    const eager = this.#random() < EAGER;
    for (const d of order) this.#insert(d, 0.3, eager);
    if (eager) this.#leaveWhatDoesNotPay();
  }

  /** Routes, stops and duties that cost more than they are worth are left, until none does. */
  #leaveWhatDoesNotPay(): void {
    const { duties } = this.#problem;
    const left = (list: readonly number[]): number =>
      list.reduce((sum, d) => sum + LEFT_COST * must(duties[d]).value, 0);
    for (let s = 0; s < this.#routes.length; s++) {
      const { day } = must(this.#slots[s]);
      const late = (list: readonly number[]): number => list.reduce((sum, d) => sum + this.#lateness(d, day), 0);
      for (let again = true; again;) {
        again = false;
        const route = must(this.#routes[s]);
        const ways = this.#ways(route);
        for (const stop of route) {
          const saved = ways - this.#ways(route.filter((one) => one !== stop)) + late(stop.duties);
          const out = saved > left(stop.duties) ? stop.duties : stop.duties.filter((d) => late([d]) > left([d]));
          if (out.length === 0) continue;
          for (const d of out) this.#remove(d);
          again = true;
          break;
        }
      }
      const all = must(this.#routes[s]).flatMap((stop) => stop.duties);
      if (this.#ways(must(this.#routes[s])) + late(all) > left(all)) for (const d of all) this.#remove(d);
    }
  }

  /** What is taken out: the duties of a site, of a person's day, or any. */
  #related(): number[] {
    const { duties } = this.#problem;
    const all = duties.map((_, d) => d);
    const pick = this.#random();
    const seed = Math.floor(this.#random() * duties.length);
    const alike =
      pick < 0.4
        ? all.filter((d) => must(duties[d]).site === must(duties[seed]).site)
        : pick < 0.7
          ? all.filter((d) => this.#place[d] === this.#place[seed])
          : shuffled(all, this.#random);
    return alike.slice(0, 1 + Math.floor(this.#random() * MOST_OUT));
  }

  #result(): Pick<WeekPlan, "routes" | "left"> {
    const { people, sites, duties } = this.#problem;
    return {
      routes: this.#routes.flatMap((route, s) => {
        const { person, day } = must(this.#slots[s]);
        const stops = route.map((stop) => ({
          site: must(sites[stop.site]).id,
          duties: stop.duties.map((d) => must(duties[d]).id),
        }));
        return route.length === 0
          ? []
          : [
              {
                person: must(people[person]).id,
                day,
                stops,
                minutes: this.#minutesOf(route),
                overhead: this.#ways(route),
              },
            ];
      }),
      left: this.#place.flatMap((s, d) => (s < 0 ? [must(duties[d]).id] : [])),
    };
  }
}
