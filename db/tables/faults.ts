import type { FaultGuide } from "../../core/index";
import { day, instant, json, type RowOf, table, text, uuid, whole } from "../columns";

export const faultGuides = table("fault_guides", {
  family: text(60).key(),
  version: whole().key(),
  title: text(200),
  /** As written. */
  body: json<FaultGuide>(),
  createdAt: instant(),
  publishedBy: uuid().orNull(),
  why: text(500).withDefault(""),
});
export type FaultGuideRow = RowOf<typeof faultGuides>;

/** What a search on a signed sheet came to. */
export const faultOutcomes = table("fault_outcomes", {
  sheetId: uuid().key(),
  /** Which search of the sheet. */
  round: whole().key(),
  machineId: uuid(),
  siteId: uuid(),
  family: text(60),
  symptom: text(40),
  /** Of the guide; `unknown` where none was found. */
  cause: text(40),
  /** The check that found it; null where it was seen without one. */
  foundBy: text(40).orNull(),
  outcome: text<"cured" | "handed-over" | "not-cured">(12),
  /** The site's day. */
  onDay: day(),
  foundAt: instant(),
  byPerson: uuid(),
});
export type FaultOutcomeRow = RowOf<typeof faultOutcomes>;
