import { clockTime, type DayBreak, type DayFigures, type DayLeg, dayLegs, dutyOfJob, type PlannedBreak } from "@core";
import { type DayRow, getDb } from "@db";

import { minuteOfDay } from "~/kit/days/day-time";
import type { FirmDay } from "~/kit/days/firm-day.server";
import { inPercent } from "~/kit/in-percent";

import { firmChance } from "../chance.server";
import { dangersOf } from "./dangers";
import { instantOf } from "./day-calendar.server";
import { eventsOf, findDay } from "./day-row.server";
import * as sql from "./today.sql";
import { type TodayStop, todayStops } from "./today-stops";

export interface Today {
  on: string;
  /** Minute of the day. */
  now: number;
  status: DayRow["status"];
  /** Duties on the day. */
  duties: number;
  stops: TodayStop[];
  /** Duties on the day that came on since it was planned, at other sites than those of the plan. */
  unplanned: number;
  /** Of the stops that are ahead, and the way back. */
  legs: DayLeg[];
  /** Planned, and still to be taken; the next of them is logged while the day is under way. */
  breaks: PlannedBreak[];
  nextBreak: DayBreak | null;
  /** As the day was planned; null while it is not, or not since its work changed. */
  figures: DayFigures | null;
  endBy: number;
  /** What of it is in danger. */
  dangers: string[];
  /** Under way, and not planned anew for a while. */
  stale: boolean;
}

/** A day under way is looked at anew so often. */
const ANEW_MS = 10 * 60_000;

/** A person's day today as it stands, by its kept plan: six queries, nothing is worked out anew. */
export async function todayOf(personId: string, { on, timeZone }: FirmDay, now: Date): Promise<Today> {
  const day = await findDay(personId, on);
  const plan = day?.plan ?? null;
  const planned = (plan?.stops ?? []).flatMap((stop) => stop.schedule.phases.map((phase) => dutyOfJob(phase.job)));
  const sites = (plan?.stops ?? []).map((stop) => stop.site);
  const [events, duties, names] = await Promise.all([
    day ? eventsOf(day.id) : [],
    // A list that the database is asked about is never empty.
    sql.dutiesOfToday({ personId, on, ids: [...new Set([...planned, ""])], since: instantOf(on, 0, timeZone) }),
    sites.length === 0
      ? []
      : getDb().models.Site.findAll({ attributes: ["id", "name"], where: { id: sites }, raw: true }),
  ]);
  const name = (id: string): string => names.find((site) => site.id === id)?.name ?? "A site";
  const stops = plan ? todayStops(plan, events, duties, name) : [];
  const ahead = stops.filter((stop) => stop.state !== "done" && stop.state !== "skipped").map((stop) => stop.site);
  const isRunning = day?.status === "started";
  return {
    on,
    now: minuteOfDay(now, timeZone),
    status: day?.status ?? "open",
    duties: duties.filter((duty) => !duty.done).length,
    stops,
    unplanned: duties.filter((duty) => !duty.done && !stops.some((stop) => stop.duties.includes(duty))).length,
    ...keptOf(day),
    endBy: day?.endMinute ?? 0,
    dangers: day ? dangersNow(day, await firmChance(), ahead, name) : [],
    stale: isRunning && (day.plannedAt === null || now.getTime() - day.plannedAt.getTime() > ANEW_MS),
  };
}

/** What Round tells of a plan as it is kept. */
function keptOf(day: DayRow | null): Pick<Today, "legs" | "breaks" | "nextBreak" | "figures"> {
  if (!day?.plan || !day.problem) return { legs: [], breaks: [], nextBreak: null, figures: day?.figures ?? null };
  return {
    legs: dayLegs(day.problem, day.plan),
    breaks: day.plan.breaks ?? [],
    nextBreak: day.status === "started" ? (day.problem.breaks?.[0] ?? null) : null,
    figures: day.figures,
  };
}

/** What of the day is in danger; that it is back too late, where nothing else says why. */
function dangersNow(day: DayRow, chance: number, ahead: readonly string[], name: (id: string) => string): string[] {
  if (day.status === "ended" || !day.plan || ahead.length === 0) return [];
  const dangers = dangersOf(day.risk, chance, ahead, name);
  if (dangers.length > 0 || !day.figures || day.figures.holds >= chance) return dangers;
  return [
    `In time on ${inPercent(day.figures.holds)} of such days; ${inPercent(chance)} are wanted. Back at ${clockTime(day.figures.backAt)}, wanted by ${clockTime(day.endMinute)}.`,
  ];
}
