import { floorExact } from "../numbers";
import type { Lead } from "./types";

/** Common practice: a warning two days or a tenth of the interval ahead. */
export const DEFAULT_WARNING: Lead = { days: 2, fraction: 0.1 };
/** Common practice: a notice a week or a quarter of the interval ahead. */
export const DEFAULT_NOTICE: Lead = { days: 7, fraction: 0.25 };

/**
 * Whole days before the due day at which an alert starts: of the days and the fraction given, the one that comes later.
 *
 * @param interval days from anchor to due day; null for events and conditions, where only `days` counts
 */
export function leadDays(lead: Lead, interval: number | null): number {
  const lengths: number[] = [];
  if (lead.days !== undefined) lengths.push(floorExact(lead.days));
  if (lead.fraction !== undefined && interval !== null) lengths.push(floorExact(lead.fraction * Math.max(0, interval)));
  return lengths.length === 0 ? 0 : Math.min(...lengths);
}
