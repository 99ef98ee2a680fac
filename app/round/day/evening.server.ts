import { type DayHours, dayHours, daysBetween, dutyOfJob } from "@core";
import { getDb } from "@db";

import { minuteOfDay } from "~/kit/days/day-time";
import { firmDay } from "~/kit/days/firm-day.server";
import { dayInZone } from "~/kit/days/site-day";
import { Refusal } from "~/kit/refusal";

import { restedOn } from "./breaks";
import { eventsOf, findDay } from "./day-row.server";
import * as sql from "./evening.sql";

export interface Evening {
  on: string;
  today: string;
  person: { id: string; name: string };
  done: sql.EveningSheet[];
  /** Ended without the work: their duties say where it went. */
  ended: (sql.EveningSheet & { duty: sql.EveningDuty | null })[];
  /** Open in the person's hands. */
  unsigned: sql.EveningSheet[];
  /** Was planned and is not done: on the day still, on another, on somebody else's, or on none. */
  notDone: sql.EveningDuty[];
  used: sql.UsedToday[];
  hours: DayHours & { handsOn: number; breaks: number };
  siteNames: Record<string, string>;
}

/** What became of a person's day: seven queries, however long it was. */
export async function eveningOf(personId: string, on: string, now: Date): Promise<Evening> {
  const { models } = getDb();
  const person = await models.Person.findOne({ attributes: ["id", "name"], where: { id: personId }, raw: true });
  if (!person) throw new Refusal(404, "no-such-person", "This person does not exist.");
  const { on: today, timeZone } = await firmDay(now);
  const [day, around] = await Promise.all([findDay(personId, on), sql.sheetsAround({ personId, on })]);
  const sheets = around.filter((one) => one.closedAt === null || dayInZone(one.closedAt, timeZone) === on);
  const planned = (day?.plan?.stops ?? []).flatMap((stop) => stop.schedule.phases.map((phase) => dutyOfJob(phase.job)));
  // A list that the database is asked about is never empty.
  const ids = [...new Set([...planned, ...sheets.map((one) => one.dutyId), ""])];
  const [events, duties, used] = await Promise.all([
    day ? eventsOf(day.id) : [],
    sql.dutiesOfDay({ personId, on, ids }),
    sheets.length === 0 ? [] : sql.usedOn({ sheetIds: sheets.map((one) => one.sheetId), on }),
  ]);
  // A night's work ends on the morning after.
  const minute = (at: Date): number => daysBetween(on, dayInZone(at, timeZone)) * 1440 + minuteOfDay(at, timeZone);
  const hours = dayHours(
    events.map(({ type, siteId, at }) => ({ type, siteId, minute: minute(at) })),
    on === today ? minute(now) : null,
  );
  const rested = restedOn(events.map((event) => ({ ...event, minute: minute(event.at) })));
  const breaks = { onSite: 0, away: 0 };
  for (const { site, minutes } of rested) breaks[site === null ? "away" : "onSite"] += minutes;
  const sites = await models.Site.findAll({
    attributes: ["id", "name"],
    where: { id: [...new Set(hours.sites.map((one) => one.siteId))] },
    raw: true,
  });
  const done = sheets.filter((one) => one.status === "signed");
  const inHand = new Set(sheets.map((one) => one.dutyId));
  return {
    on,
    today,
    person,
    done,
    ended: sheets
      .filter((one) => one.status === "ended")
      .map((one) => ({ ...one, duty: duties.find(({ dutyId }) => dutyId === one.dutyId) ?? null })),
    unsigned: on === today ? sheets.filter((one) => one.status === "open") : [],
    notDone: duties.filter((one) => !inHand.has(one.dutyId) && one.active),
    used,
    hours: {
      ...hours,
      // A break is neither.
      onSite: Math.max(0, hours.onSite - breaks.onSite),
      away: Math.max(0, hours.away - breaks.away),
      breaks: breaks.onSite + breaks.away,
      handsOn: done.reduce((sum, one) => sum + (one.handsMinutes ?? 0), 0),
    },
    siteNames: Object.fromEntries(sites.map((one) => [one.id, one.name])),
  };
}
