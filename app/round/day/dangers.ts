import { clockTime, type DayRisk } from "@core";

import { inPercent } from "~/kit/in-percent";

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
  const missed = (risk?.ferries ?? []).filter(
    (one) => (one.to === null || ahead.includes(one.to)) && one.missed > most,
  );
  const words = ({ to, departs, next, missed: share }: DayRisk["ferries"][number]): string => {
    const where = to === null ? "back" : `to ${siteName(to)}`;
    return next === null
      ? `The last ferry ${where}, ${clockTime(departs)}, has left on ${inPercent(share)} of such days.`
      : `The ferry ${where}, ${clockTime(departs)}, has left on ${inPercent(share)} of such days; the next goes at ${clockTime(next)}.`;
  };
  return [
    ...missed.filter((one) => one.next === null).map(words),
    ...closing,
    ...missed.filter((one) => one.next !== null).map(words),
  ];
}
