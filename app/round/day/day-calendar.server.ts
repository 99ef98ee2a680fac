import { dutyOfJob } from "@core";
import ical, { ICalCalendarMethod } from "ical-generator";

import type { DayView } from "./day.server";

/** A planned day as a calendar file (RFC 5545): one event a site, in the firm's time, with what is done there. */
export function dayCalendar(view: DayView, origin: string): string {
  const calendar = ical({
    name: `Round ${view.on}`,
    prodId: { company: "humble-hound", product: "round", language: "EN" },
    method: ICalCalendarMethod.PUBLISH,
  });
  const titles = new Map(
    [...view.duties, ...view.closed].map((duty) => [duty.dutyId, `${duty.title} – ${duty.machineName}`]),
  );
  for (const stop of view.day.plan?.stops ?? []) {
    const site = view.sites.find((one) => one.id === stop.site);
    const event = calendar.createEvent({
      id: `${view.day.id}-${stop.site}@humble-hound`,
      sequence: view.day.sequence,
      ...(view.day.plannedAt && { stamp: view.day.plannedAt }),
      start: instantOf(view.on, stop.arrive, view.depot.timeZone),
      end: instantOf(view.on, stop.leave, view.depot.timeZone),
      summary: site?.name ?? "Site",
      description: [...new Set(stop.schedule.phases.map((phase) => dutyOfJob(phase.job)))]
        .map((job) => titles.get(job) ?? "Duty")
        .join("\n"),
      url: `${origin}/round/day?on=${view.on}`,
    });
    if (site && site.latitude !== null && site.longitude !== null)
      event.location({ title: site.name, geo: { lat: site.latitude, lon: site.longitude } });
  }
  return calendar.toString();
}

/** The instant of a minute of a day in a time zone; a minute that the clocks leave out is the one an hour later. */
export function instantOf(day: string, minute: number, timeZone: string): Date {
  const asUtc = Date.parse(`${day}T00:00:00Z`) + minute * 60_000;
  const offsetAt = (instant: number): number => {
    const shown = new Intl.DateTimeFormat("sv-SE", {
      timeZone,
      year: "numeric",
      month: "2-digit",
      day: "2-digit",
      hour: "2-digit",
      minute: "2-digit",
      second: "2-digit",
    }).format(instant);
    return Date.parse(`${shown.replace(" ", "T")}Z`) - instant;
  };
  // The offset is that of the instant itself, which two steps find.
  return new Date(asUtc - offsetAt(asUtc - offsetAt(asUtc)));
}
