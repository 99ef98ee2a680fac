import { MEAN_DAYS } from "../days/add-units";
import { requireList, requireRecord } from "../inputs";
import { requireFinite, requireNotNegative, requirePositive } from "../numbers";
import { checkTrigger } from "../schedule/history";
import type { Trigger } from "../schedule/types";
import { isRepeating } from "./tune-rules";

/**
 * Days between two services: the shortest that any rule asks for that repeats by itself.
 *
 * @param rules triggers, and the factor by which a site stretches them
 * @param rates use a day, by meter; null or nothing where it is not known
 * @returns days, not rounded; null when only meters count of which the use is not known
 * @throws CoreError `bad-value`, `bad-number`
 */
export function daysBetweenServices(
  rules: { triggers: readonly Trigger[]; intervalFactor?: number | undefined },
  rates: Readonly<Record<string, number | null>>,
): number | null {
  const { triggers, intervalFactor = 1 } = requireRecord(rules, "rules");
  requirePositive(intervalFactor, "rules.intervalFactor");
  requireRecord(rates, "rates");
  requireList(triggers, "rules.triggers").forEach((one, i) =>
    checkTrigger(requireRecord(one, `rules.triggers[${i}]`), `rules.triggers[${i}]`),
  );
  const days = triggers.filter(isRepeating).flatMap((one) => {
    if (one.kind === "calendar") return [one.every * MEAN_DAYS[one.unit] * intervalFactor];
    const rate = Object.hasOwn(rates, one.meter) ? (rates[one.meter] ?? null) : null;
    if (rate !== null) requireFinite(rate, `rates.${one.meter}`);
    return rate === null || rate <= 0 ? [] : [(one.every * intervalFactor) / rate];
  });
  return days.length === 0 ? null : Math.min(...days);
}

/**
 * Services of a mean year of the calendar.
 *
 * @param days between two, above zero
 * @throws CoreError `bad-number`
 */
export function servicesAYear(days: number): number {
  requirePositive(days, "days");
  return MEAN_DAYS.year / days;
}

/**
 * What another interval adds to a year's work.
 *
 * @param minutes of one service, the way there left aside
 * @param oldDays between two services now, above zero
 * @param newDays between two then, above zero
 * @returns minutes a year, below zero when it is less
 * @throws CoreError `bad-number`
 */
export function addedMinutesAYear(minutes: number, oldDays: number, newDays: number): number {
  requireNotNegative(minutes, "minutes");
  return minutes * (servicesAYear(newDays) - servicesAYear(oldDays));
}
