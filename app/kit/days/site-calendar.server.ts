import type { SiteCalendar } from "@core";
import { must } from "@core";
import Holidays from "date-holidays";

import { closedWeekdays } from "./access-hours";

/** What of a site says when nobody works there. */
export interface SiteDays {
  accessHours: string;
  holidayRegion: string;
  closures: readonly { from: string; to: string }[];
}

/** Public holidays of a region and year; the rules come from the `date-holidays` package. Kept, as they never change. */
const known = new Map<string, { on: string; name: string }[]>();

export function holidaysOf(region: string, year: number): { on: string; name: string }[] {
  const key = `${region} ${year}`;
  let found = known.get(key);
  if (!found) {
    const [country, state] = region.split("-");
    const rules = state ? new Holidays(must(country), state) : new Holidays(must(country));
    found = rules
      .getHolidays(year)
      .filter((one) => one.type === "public")
      .map((one) => ({ on: one.date.slice(0, 10), name: one.name }));
    known.set(key, found);
  }
  return found;
}

/** Whether a region is known: `PT`, or with a part of the country `PT-30`. */
export function isHolidayRegion(region: string): boolean {
  const rules = new Holidays();
  const [country, state] = region.split("-");
  const countries = rules.getCountries();
  if (!country || !Object.hasOwn(countries, country)) return false;
  return state === undefined || Object.hasOwn({ ...rules.getStates(country) }, state);
}

/** Closed days of a site over a span of years. */
export function siteCalendar(site: SiteDays, from: string, until: string): SiteCalendar {
  const years: number[] = [];
  if (site.holidayRegion)
    for (let year = Number(from.slice(0, 4)); year <= Number(until.slice(0, 4)) + 1; year++) years.push(year);
  return {
    closedWeekdays: closedWeekdays(site.accessHours),
    closed: [
      ...site.closures,
      ...years.flatMap((year) => holidaysOf(site.holidayRegion, year)).map(({ on }) => ({ from: on, to: on })),
    ],
  };
}
