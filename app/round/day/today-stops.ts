import { type DayPlan, dutyOfJob } from "@core";
import type { DayEventRow } from "@db";

import { whereOne } from "./day-events";

export interface TodayDuty {
  dutyId: string;
  title: string;
  machineName: string;
  siteId: string;
  /** Its sheet when one is open. */
  sheetId: string | null;
  done: boolean;
}

export interface TodayStop {
  site: string;
  name: string;
  arrive: number;
  leave: number;
  state: "done" | "skipped" | "here" | "next" | "later";
  /** In the order in which they are begun. */
  duties: TodayDuty[];
}

/** The duties of a day's page: those that are open, and those of the plan that are done or ended. */
export function todayDuties(view: {
  duties: readonly Pick<TodayDuty, "dutyId" | "title" | "machineName" | "siteId" | "sheetId">[];
  closed: readonly Pick<TodayDuty, "dutyId" | "title" | "machineName">[];
}): TodayDuty[] {
  return [
    ...view.duties.map(({ dutyId, title, machineName, siteId, sheetId }) => ({
      dutyId,
      title,
      machineName,
      siteId,
      sheetId,
      done: false,
    })),
    ...view.closed.map((one) => ({ ...one, siteId: "", sheetId: null, done: true })),
  ];
}

type Happened = Pick<DayEventRow, "type" | "siteId">;

/** A planned day as it stands: what is behind, where one is, what comes next. */
export function todayStops(
  plan: Pick<DayPlan, "stops">,
  events: readonly Happened[],
  duties: readonly TodayDuty[],
  siteName: (id: string) => string,
): TodayStop[] {
  const here = whereOne(events);
  const lastOf = (site: string): string | undefined =>
    events.findLast((one) => one.siteId === site && ["arrived", "left", "skipped"].includes(one.type))?.type;
  let isNext = true;
  return plan.stops.map((stop) => {
    const begun = new Map<string, number>();
    for (const phase of stop.schedule.phases) {
      const id = dutyOfJob(phase.job);
      begun.set(id, Math.min(begun.get(id) ?? Infinity, phase.start));
    }
    // What was put on the day since it was planned stands last.
    const mine = duties.filter((duty) => begun.has(duty.dutyId) || duty.siteId === stop.site);
    const last = lastOf(stop.site);
    const state = ((): TodayStop["state"] => {
      if (here === stop.site) return "here";
      if (last === "left") return "done";
      if (last === "skipped") return "skipped";
      if (!isNext) return "later";
      isNext = false;
      return "next";
    })();
    return {
      site: stop.site,
      name: siteName(stop.site),
      arrive: stop.arrive,
      leave: stop.leave,
      state,
      duties: mine.sort((a, b) => (begun.get(a.dutyId) ?? Infinity) - (begun.get(b.dutyId) ?? Infinity)),
    };
  });
}

/** What a person does next on their day. */
export type NextAct =
  | { kind: "plan" | "start" | "end" | "evening" }
  | { kind: "arrive" | "leave"; site: string; name: string }
  | { kind: "sheet"; to: string; says: string };

/**
 * The two things that the thumb reaches: the day's next step, and the next sheet, which is never further than one tap away.
 * On a site with work left the sheet is the step.
 */
export function nextActs(
  status: "open" | "started" | "ended",
  stops: readonly TodayStop[],
): { main: NextAct; sheet: Extract<NextAct, { kind: "sheet" }> | null } {
  if (status === "ended") return { main: { kind: "evening" }, sheet: null };
  const at = stops.find((stop) => stop.state === "here") ?? stops.find((stop) => stop.state === "next");
  const sheet = at ? sheetAt(at) : null;
  if (stops.length === 0) return { main: { kind: status === "started" ? "end" : "plan" }, sheet: null };
  if (status === "open") return { main: { kind: "start" }, sheet };
  if (!at) return { main: { kind: "end" }, sheet: null };
  const place = { site: at.site, name: at.name };
  if (at.state === "next") return { main: { kind: "arrive", ...place }, sheet };
  return sheet ? { main: sheet, sheet: null } : { main: { kind: "leave", ...place }, sheet: null };
}

function sheetAt(stop: TodayStop): Extract<NextAct, { kind: "sheet" }> | null {
  const duty = stop.duties.find((one) => one.sheetId !== null && !one.done) ?? stop.duties.find((one) => !one.done);
  if (!duty) return null;
  return duty.sheetId === null
    ? { kind: "sheet", to: `/duties/${duty.dutyId}`, says: `${duty.machineName}: ${duty.title}` }
    : { kind: "sheet", to: `/sheet/${duty.sheetId}`, says: `Go on: ${duty.machineName}` };
}
