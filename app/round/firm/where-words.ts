import { clockTime, type DayPlan } from "@core";

import { inHours } from "~/kit/days/day-time";

interface Happened {
  type: string;
  siteId: string | null;
  minute: number;
}

/** Where somebody is, and how far that is from the plan. */
export interface Where {
  says: string;
  /** Minutes behind the plan; 0 when not. */
  slips: number;
}

/** Slips of a minute or two are nothing that anybody does something about. */
const NOTHING_MINUTES = 5;

/** Where a person is by the log of their day, and how late against its plan. Minutes of the day. */
export function whereIs(
  status: "open" | "started" | "ended",
  plan: Pick<DayPlan, "stops" | "endAt"> | null,
  events: readonly Happened[],
  now: number,
  siteName: (id: string) => string,
): Where {
  const slip = (by: number): number => (now - by >= NOTHING_MINUTES ? now - by : 0);
  if (status === "ended") {
    const ended = events.findLast((one) => one.type === "ended");
    return { says: ended ? `ended at ${clockTime(ended.minute)}` : "ended", slips: 0 };
  }
  const stops = plan?.stops ?? [];
  const [first] = stops;
  if (status === "open") {
    if (!first) return { says: "no plan yet", slips: 0 };
    if (now > (plan?.endAt ?? 0)) return { says: "was not started", slips: 0 };
    return { says: `not started; ${siteName(first.site)} at ${clockTime(first.arrive)}`, slips: slip(first.arrive) };
  }
  const last = events.findLast((one) => one.type === "arrived" || one.type === "left");
  if (last?.type === "arrived" && last.siteId !== null) {
    const stop = stops.find((one) => one.site === last.siteId);
    const until = stop ? `, until ${clockTime(stop.leave)}` : "";
    return {
      says: `at ${siteName(last.siteId)} since ${clockTime(last.minute)}${until}`,
      slips: stop ? slip(stop.leave) : 0,
    };
  }
  const seen = new Set(events.filter((one) => one.type === "left" || one.type === "skipped").map((one) => one.siteId));
  const next = stops.find((one) => !seen.has(one.site));
  if (!next) return { says: plan ? `on the way back, ${clockTime(plan.endAt)}` : "under way", slips: 0 };
  return { says: `on the way to ${siteName(next.site)}, ${clockTime(next.arrive)}`, slips: slip(next.arrive) };
}

export const slipInWords = (minutes: number): string => (minutes === 0 ? "" : `${inHours(minutes)} behind the plan`);
