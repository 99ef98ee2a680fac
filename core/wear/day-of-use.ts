import { addDays } from "../days/add-days";
import { daysBetween } from "../days/days-between";

/** What had been used on a day, and what is used in one. */
export interface UseNow {
  useNow: number;
  /** Per day; null when it is not known. */
  rate: number | null;
  /** 'YYYY-MM-DD' */
  asOf: string;
}

/** Days further away than this are none: the band of a slope that is hardly one. */
const LAST_DAYS = 20_000;

/** Use by a day, at the rate of today. */
export const useOn = ({ useNow, rate, asOf }: UseNow, on: string): number =>
  useNow + (rate ?? 0) * daysBetween(asOf, on);

/** The day on which so much use is reached; null when nothing is used, or it is beyond all planning. */
export function dayOfUse({ useNow, rate, asOf }: UseNow, use: number): string | null {
  if (rate === null || rate <= 0) return null;
  const days = Math.round((use - useNow) / rate);
  return Math.abs(days) > LAST_DAYS ? null : addDays(asOf, days);
}
