import { type DayFigures, leastWaysInRounds, must } from "@core";
import { getDb } from "@db";

import { depotPlace } from "~/kit/days/depot.server";
import { standstillDays } from "~/round/day/day-sites.server";
import { travelBetween } from "~/round/ways/travel.server";

/** Where a week's duties are. */
export interface Ground {
  sites: { id: string; accessHours: string }[];
  /** Minutes from row to column; 0 is the depot, then the sites. */
  travel: number[][];
  /** Sites and days on which they are closed, as `site day`. */
  closed: ReadonlySet<string>;
}

/** Minutes under way on the proposed days, and what no sharing out of their sites is less than. */
export interface WeekWays {
  minutes: number;
  least: number;
}

/** Duties that come after their due day, and of them those that cannot come before it. */
export interface WeekLate {
  duties: number;
  unavoidable: number;
}

/** Of a proposed day as much as its figures need. */
interface Planned {
  day: number;
  duties: readonly string[];
  order: readonly string[];
  /** Hands-on minutes at each site. */
  hands: ReadonlyMap<string, number>;
  /** Minutes of the day, for everybody who goes. */
  room: number;
  figures: DayFigures | null;
}

export async function groundOf(days: readonly string[], duties: readonly { siteId: string }[]): Promise<Ground> {
  const siteIds = [...new Set(duties.map((row) => row.siteId))];
  if (siteIds.length === 0) return { sites: [], travel: [[0]], closed: new Set() };
  const sites = await getDb().models.Site.findAll({
    attributes: ["id", "name", "latitude", "longitude", "accessHours", "holidayRegion"],
    where: { id: [...siteIds] },
    order: ["id"],
    raw: true,
  });
  const depot = (await depotPlace()) ?? { id: "depot", name: "Depot", latitude: null, longitude: null };
  const { minutes, timetables } = await travelBetween([depot, ...sites]);
  // A ferry's minutes stand in the place of the way's, as in a day's plan.
  const travel = minutes.map((row, a) =>
    row.map((one, b) => timetables.find(({ from, to }) => from === a && to === b)?.minutes ?? one),
  );
  return { sites, travel, closed: await standstillDays(sites, [...days]) };
}

/** @throws when a day without figures is among the proposed ones */
export function waysOf({ sites, travel }: Pick<Ground, "sites" | "travel">, slots: readonly Planned[]): WeekWays {
  const proposed = slots.filter((slot) => slot.duties.length > 0);
  const hands = new Map<string, number>();
  for (const [site, minutes] of proposed.flatMap((slot) => [...slot.hands]))
    hands.set(site, (hands.get(site) ?? 0) + minutes);
  // A site of nothing but work that was on a day before is not among those of the week's duties: the bound does without.
  const nodes = [0, ...sites.flatMap((site, i) => (hands.has(site.id) ? [i + 1] : []))];
  return {
    minutes: proposed.reduce((sum, slot) => sum + must(slot.figures).way, 0),
    least: leastWaysInRounds(
      nodes.map((a) => nodes.map((b) => must(must(travel[a])[b]))),
      nodes.slice(1).map((i) => must(hands.get(must(sites[i - 1]).id))),
      Math.max(0, ...proposed.map((slot) => slot.room)),
    ),
  };
}

/**
 * @param of what is known of duties: which one an id is, its due day's place in the week, and whether its site is open and
 *   somebody who may do it has hours on a day
 */
export function latenessOf<Duty>(
  slots: readonly Planned[],
  of: { dutyOf: (id: string) => Duty; dueOf: (duty: Duty) => number; couldBe: (duty: Duty, day: number) => boolean },
): WeekLate {
  const late = slots.flatMap((slot) =>
    slot.duties.flatMap((id) => {
      const duty = of.dutyOf(id);
      const due = of.dueOf(duty);
      return slot.day > due ? [{ duty, due }] : [];
    }),
  );
  const could = ({ duty, due }: (typeof late)[number]): boolean =>
    Array.from({ length: due + 1 }, (_, day) => day).some((day) => of.couldBe(duty, day));
  return { duties: late.length, unavoidable: late.filter((one) => !could(one)).length };
}
