import { must } from "@core";
import { getDb, Op } from "@db";

import { parseAccessHours } from "~/kit/days/access-hours";
import { minutesOf, weekdayOf } from "~/kit/days/day-time";
import { siteCalendar } from "~/kit/days/site-calendar.server";
import type { Place } from "~/round/ways/travel.server";

import * as sql from "./day-problem.sql";

export interface DaySiteFacts extends Place {
  accessHours: string;
  timeZone: string;
  customerName: string;
  latitude: number | null;
  longitude: number | null;
}

/** Hours of a day in minutes; undefined when nothing is said, [] when nobody is let in. */
export function hoursOn(text: string, day: string): [number, number][] | undefined {
  try {
    const week = parseAccessHours(text);
    if (week === null) return undefined;
    const weekday = weekdayOf(day);
    const hours = must(week[weekday]);
    return hours === "closed" ? [] : hours.map(([from, to]): [number, number] => [minutesOf(from), minutesOf(to)]);
  } catch {
    return undefined;
  }
}

export type KnownSite = DaySiteFacts & { sharedPlaces: Record<string, number>; holidayRegion: string; closed: boolean };

/** Sites with whether they stand still on the day: closed weekday, holiday or closure. */
export async function sitesOf(ids: readonly string[], on: string): Promise<KnownSite[]> {
  const sites = await sql.sitesOnDay({ ids });
  const closed = await standstillDays(sites, [on]);
  return sites.map((site) => ({ ...site, closed: closed.has(`${site.id} ${on}`) }));
}

/** Sites and days on which they stand still, as "site day". */
export async function standstillDays(
  sites: readonly { id: string; accessHours: string; holidayRegion: string }[],
  days: readonly string[],
): Promise<Set<string>> {
  const [first, last] = [must(days[0]), must(days.at(-1))];
  const closures = await getDb().models.SiteClosure.findAll({
    attributes: ["siteId", "fromOn", "toOn"],
    where: {
      siteId: sites.map((site) => site.id),
      cancelledAt: null,
      fromOn: { [Op.lte]: last },
      toOn: { [Op.gte]: first },
    },
    raw: true,
  });
  return new Set(
    sites.flatMap((site) => {
      const own = closures
        .filter((one) => one.siteId === site.id)
        .map(({ fromOn, toOn }) => ({ from: fromOn, to: toOn }));
      const calendar = siteCalendar({ ...site, closures: own }, first, last);
      return days
        .filter(
          (on) =>
            calendar.closedWeekdays.includes(weekdayOf(on)) ||
            calendar.closed.some((span) => span.from <= on && span.to >= on),
        )
        .map((on) => `${site.id} ${on}`);
    }),
  );
}
