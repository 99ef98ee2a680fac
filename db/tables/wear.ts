import type { AsFound, CameOut, Worse } from "../../core/index";
import { day, flag, instant, json, real, type RowOf, table, text, uuid, whole } from "../columns";
import type { IntervalRules, PoorChances, StoredLine } from "../values";

/** What closed sheets put into slots: each ends the piece that was there. */
export const slotFits = table("slot_fits", {
  /** The entry that logged it. */
  id: uuid().key(),
  machineId: uuid(),
  slot: text(80),
  item: text(80),
  /** The next side or edge of the same piece. */
  turned: flag(),
  /** Why the piece before came out. */
  cameOut: text<CameOut>(8),
  fittedAt: instant(),
  /** The site's day. */
  onDay: day(),
  sheetId: uuid(),
});
export type SlotFitRow = RowOf<typeof slotFits>;

/** Values on closed sheets that tell how far the piece in a slot is worn. */
export const wearValues = table("wear_values", {
  /** The entry that logged it: one value may tell of several slots. */
  entryId: uuid().key(),
  slot: text(80).key(),
  machineId: uuid(),
  item: text(80),
  reading: text(60),
  unit: text(20),
  /** What it wears by: a meter of the machine, or `day`. */
  per: text(60),
  worse: text<Worse>(4),
  /** The procedure's limit then; null where it named none. */
  limitAt: real().orNull(),
  value: real(),
  stage: text<"found" | "left">(5),
  /** It looked wrong, and somebody said that it is right. */
  confirmed: flag(),
  readAt: instant(),
  onDay: day(),
  sheetId: uuid(),
});
export type WearValueRow = RowOf<typeof wearValues>;

/** A line of wear: one piece, or what an adjustment left of it, with what its values come to and what is foreseen. */
export const wearLines = table("wear_lines", {
  /** Made of machine, slot, reading and beginning. */
  id: uuid().key(),
  machineId: uuid(),
  slot: text(80),
  item: text(80),
  reading: text(60),
  unit: text(20),
  per: text(60),
  worse: text<Worse>(4),
  limitAt: real().orNull(),
  /** What like pieces have in common: item, family, reading, what they wear by. */
  pool: text(250),
  beganAt: instant().orNull(),
  begunBy: text<"piece" | "adjustment">(10).orNull(),
  endedAt: instant().orNull(),
  /** In use: one for each slot and reading. */
  current: flag(),
  n: whole(),
  meanAt: real(),
  level: real(),
  slope: real().orNull(),
  sumSquares: real(),
  residual: real(),
  firstUse: real(),
  firstOn: day(),
  lastUse: real(),
  lastOn: day(),
  lastValue: real(),
  /** Of the machine: on `asOf` so much had been used, and so much is a day. */
  useNow: real(),
  rate: real().orNull(),
  asOf: day(),
  /** Null while there is too little to say, and of lines that ended. */
  line: json<StoredLine>().orNull(),
  crossesOn: day().orNull(),
  crossesFrom: day().orNull(),
  crossesTo: day().orNull(),
  /** The next two visits that would see it, and the chance that it is past its limit by then. */
  nextOn: day().orNull(),
  nextChance: real().orNull(),
  secondOn: day().orNull(),
  secondChance: real().orNull(),
  /** Cents. */
  plannedCost: whole().orNull(),
  costNow: whole().orNull(),
  costNext: whole().orNull(),
  breakEven: real().orNull(),
  advice: text<"now" | "next" | "either">(6).orNull(),
  /** As the machine's procedures call the slot. */
  slotName: text(160).withDefault(""),
  /** Lists begin with what is likeliest past its limit, then with what gets there first: the chance (−1: none) and the day. */
  listedBy: real().withDefault(-1),
  listedOn: day().withDefault("9999-12-31"),
  /** Something that it is foreseen from has changed. */
  stale: flag().withDefault(false),
});
export type WearLineRow = RowOf<typeof wearLines>;

/** How machines were found at services, as closed sheets tell it or somebody said on them. */
export const asFound = table("as_found", {
  sheetId: uuid().key(),
  dutyId: uuid(),
  machineId: uuid(),
  siteId: uuid(),
  family: text(60),
  procedureId: text(80),
  found: text<AsFound>(6),
  told: text<"asked" | "sheet">(5),
  because: json<string[]>(),
  foundAt: instant(),
  /** The site's day. */
  onDay: day(),
  /** Days since the duty was done before; null when it was the first time. */
  afterDays: whole().orNull(),
});
export type AsFoundRow = RowOf<typeof asFound>;

/** Intervals that findings ask for, to be accepted or refused by a lead. */
export const intervalProposals = table("interval_proposals", {
  id: uuid().key(),
  /** The finding that asked for it. */
  sheetId: uuid(),
  dutyId: uuid(),
  /** The duty while it is open: one at a time. */
  openDutyId: uuid().orNull(),
  machineId: uuid(),
  siteId: uuid(),
  found: text<AsFound>(6),
  because: text(300),
  oldRules: json<IntervalRules>(),
  newRules: json<IntervalRules>(),
  /** Between two services, by the calendar and by how much the machine is used. */
  oldDays: real(),
  newDays: real(),
  /** What it adds, or saves below zero. */
  minutesAYear: real(),
  /** That it is found poor or worse; null without services of which the interval is known. */
  chance: json<PoorChances>().orNull(),
  madeAt: instant(),
  status: text<"open" | "accepted" | "refused" | "replaced">(10),
  decidedAt: instant().orNull(),
  decidedBy: uuid().orNull(),
  reason: text(500).orNull(),
});
export type IntervalProposalRow = RowOf<typeof intervalProposals>;
