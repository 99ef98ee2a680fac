import type { DayFigures, DayPlan, DayProblem, DayRisk } from "../../core/index";
import { bigWhole, day, instant, json, real, type RowOf, table, text, uuid, whole } from "../columns";

/** Where rounds begin and end. */
export const depots = table("depots", {
  id: uuid().key(),
  name: text(160),
  timeZone: text(60),
  latitude: real(),
  longitude: real(),
});
export type DepotRow = RowOf<typeof depots>;

/** A person's day: how it goes round. What it holds is in the duties put on it. */
export const days = table("days", {
  id: uuid().key(),
  personId: uuid(),
  onDay: day(),
  status: text<"open" | "started" | "ended">(7).withDefault("open"),
  /** Minutes of the day. */
  startMinute: whole(),
  endMinute: whole(),
  technicians: whole().withDefault(1),
  /** Sites in an order chosen by hand; null = the best one. */
  fixedOrder: json<string[]>().orNull(),
  /** As planned last: what from, and what came out. */
  problem: json<DayProblem>().orNull(),
  plan: json<DayPlan>().orNull(),
  risk: json<DayRisk>().orNull(),
  figures: json<DayFigures>().orNull(),
  plannedAt: instant().orNull(),
  sequence: whole().withDefault(0),
});
export type DayRow = RowOf<typeof days>;

export const dayEvents = table("day_events", {
  seq: bigWhole().key().counted(),
  id: uuid(),
  dayId: uuid(),
  at: instant(),
  byPerson: uuid(),
  type: text<"started" | "arrived" | "left" | "skipped" | "replanned" | "rested" | "handed-over" | "ended" | "undone">(
    30,
  ),
  siteId: uuid().orNull(),
  /** `ref` is the event that an `undone` takes back; of a break its `minutes`, and whether it was `over` when it was logged. */
  body: json<{ reason?: string; to?: string; endAt?: number; ref?: string; minutes?: number; over?: boolean }>(),
});
export type DayEventRow = RowOf<typeof dayEvents>;

/** Minutes between places that the firm knows better than any map. */
export const travelMinutes = table("travel_minutes", {
  fromPlace: uuid().key(),
  toPlace: uuid().key(),
  minutes: whole(),
});
export type TravelMinutesRow = RowOf<typeof travelMinutes>;

export const savedViews = table("saved_views", {
  id: uuid().key(),
  personId: uuid(),
  place: text(20),
  name: text(80),
  query: text(1000),
  madeAt: instant(),
});
export type SavedViewRow = RowOf<typeof savedViews>;
