import { plainNumber } from "../numbers";

/** Days in words: "1 day", "31 days". */
export function dayCount(days: number): string {
  return `${plainNumber(days)} ${days === 1 ? "day" : "days"}`;
}
