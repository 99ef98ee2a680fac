import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { Effort, type EffortLimits } from "../effort";
import { CoreError } from "../errors";
import { must } from "../must";
import { requireNotNegative } from "../numbers";
import { shuffled, uniform } from "../random";

export interface WeekDuty {
  id: string;
  site: string;
  /** Hands-on minutes, and the least its machine needs with all waits. */
  hands: number;
  longest: number;
  /** What it is worth to do it, against others. */
  value: number;
  /** Day of the week it is due on, 0 = the first; before 0 when it is late already. */
  due: number;
  /** Who may do it: skills and authorisations; null = everybody. */
  people: string[] | null;
}

export interface WeekProblem {
  days: number;
  people: {
    id: string;
    /** Minutes there on each day; 0 = not there. */ minutes: number[];
    /** Sites of their territory; null = all. */ sites: string[] | null;
  }[];
  /** `open`: minutes a day during which people are let in; 0 = closed. */
  sites: { id: string; overhead: number; open: number[] }[];
  duties: WeekDuty[];
  /** Minutes from row to column, (sites + 1)²; index 0 is the depot. */
  travel: number[][];
}

export interface WeekRoute {
  person: string;
  day: number;
  stops: { site: string; duties: string[] }[];
  /** Minutes in all, and those on the way or spent on arriving and leaving. */
  minutes: number;
  overhead: number;
}

export interface WeekPlan {
  routes: WeekRoute[];
  /** Duties that found no place. */
  left: string[];
  cost: number;
  /** No plan costs less. */
  bound: number;
}

export interface WeekOptions extends EffortLimits {
  seed?: number;
  onProgress?: (cost: number, bound: number) => boolean | void;
}

/** Cost of a unit of worth left undone: an hour more on the road is worth a small duty. */
const LEFT_COST = 10;
/** Share of its worth that a duty costs for each day after its due day. */
const LATE_COST = 0.5;
/** Most duties taken out at once. */
const MOST_OUT = 40;

/**
 * Gives a week's duties to people and days: what is worth most is done, in time, with as little as possible spent on ways,
 * arriving and leaving. The same objective as a single day's proposal, for many people at once; by who may do what, where.
 *
 * Method: ruin and recreate (G. Schrimpf et al., Journal of Computational Physics 159, 2000; from memory): related duties are
 * taken out and put back where they cost least. The bound is a relaxation without ways between sites: see `lowerBound`.
 *
 * @throws CoreError for a malformed week
 */
export function assignWeek(problem: WeekProblem, options: WeekOptions = {}): WeekPlan {
  const { people, sites, duties, travel, days } = problem;
  const size = sites.length + 1;
  if (travel.length !== size || travel.some((row) => row.length !== size))
    throw new CoreError(
      "bad-value",
      "travel",
      `For ${sites.length} sites travel needs ${size} rows of ${size} minutes, the depot first.`,
    );
  travel.forEach((row, i) => row.forEach((minutes, k) => requireNotNegative(minutes, `travel[${i}][${k}]`)));
  const siteIndex = new Map(sites.map((site, i) => [site.id, i]));
  duties.forEach((duty, i) => {
    if (!siteIndex.has(duty.site))
      throw new CoreError("unknown-reference", `duties[${i}].site`, `There is no site ${duty.site}.`);
    requireNotNegative(duty.hands, `duties[${i}].hands`);
    requireNotNegative(duty.value, `duties[${i}].value`);
  });
  people.forEach((person, i) => {
    if (person.minutes.length !== days)
      throw new CoreError("bad-value", `people[${i}].minutes`, `Give minutes for each of the ${days} days.`);
  });
  const effort = new Effort(options);
  const random = uniform(xoroshiro128plus(options.seed ?? 1));
  const slots = people.flatMap((person, p) =>
    person.minutes.map((minutes, day) => ({ person: p, day, minutes })).filter((slot) => slot.minutes > 0),
  );
  const allowed = duties.map((duty) => {
    const site = must(sites[must(siteIndex.get(duty.site))]);
    return slots.flatMap((slot, s) => {
      const person = must(people[slot.person]);
      const may =
        (duty.people === null || duty.people.includes(person.id)) &&
        (person.sites === null || person.sites.includes(duty.site));
      return may && must(site.open[slot.day]) > 0 ? [s] : [];
    });
  });
  // Everything by index from here on: a slot holds stops in order, a stop its duties.
  type Stop = { site: number; duties: number[] };
  let routes: Stop[][] = slots.map(() => []);
  let place: number[] = duties.map(() => -1);

  const stopMinutes = (stop: Stop): number => {
    let hands = 0;
    let longest = 0;
    for (const d of stop.duties) {
      hands += must(duties[d]).hands;
      longest = Math.max(longest, must(duties[d]).longest);
    }
    return Math.max(hands, longest);
  };
  const ways = (route: readonly Stop[]): number => {
    let sum = 0;
    let at = 0;
    for (const stop of route) {
      sum += must(must(travel[at])[stop.site + 1]) + must(sites[stop.site]).overhead;
      at = stop.site + 1;
    }
    return route.length > 0 ? sum + must(must(travel[at])[0]) : 0;
  };
  const minutesOf = (route: readonly Stop[]): number =>
    ways(route) + route.reduce((sum, stop) => sum + stopMinutes(stop), 0);
  const lateness = (d: number, day: number): number =>
    Math.max(0, day - Math.max(0, must(duties[d]).due)) * LATE_COST * must(duties[d]).value;
  const costOf = (): number => {
    let cost = 0;
    routes.forEach((route, s) => {
      cost += ways(route);
      for (const stop of route) for (const d of stop.duties) cost += lateness(d, must(slots[s]).day);
    });
    place.forEach((s, d) => (cost += s < 0 ? LEFT_COST * must(duties[d]).value : 0));
    return cost;
  };

  /** The route with the duty in it where it costs least; null when it does not fit the hours. */
  const withDuty = (s: number, d: number): { route: Stop[]; added: number } | null => {
    const route = must(routes[s]);
    const site = must(siteIndex.get(must(duties[d]).site));
    const { minutes, day } = must(slots[s]);
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
    const before = ways(route);
    for (const candidate of candidates) {
      const added = ways(candidate) - before + lateness(d, day);
      if (best && added >= best.added) continue;
      if (minutesOf(candidate) > minutes) continue;
      const own = must(candidate.find((stop) => stop.site === site));
      if (stopMinutes(own) > must(must(sites[site]).open[day])) continue;
      best = { route: candidate, added };
    }
    return best;
  };
  const insert = (d: number, noise: number): void => {
    let chosen: { s: number; route: Stop[]; added: number } | null = null;
    for (const s of must(allowed[d])) {
      const found = withDuty(s, d);
      if (!found) continue;
      const added = found.added * (1 + noise * random());
      if (added < LEFT_COST * must(duties[d]).value && (chosen === null || added < chosen.added))
        chosen = { s, route: found.route, added };
    }
    if (!chosen) return;
    routes[chosen.s] = chosen.route;
    place[d] = chosen.s;
  };
  const remove = (d: number): void => {
    const s = must(place[d]);
    if (s < 0) return;
    routes[s] = must(routes[s])
      .map((stop) => ({ site: stop.site, duties: stop.duties.filter((one) => one !== d) }))
      .filter((stop) => stop.duties.length > 0);
    place[d] = -1;
  };

  const bound = lowerBound(problem, siteIndex, new Set(allowed.flatMap((list, d) => (list.length === 0 ? [d] : []))));
  for (const d of duties.map((_, i) => i).sort((a, b) => must(duties[b]).value - must(duties[a]).value || a - b))
    insert(d, 0);
  let cost = costOf();
  options.onProgress?.(cost, bound);
  while (duties.length > 0 && slots.length > 0 && cost > bound + 1e-9 && effort.step()) {
    const [oldRoutes, oldPlace] = [routes, place];
    routes = [...routes];
    place = [...place];
    const out = related(random);
    for (const d of out) remove(d);
    const pending = place.flatMap((s, d) => (s < 0 ? [d] : []));
    const order =
      random() < 0.5
        ? shuffled(pending, random)
        : pending.sort((a, b) => must(duties[b]).value - must(duties[a]).value || a - b);
    for (const d of order) insert(d, 0.3);
    const next = costOf();
    if (next > cost + 1e-9) [routes, place] = [oldRoutes, oldPlace];
    else {
      if (next < cost - 1e-9 && options.onProgress?.(next, bound) === false) effort.stop();
      cost = next;
    }
  }

  return {
    routes: routes.flatMap((route, s) =>
      route.length === 0
        ? []
        : [
            {
              person: must(people[must(slots[s]).person]).id,
              day: must(slots[s]).day,
              stops: route.map((stop) => ({
                site: must(sites[stop.site]).id,
                duties: stop.duties.map((d) => must(duties[d]).id),
              })),
              minutes: minutesOf(route),
              overhead: ways(route),
            },
          ],
    ),
    left: place.flatMap((s, d) => (s < 0 ? [must(duties[d]).id] : [])),
    cost,
    bound,
  };

  /** What is taken out: the duties of a site, of a person's day, or any. */
  function related(draw: () => number): number[] {
    const all = duties.map((_, d) => d);
    const pick = draw();
    const seed = Math.floor(draw() * duties.length);
    const alike =
      pick < 0.4
        ? all.filter((d) => must(duties[d]).site === must(duties[seed]).site)
        : pick < 0.7
          ? all.filter((d) => place[d] === place[seed])
          : shuffled(all, draw);
    return alike.slice(0, 1 + Math.floor(draw() * MOST_OUT));
  }
}

/**
 * What no plan can do without, in three parts that share no cost: duties that nobody may do; late ones done as early as the
 * hours allow if they could be cut into pieces; one arrival by the cheapest way at each site. Leaving a duty undone settles
 * its share of the last two, so each of them counts half of that cost.
 */
function lowerBound(
  problem: WeekProblem,
  siteIndex: ReadonlyMap<string, number>,
  impossible: ReadonlySet<number>,
): number {
  const { people, duties, travel, sites, days } = problem;
  const half = LEFT_COST / 2;
  let bound = 0;
  for (const d of impossible) bound += LEFT_COST * must(duties[d]).value;
  const possible = duties.filter((_, d) => !impossible.has(d));

  const room = Array.from({ length: days }, (_, day) =>
    people.reduce((sum, person) => sum + must(person.minutes[day]), 0),
  );
  const pressing = possible
    .filter((duty) => duty.due <= 0 && duty.hands > 0)
    .sort((a, b) => b.value / b.hands - a.value / a.hands);
  for (const duty of pressing) {
    let rest = duty.hands;
    for (let day = 0; day < days && rest > 0; day++) {
      const done = Math.min(rest, must(room[day]));
      room[day] = must(room[day]) - done;
      rest -= done;
      bound += (done / duty.hands) * Math.min(half, day * LATE_COST) * duty.value;
    }
    bound += (rest / duty.hands) * half * duty.value;
  }

  const worth = new Map<number, number>();
  for (const duty of possible)
    worth.set(must(siteIndex.get(duty.site)), (worth.get(must(siteIndex.get(duty.site))) ?? 0) + duty.value * half);
  for (const [i, whole] of worth) {
    const into = Math.min(...travel.map((row, from) => (from === i + 1 ? Infinity : must(row[i + 1]))));
    bound += Math.min(whole, into + must(sites[i]).overhead);
  }
  return bound;
}
