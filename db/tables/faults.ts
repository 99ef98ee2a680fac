import type { FaultGuide, PracticeAct, PracticeResult, RunEvent } from "../../core/index";
import { day, flag, instant, json, type RowOf, table, text, uuid, whole } from "../columns";

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

/** A guide's next version while it is written: one draft a family. */
export const faultGuideDrafts = table("fault_guide_drafts", {
  family: text(60).key(),
  baseVersion: whole(),
  body: json<FaultGuide>(),
  byPerson: uuid(),
  madeAt: instant(),
  changedAt: instant(),
  revision: whole().withDefault(1),
});
export type FaultGuideDraftRow = RowOf<typeof faultGuideDrafts>;

/** What a machine shows of a fault, in the firm's own words; one that is changed ends, and another begins. */
export const faultCodes = table("fault_codes", {
  id: uuid().key(),
  family: text(60),
  /** Empty: of all models of the family. */
  model: text(120).withDefault(""),
  /** A code that it displays, or a test of a function that somebody runs. */
  kind: text<"code" | "test">(4),
  code: text(60),
  says: text(500),
  /** Of the family's guide; null where it says nothing of one. */
  symptom: text(40).orNull(),
  addedBy: uuid(),
  addedAt: instant(),
  endedBy: uuid().orNull(),
  endedAt: instant().orNull(),
});
export type FaultCodeRow = RowOf<typeof faultCodes>;

/** Practice on a machine that does not exist. */
export const practiceRuns = table("practice_runs", {
  id: uuid().key(),
  personId: uuid(),
  kind: text<"fault" | "sheet">(8),
  family: text(60),
  procedureId: text(80),
  /** Of the procedure, or of the guide. */
  version: whole(),
  title: text(200),
  seed: whole(),
  /** Drawn for this run: nobody has practised on it knowingly. */
  isNew: flag(),
  /** What was done, in order: of a sheet its entries, once it is handed in. */
  acts: json<(PracticeAct | RunEvent)[]>(),
  actsCount: whole().withDefault(0),
  startedAt: instant(),
  finishedAt: instant().orNull(),
  passed: flag().orNull(),
  result: json<PracticeResult>().orNull(),
});
export type PracticeRunRow = RowOf<typeof practiceRuns>;

/** What an authorisation asks for: practice passed on a family, not longer ago than so many days. */
export const authorisationPractices = table("authorisation_practices", {
  authorisation: text(60).key(),
  family: text(60).key(),
  days: whole(),
  setBy: uuid(),
  setAt: instant(),
});
