import { requireList, requireRecord, requireText } from "../inputs";
import { requireFinite } from "../numbers";

/** Something that happened on a person's day, as far as its hours are concerned. */
export interface DayStep {
  type: string;
  siteId: string | null;
  /** Minutes since the day's midnight; past 1440 on the morning after. */
  minute: number;
}

export interface DayHours {
  /** Minutes since midnight; null while it has not begun, or not ended. */
  from: number | null;
  to: number | null;
  /** Each stay at a site; `to` is null while it has not been left. */
  sites: { siteId: string; from: number; to: number | null }[];
  /** Minutes at sites. */
  onSite: number;
  /** Minutes between start and end, at no site. */
  away: number;
}

/**
 * Where the hours of a day went. A site that is not left yet, and a day that has not ended, run until now; what was not
 * logged is nowhere. A step of another type than `started`, `arrived`, `left`, `ended` and `handed-over` says nothing about hours.
 *
 * @param steps those that stand, in their order
 * @param now minutes since the day's midnight; null on another day
 * @throws CoreError `bad-value`, `bad-number`
 */
export function dayHours(steps: readonly DayStep[], now: number | null): DayHours {
  requireList(steps, "steps");
  steps.forEach((one, i) => {
    const { siteId, minute } = requireRecord(one, `steps[${i}]`);
    requireFinite(minute, `steps[${i}].minute`);
    if (siteId !== null) requireText(siteId, `steps[${i}].siteId`);
  });
  if (now !== null) requireFinite(now, "now");
  const from = steps.find((one) => one.type === "started")?.minute ?? null;
  const to = steps.findLast((one) => one.type === "ended" || one.type === "handed-over")?.minute ?? null;
  const sites: DayHours["sites"] = [];
  for (const { type, siteId, minute } of steps) {
    if (siteId === null) continue;
    if (type === "arrived") sites.push({ siteId, from: minute, to: null });
    const last = sites.at(-1);
    if (type === "left" && last?.siteId === siteId) last.to = minute;
  }
  const until = to ?? now;
  const onSite = sites.reduce((sum, one) => sum + Math.max(0, (one.to ?? until ?? one.from) - one.from), 0);
  return { from, to, sites, onSite, away: from === null || until === null ? 0 : Math.max(0, until - from - onSite) };
}
