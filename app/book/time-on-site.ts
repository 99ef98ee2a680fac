import { inHours } from "~/kit/days/day-time";
import { siteTime } from "~/ui/site-time";

interface OnSite {
  arrivedAt: Date | null;
  leftAt: Date | null;
  handsOn: number | null;
}

/**
 * When who closed the sheet was at the site, and how long their hands were on the work; null when neither is
 * known.
 */
export function timeOnSiteWords({ arrivedAt, leftAt, handsOn }: OnSite, timeZone: string): string | null {
  const clock = (at: Date): string => siteTime(at, timeZone).slice(-5);
  const parts: string[] = [];
  if (arrivedAt && leftAt) {
    const minutes = (leftAt.getTime() - arrivedAt.getTime()) / 60_000;
    parts.push(`${clock(arrivedAt)} to ${clock(leftAt)} (${inHours(minutes)})`);
  } else if (arrivedAt) parts.push(`from ${clock(arrivedAt)}`);
  if (handsOn !== null) parts.push(`hands on the work ${inHours(handsOn)}`);
  if (parts.length === 0) return null;
  return `${arrivedAt ? "On site: " : ""}${parts.join(", ")}`.replace(/^h/, "H");
}
