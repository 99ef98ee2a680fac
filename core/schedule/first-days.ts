import { addDays } from "../days/add-days";
import { daysBetween } from "../days/days-between";
import { parseDay } from "../days/parse-day";
import { closedTest, type SiteCalendar } from "../days/site-calendar";
import { CoreError } from "../errors";
import { requireList, requireRecord, requireText } from "../inputs";
import { must } from "../must";
import { floorExact, requireNotNegative } from "../numbers";
import { assessDue } from "./assess-due";
import type { Plan, Trigger } from "./types";

/** A first interval is shortened by at most this share, as work is moved early when weeks are levelled (common practice). */
const EARLIER = 0.25;

export interface FirstDay {
  planId: string;
  /** First due day; null where no calendar says one: by a meter, an event or a reading. */
  on: string | null;
  /** The day on which it would be due if nothing were spread out. */
  latest: string | null;
  /** The plan's triggers, with a first interval that leads to `on`. */
  triggers: Trigger[];
}

/**
 * First due days of what a machine begins to owe, spread out so that not all of it falls on one day. Each is at most a
 * quarter of its first interval early, never late, and on the day with the least work in that span, the latest of equal ones;
 * whatever has the least choice is placed first. Fixed days (a grid, a weekday) stay as they are.
 *
 * @param duties plans without a completion; `minutes` is the work of one service
 * @param beside work that lies on a day already, minutes by day; days on which the site is closed
 * @returns one for each duty, in their order
 * @throws CoreError for minutes below zero, and as `assessDue` does for a plan
 */
export function firstDays(
  duties: readonly { plan: Plan; minutes: number }[],
  beside: { load?: Readonly<Record<string, number>>; calendar?: SiteCalendar } = {},
): FirstDay[] {
  const { load = {}, calendar = { closedWeekdays: [], closed: [] } } = requireRecord(beside, "beside");
  const closed = closedTest(calendar);
  const isClosed = (day: string): boolean => closed(parseDay(day, "day"));
  const laid = new Map(
    Object.entries(requireRecord(load, "load")).map(([day, minutes]) => [
      day,
      requireNotNegative(minutes, `load[${day}]`),
    ]),
  );
  const found = new Map<Plan, FirstDay>();
  const spans = requireList(duties, "duties")
    .map((duty, i) => {
      const { plan, minutes } = requireRecord(duty, `duties[${i}]`);
      return { plan, minutes: requireNotNegative(minutes, `duties[${i}].minutes`), ...spanOf(plan) };
    })
    .sort((a, b) => a.room - b.room || b.minutes - a.minutes);
  for (const { plan, minutes, latest, room } of spans) {
    const on = latest === null ? null : leastOf(latest, room, (day) => laid.get(day) ?? 0, isClosed);
    if (on !== null) laid.set(on, (laid.get(on) ?? 0) + minutes);
    const triggers = on === null || on === latest ? plan.triggers : startingOn(plan, on);
    found.set(plan, { planId: plan.id, on, latest, triggers });
  }
  return duties.map(({ plan }) => must(found.get(plan)));
}

/** When a plan is first due by its calendar, and how many days earlier it may be. */
function spanOf(plan: Plan): { latest: string | null; room: number } {
  // Whatever is wrong with a plan is said by the engine.
  assessed(plan);
  requireText(plan.id, "plan.id");
  const calendars = plan.triggers.filter((one) => one.kind === "calendar");
  if (calendars.length === 0) return { latest: null, room: 0 };
  const { dueOn: latest } = assessed({ ...plan, triggers: calendars });
  const [only, ...others] = calendars;
  if (latest === null || others.length > 0 || only?.basis !== "completion" || only.weekday !== undefined)
    return { latest, room: 0 };
  return { latest, room: floorExact(EARLIER * daysBetween(plan.startOn, latest)) };
}

/** Of the days up to `latest`, the one with the least work: the latest of equal ones, open ones before closed. */
function leastOf(latest: string, room: number, workOn: (day: string) => number, isClosed: (day: string) => boolean) {
  const days = Array.from({ length: room + 1 }, (_, early) => addDays(latest, -early));
  const open = days.filter((day) => !isClosed(day));
  return (open.length > 0 ? open : days).reduce((best, day) => (workOn(day) < workOn(best) ? day : best));
}

/**
 * A plan's triggers with a first interval after which it is due on a day, its site's factor taken into account; where whole
 * days times the factor do not reach that day, a day early.
 *
 * @param on the first due day, after `startOn`
 * @throws CoreError when the day is not after the start, or no calendar is among the triggers
 */
export function startingOn(plan: Plan, on: string): Trigger[] {
  assessed(plan);
  const wanted = parseDay(on, "on") - parseDay(plan.startOn, "plan.startOn");
  if (wanted < 1) throw new CoreError("out-of-range", "on", `The first day must come after ${plan.startOn}.`);
  if (!plan.triggers.some((one) => one.kind === "calendar"))
    throw new CoreError("bad-value", "plan.triggers", "No calendar says when this is due: it has no first day.");
  const withFirst = (every: number): Trigger[] =>
    plan.triggers.map((one) => (one.kind === "calendar" ? { ...one, first: { every, unit: "day" } } : one));
  const calendar = (triggers: Trigger[]): Trigger[] => triggers.filter((one) => one.kind === "calendar");
  let every = Math.max(1, Math.ceil(wanted / (plan.intervalFactor ?? 1)));
  // Whole days times a factor do not reach every day: rather a day early than late.
  while (every > 1 && must(assessed({ ...plan, triggers: calendar(withFirst(every)) }).dueOn) > on) every -= 1;
  return withFirst(every);
}

function assessed(plan: Plan) {
  const today = requireRecord(plan, "plan").startOn;
  return assessDue({ plan, completions: [], meters: {}, readings: {}, events: [], today });
}
