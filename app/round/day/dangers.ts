import { clockTime, type DayRisk } from "@core";

import { inPercent } from "~/kit/in-percent";

const clock = (minute: number): string => clockTime(minute % 1440);

/**
 * What of a day's plan is in danger: sites that close before the work there is over, ferries that have left, each on more days
 * than the firm puts up with.
 *
 * @param chance share of days on which a day has to hold
 * @param ahead sites that are not behind
 */
export function dangersOf(
  risk: Partial<Pick<DayRisk, "closing" | "ferries">> | null,
  chance: number,
  ahead: readonly string[],
  siteName: (id: string) => string,
): string[] {
  const most = 1 - chance;
  const closing = (risk?.closing ?? [])
    .filter((one) => ahead.includes(one.site) && one.chance > most)
    .map((one) => `${siteName(one.site)}: over after it closes on ${inPercent(one.chance)} of such days.`);
  // A plan that was kept before ferries were looked at has none.
  const ferries = (risk?.ferries ?? [])
    .filter((one) => (one.to === null || ahead.includes(one.to)) && one.missed > most)
    .map(({ to, departs, next, missed }) => {
      const where = to === null ? "back" : `to ${siteName(to)}`;
      return next === null
        ? `The last ferry ${where}, ${clock(departs)}, has left on ${inPercent(missed)} of such days.`
        : `The ferry ${where}, ${clock(departs)}, has left on ${inPercent(missed)} of such days; the next goes at ${clock(next)}.`;
    });
  return [
    ...ferries.filter((one) => one.startsWith("The last")),
    ...closing,
    ...ferries.filter((one) => !one.startsWith("The last")),
  ];
}
