import type { OpenItem, Procedure } from "../../core/index";
import { day, flag, instant, json, type RowOf, table, text, uuid, whole } from "../columns";
import type { DutyRules } from "../values";

export const procedures = table("procedures", {
  id: text(80).key(),
  version: whole().key(),
  family: text(60),
  title: text(200),
  /** As written. */
  body: json<Procedure>(),
  createdAt: instant(),
  /** With its nested procedures' steps in their places; null when nothing is nested. */
  expanded: json<Procedure>().orNull(),
  publishedBy: uuid().orNull(),
  why: text(500).withDefault(""),
});
export type ProcedureRow = RowOf<typeof procedures>;

export const procedureDrafts = table("procedure_drafts", {
  id: uuid().key(),
  procedureId: text(80),
  baseVersion: whole(),
  body: json<Procedure>(),
  byPerson: uuid(),
  madeAt: instant(),
  changedAt: instant(),
  /** Goes up with each save, so that two editors do not overwrite each other. */
  revision: whole().withDefault(1),
});
export type ProcedureDraftRow = RowOf<typeof procedureDrafts>;

export const duties = table("duties", {
  id: uuid().key(),
  machineId: uuid(),
  procedureId: text(80),
  title: text(200),
  who: text<"operator" | "technician" | "licensed">(10),
  authorisation: text(60).orNull(),
  /** Hands-on and waiting together. */
  minutes: whole(),
  startOn: day(),
  rules: json<DutyRules>(),
  hardStop: flag().withDefault(false),
  active: flag().withDefault(true),
  dueOn: day().orNull(),
  warningFrom: day().orNull(),
  noticeFrom: day().orNull(),
  /** `dueOn` is a forecast from use: past it, the duty is due, not overdue. Without a day: would be one, were its meter read. */
  projected: flag().withDefault(false),
  /** Earliest day that is no forecast. */
  firmDueOn: day().orNull(),
  anchorOn: day().orNull(),
  /** Of a day that is foretold from what was measured: between which it lies, nine times of ten. */
  foretoldFrom: day().orNull(),
  foretoldTo: day().orNull(),
  /** Due days of the triggers that lost the race. */
  rivals: json<string[]>().withDefault([]),
  assessedAt: instant().orNull(),
  /** The machine's site and family, kept here so that one index serves what is ahead. */
  siteId: uuid(),
  family: text(60).withDefault(""),
  /** Day a person put it on, and for whom. */
  plannedOn: day().orNull(),
  plannedFor: uuid().orNull(),
  /** Goes up whenever a calendar should show it elsewhere. */
  sequence: whole().withDefault(0),
  /** Stays on its day. */
  pinned: flag().withDefault(false),
});
export type DutyRow = RowOf<typeof duties>;

export const completions = table("completions", {
  id: uuid().key(),
  dutyId: uuid(),
  machineId: uuid(),
  doneOn: day(),
  meters: json<Record<string, number>>(),
  sheetId: uuid().orNull(),
  /** Duties that it counts for; null: its own and all that it is said to contain. */
  credits: json<string[]>().orNull(),
});
export type CompletionRow = RowOf<typeof completions>;

/** A pause of one duty, or of all of a machine. */
export const pauses = table("pauses", {
  id: uuid().key(),
  machineId: uuid(),
  dutyId: uuid().orNull(),
  fromOn: day(),
  /** First day that counts again; null = until resumed. */
  toOn: day().orNull(),
  reason: text(300),
  byPerson: uuid(),
  loggedAt: instant(),
  resumedBy: uuid().orNull(),
  resumedAt: instant().orNull(),
});
export type PauseRow = RowOf<typeof pauses>;

/** What a sheet left of a machine's work, until the sheet, part or signature that settles it. */
export const openItems = table("open_items", {
  /** Made of `name`: the same item is the same row, however often its sheet is settled. */
  id: uuid().key(),
  /** As the core calls it, and as a sheet says that it is put right. */
  name: text(300),
  machineId: uuid(),
  sheetId: uuid(),
  /** The duty whose sheet left it. */
  dutyId: uuid(),
  /** The duty with which it is planned and done. */
  workDutyId: uuid().orNull(),
  kind: text<OpenItem["kind"]>(20),
  severity: text<OpenItem["severity"]>(10),
  title: text(200),
  because: text(4000),
  /** Part that it takes, one piece. */
  item: text(80).orNull(),
  slot: text(80).orNull(),
  minutes: whole(),
  who: text<"technician" | "licensed">(10),
  authorisation: text(60).orNull(),
  ownerId: uuid().orNull(),
  wantedBy: day(),
  arisenAt: instant(),
  /** Whom of a licensed service somebody has asked, when, and for when it is booked. */
  askedWhom: text(160).orNull(),
  askedOn: day().orNull(),
  bookedFor: day().orNull(),
  closedAt: instant().orNull(),
  /** Null when a sheet settled it. */
  closedBy: uuid().orNull(),
  closedSheetId: uuid().orNull(),
  closedNote: text(1000).withDefault(""),
  orderLineId: uuid().orNull(),
  /** As the sheets tell it. */
  body: json<OpenItem>(),
});
export type OpenItemRow = RowOf<typeof openItems>;
