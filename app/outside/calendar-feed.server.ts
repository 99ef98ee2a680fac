import { getDb, type LinkRow } from "@db";
import ical, { ICalCalendarMethod, ICalEventTransparency } from "ical-generator";

import { Refusal } from "~/kit/refusal";

import * as sql from "./calendar-feed.sql";

export interface FeedRow {
  dutyId: string;
  title: string;
  dueOn: string;
  plannedOn: string | null;
  anchorOn: string | null;
  sequence: number;
  minutes: number;
  assessedAt: Date;
  machineName: string;
  machineTag: string;
  siteName: string;
  address: string;
  accessHours: string;
  latitude: number | null;
  longitude: number | null;
}
const AHEAD_DAYS = 400;

/**
 * The feed behind a calendar link: a person's duties on their days, or all of a site's on the day they are put on or
 * due. An event's UID names the duty and the interval that is running, so that a duty that moves is the same event
 * with a higher SEQUENCE, and its next round is a new one.
 *
 * @param origin address of the app, for links back
 */
export async function calendarFeed(
  link: Pick<LinkRow, "kind" | "subjectId">,
  origin: string,
  now: Date,
): Promise<string> {
  const forPerson = link.kind === "person-calendar";
  // Who has left the firm reads nothing of it any more.
  if (forPerson && !(await getDb().models.Person.findOne({ where: { id: link.subjectId, active: true }, raw: true })))
    throw new Refusal(404, "no-such-calendar", "This calendar does not exist or was ended.");
  const rows = await sql.dutiesOfCalendar(
    { id: link.subjectId, until: new Date(now.getTime() + AHEAD_DAYS * 86_400_000).toISOString().slice(0, 10) },
    forPerson,
  );
  const calendar = ical({
    name: forPerson ? "My duties" : (rows[0]?.siteName ?? "Duties"),
    prodId: { company: "humble-hound", product: "duties", language: "EN" },
    method: ICalCalendarMethod.PUBLISH,
    ttl: 3600,
  });
  for (const row of rows) {
    const day = row.plannedOn ?? row.dueOn;
    const event = calendar.createEvent({
      id: `${row.dutyId}-${(row.anchorOn ?? "new").replaceAll("-", "")}@humble-hound`,
      sequence: row.sequence,
      stamp: row.assessedAt,
      start: new Date(`${day}T00:00:00Z`),
      end: new Date(Date.parse(`${day}T00:00:00Z`) + 86_400_000),
      allDay: true,
      transparency: ICalEventTransparency.TRANSPARENT,
      summary: `${row.title} – ${row.machineName}`,
      description: [
        `${row.machineName} (${row.machineTag}), ${row.siteName}`,
        `About ${row.minutes} min. Due ${row.dueOn}.`,
        ...(row.accessHours ? [`Access ${row.accessHours}`] : []),
      ].join("\n"),
      url: `${origin}/duties/${row.dutyId}`,
    });
    if (row.latitude !== null && row.longitude !== null) {
      event.location({ title: row.siteName, address: row.address, geo: { lat: row.latitude, lon: row.longitude } });
    } else event.location(row.address ? `${row.siteName}, ${row.address}` : row.siteName);
  }
  return calendar.toString();
}
