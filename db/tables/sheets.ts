import type { RunEvent } from "../../core/index";
import { bigWhole, day, fixedText, flag, instant, json, real, type RowOf, table, text, uuid, whole } from "../columns";
import type { LinkKind } from "../values";

export const sheets = table("sheets", {
  id: uuid().key(),
  dutyId: uuid(),
  machineId: uuid(),
  procedureId: text(80),
  procedureVersion: whole(),
  openedBy: uuid(),
  openedAt: instant(),
  status: text<"open" | "signed" | "ended">(6).withDefault("open"),
  closedAt: instant().orNull(),
  closedBy: uuid().orNull(),
  doneOn: day().orNull(),
  outcome: text(20).orNull(),
  outcomeReason: text(1000).orNull(),
  /** Its duty while this is the sheet that is gone on with: one at a time. */
  openDutyId: uuid().orNull(),
  /** In whose hands the sheet is. */
  heldBy: uuid().orNull(),
  /** What it says of wear is kept. */
  wearKept: flag().withDefault(false),
});
export type SheetRow = RowOf<typeof sheets>;

export const logEntries = table("log_entries", {
  seq: bigWhole().key().counted(),
  id: uuid(),
  sheetId: uuid(),
  byPerson: uuid(),
  type: text(30),
  body: json<RunEvent>(),
  contentHash: fixedText(64),
  receivedAt: instant(),
  /** Came when the sheet was closed: kept beside the record, counted nowhere. */
  late: flag().withDefault(false),
});
export type LogEntryRow = RowOf<typeof logEntries>;

/** Hands-on minutes that a signed sheet took, from its log. */
export const sheetMinutes = table("sheet_minutes", {
  sheetId: uuid().key(),
  procedureId: text(80),
  siteId: uuid(),
  personId: uuid(),
  doneOn: day(),
  handsMinutes: real(),
});
export type SheetMinutesRow = RowOf<typeof sheetMinutes>;

export const recordChain = table("record_chain", {
  seq: bigWhole().key(),
  kind: text<"record" | "addition" | "return-to-service">(17),
  subjectId: uuid(),
  at: instant(),
  content: json<Record<string, unknown>>(),
  contentHash: fixedText(64),
  previousHash: fixedText(64),
  hash: fixedText(64),
});
export type RecordChainRow = RowOf<typeof recordChain>;

/** One row, locked while a record is added: two processes cannot both continue from the same end. */
export const recordChainEnd = table("record_chain_end", {
  id: whole().key(),
  seq: bigWhole(),
  hash: fixedText(64),
});
export type RecordChainEndRow = RowOf<typeof recordChainEnd>;

/** What a closed sheet is found by: where and of whom it was when it was closed. */
export const records = table("records", {
  sheetId: uuid().key(),
  /** The site's day on which it was closed. */
  onDay: day().key(),
  closedAt: instant().key(),
  closedBy: uuid(),
  machineId: uuid(),
  siteId: uuid(),
  customerId: uuid(),
  family: text(60),
  procedureId: text(80),
  title: text(200),
  tag: text(32),
  serial: text(120),
  /** `signed`, or why the work was not done. */
  outcome: text(20),
  /** Bits of what is not as it should be. */
  exceptions: whole(),
});
export type RecordSummaryRow = RowOf<typeof records>;

/** What a record may have several of, each of which finds it. */
export const recordLinks = table("record_links", {
  kind: text<LinkKind>(12).key(),
  value: text(120).key(),
  onDay: day().key(),
  closedAt: instant().key(),
  sheetId: uuid().key(),
  exceptions: whole(),
});
export type RecordLinkRow = RowOf<typeof recordLinks>;
