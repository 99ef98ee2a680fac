import { bytes, day, flag, instant, json, longText, real, type RowOf, table, text, uuid, whole } from "../columns";
import type { Contact, Criticality, Dust, ImportAnswers, ImportAsks, Retirement } from "../values";

export const customers = table("customers", {
  id: uuid().key(),
  name: text(160),
});
export type CustomerRow = RowOf<typeof customers>;

export const sites = table("sites", {
  id: uuid().key(),
  customerId: uuid(),
  name: text(160),
  address: text(300).withDefault(""),
  /** IANA name: decides what "today" is for the site's duties. */
  timeZone: text(60),
  /** mg/L as calcium carbonate, null when never tested. */
  waterHardness: real().orNull(),
  /** Text form of `parseAccessHours`; closed weekdays follow from it. */
  accessHours: text(200).withDefault(""),
  notes: longText().withDefault(""),
  latitude: real().orNull(),
  longitude: real().orNull(),
  drainRules: longText().withDefault(""),
  wasteRules: longText().withDefault(""),
  contacts: json<Contact[]>().withDefault([]),
  /** Country and region of the public holidays, for example `PT` or `PT-30`; empty = none. */
  holidayRegion: text(20).withDefault(""),
  /** What machines share there, with how many there are: sink, hood, hose; one of each when nothing is said. */
  sharedPlaces: json<Record<string, number>>().withDefault({}),
  /** Dust in the air: flour, lint, sawdust. */
  dust: text<Dust>(6).withDefault("usual"),
  addedBy: uuid().orNull(),
  /** Added on the spot: a lead has not looked at it yet. */
  toCheck: flag().withDefault(false),
});
export type SiteRow = RowOf<typeof sites>;

export const siteClosures = table("site_closures", {
  id: uuid().key(),
  siteId: uuid(),
  /** First and last closed day. */
  fromOn: day(),
  toOn: day(),
  reason: text(200),
  byPerson: uuid(),
  loggedAt: instant(),
  cancelledBy: uuid().orNull(),
  cancelledAt: instant().orNull(),
});
export type SiteClosureRow = RowOf<typeof siteClosures>;

export const machines = table("machines", {
  id: uuid().key(),
  tag: text(32),
  siteId: uuid(),
  area: text(120).withDefault(""),
  name: text(160),
  family: text(60),
  maker: text(120).withDefault(""),
  model: text(120).withDefault(""),
  serial: text(120).withDefault(""),
  commissionedOn: day().orNull(),
  /** Day its duties count from before the first completion; null = the day it was registered. */
  dutiesFrom: day().orNull(),
  options: json<string[]>(),
  notes: longText().withDefault(""),
  createdAt: instant(),
  /** Where it stands, in words. */
  position: text(200).withDefault(""),
  documents: json<{ title: string; href: string }[]>().withDefault([]),
  photoId: uuid().orNull(),
  /** When it may be worked on, written like access hours; empty = whenever the site lets people in. */
  freeHours: text(200).withDefault(""),
  /** HH:MM by which it is ready again on a working day; empty = at any time. */
  readyBy: text(5).withDefault(""),
  addedBy: uuid().orNull(),
  /** Added on the spot: a lead has not looked at it yet. */
  toCheck: flag().withDefault(false),
  /** Day from which it is none of the register's any more; its records stay. */
  retiredOn: day().orNull(),
  retired: json<Retirement>().orNull(),
  /** How much it costs when a part of it fails. */
  criticality: text<Criticality>(6).withDefault("usual"),
});
export type MachineRow = RowOf<typeof machines>;

export const machineMeters = table("machine_meters", {
  machineId: uuid().key(),
  meter: text(60).key(),
  name: text(120),
  unit: text(20),
  /** What it counts: power-on, running, cutting … hours, runs, prints. */
  basis: text(40).withDefault(""),
  /** Name under which the gateway delivers it. */
  gatewayRef: text(120).orNull(),
});
export type MachineMeterRow = RowOf<typeof machineMeters>;

export const meterReadings = table("meter_readings", {
  id: uuid().key(),
  machineId: uuid(),
  meter: text(60),
  value: real(),
  readOn: day(),
  readAt: instant(),
  byPerson: uuid().orNull(),
  source: text<"sheet" | "hand" | "import" | "gateway" | "operator">(8),
  sheetId: uuid().orNull(),
  /** First value of a new meter that took the place of the old one. */
  replaced: flag().withDefault(false),
  note: text(500).withDefault(""),
  /** Id the gateway gave the reading: it is taken once. */
  externalId: text(80).orNull(),
});
export type MeterReadingRow = RowOf<typeof meterReadings>;

export const readings = table("readings", {
  id: uuid().key(),
  machineId: uuid(),
  reading: text(60),
  value: real(),
  unit: text(20),
  readOn: day(),
  readAt: instant(),
  byPerson: uuid().orNull(),
  sheetId: uuid().orNull(),
});
export type ReadingRow = RowOf<typeof readings>;

export const occurrences = table("occurrences", {
  id: uuid().key(),
  machineId: uuid(),
  event: text(60),
  happensOn: day(),
  note: text(500).withDefault(""),
  byPerson: uuid().orNull(),
  loggedAt: instant(),
});
export type OccurrenceRow = RowOf<typeof occurrences>;

export const machineHolds = table("machine_holds", {
  id: uuid().key(),
  machineId: uuid(),
  reason: text(4000),
  sheetId: uuid().orNull(),
  /** The finding that caused it. */
  entryId: uuid().orNull(),
  byPerson: uuid(),
  since: instant(),
  clearedBy: uuid().orNull(),
  clearedAt: instant().orNull(),
  clearedNote: text(1000).withDefault(""),
});
export type MachineHoldRow = RowOf<typeof machineHolds>;

export const machineSlots = table("machine_slots", {
  machineId: uuid().key(),
  slot: text(80).key(),
  item: text(80),
  usesLeft: whole(),
  lot: text(60).orNull(),
  fittedAt: instant(),
  changedAt: instant(),
  sheetId: uuid(),
  /** Face values of the machine's meters when the piece went in. */
  meters: json<Record<string, number>>().withDefault({}),
});
export type MachineSlotRow = RowOf<typeof machineSlots>;

export const instruments = table("instruments", {
  id: uuid().key(),
  code: text(40),
  kind: text(60),
  name: text(200),
  calibrationDue: day().orNull(),
  certificate: text(500).withDefault(""),
  retiredAt: instant().orNull(),
});
export type InstrumentRow = RowOf<typeof instruments>;

export const photos = table("photos", {
  id: uuid().key(),
  mime: text(40),
  bytes: bytes(),
  width: whole(),
  height: whole(),
  madeAt: instant(),
});
export type PhotoRow = RowOf<typeof photos>;

export const imports = table("imports", {
  id: uuid().key(),
  byPerson: uuid(),
  fileName: text(255),
  content: longText(),
  createdAt: instant(),
  status: text<"checked" | "running" | "done" | "failed">(7).withDefault("checked"),
  startedAt: instant().orNull(),
  goodRows: whole(),
  faults: json<{ line: number; column: string; reason: string }[]>(),
  asks: json<ImportAsks>().orNull(),
  answers: json<ImportAnswers>().orNull(),
  rowsDone: whole().withDefault(0),
  message: text(500).withDefault(""),
});
export type ImportRow = RowOf<typeof imports>;

export const problemReports = table("problem_reports", {
  id: uuid().key(),
  machineId: uuid(),
  linkId: uuid().orNull(),
  name: text(60),
  text: text(2000),
  stopped: flag(),
  photoId: uuid().orNull(),
  loggedAt: instant(),
  closedBy: uuid().orNull(),
  closedAt: instant().orNull(),
  closedNote: text(500).withDefault(""),
  /** The duty that it became, for the machine or to put it right. */
  workDutyId: uuid().orNull(),
  seenBy: uuid().orNull(),
  seenAt: instant().orNull(),
  /** What its operator is told. */
  answer: text(300).withDefault(""),
});
export type ProblemReportRow = RowOf<typeof problemReports>;
