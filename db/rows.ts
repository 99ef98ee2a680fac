import type { DayPlan, DayProblem, DayRisk, Lead, Procedure, RunEvent, Trigger } from "../core/index";

/** What a row of each table holds. Days are 'YYYY-MM-DD', instants Date in UTC. */

export type Role = "technician" | "lead";

export interface PersonRow {
  id: string;
  name: string;
  signIn: string;
  passwordHash: string;
  role: Role;
  active: boolean;
  mustChangePassword: boolean;
  /** A demo account with a published password: production refuses to run beside one. */
  demo: boolean;
  createdAt: Date;
}

export interface AuthorisationRow {
  id: string;
  personId: string;
  kind: string;
  expiresOn: string | null;
  grantedBy: string;
  grantedAt: Date;
  revokedBy: string | null;
  revokedAt: Date | null;
}

export interface SessionRow {
  /** SHA-256 of the cookie's token: the table alone opens nothing. */
  id: string;
  personId: string;
  device: string;
  createdAt: Date;
  lastSeenAt: Date;
  expiresAt: Date;
  endedAt: Date | null;
}

export interface AuditRow {
  id: string;
  at: Date;
  byPerson: string | null;
  subject: string;
  subjectId: string;
  action: string;
  details: Record<string, unknown>;
}

export interface CustomerRow {
  id: string;
  name: string;
}

export interface SiteRow {
  id: string;
  customerId: string;
  name: string;
  address: string;
  /** IANA name: decides what "today" is for the site's duties. */
  timeZone: string;
  /** mg/L as calcium carbonate, null when never tested. */
  waterHardness: number | null;
  /** Text form of `parseAccessHours`; closed weekdays follow from it. */
  accessHours: string;
  notes: string;
  latitude: number | null;
  longitude: number | null;
  drainRules: string;
  wasteRules: string;
  contacts: Contact[];
  /** Country and region of the public holidays, for example `PT` or `PT-30`; empty = none. */
  holidayRegion: string;
  /** What machines share there, with how many there are: sink, hood, hose; one of each when nothing is said. */
  sharedPlaces: Record<string, number>;
}

export interface Contact {
  name: string;
  role: string;
  phone: string;
  email: string;
}

export interface SiteClosureRow {
  id: string;
  siteId: string;
  /** First and last closed day. */
  fromOn: string;
  toOn: string;
  reason: string;
  byPerson: string;
  loggedAt: Date;
  cancelledBy: string | null;
  cancelledAt: Date | null;
}

export interface MachineRow {
  id: string;
  tag: string;
  siteId: string;
  area: string;
  name: string;
  family: string;
  maker: string;
  model: string;
  serial: string;
  commissionedOn: string | null;
  /** Day its duties count from before the first completion; null = the day it was registered. */
  dutiesFrom: string | null;
  options: string[];
  notes: string;
  createdAt: Date;
  /** Where it stands, in words. */
  position: string;
  documents: { title: string; href: string }[];
  photoId: string | null;
  /** When it may be worked on, written like access hours; empty = whenever the site lets people in. */
  freeHours: string;
  /** HH:MM by which it is ready again on a working day; empty = at any time. */
  readyBy: string;
}

/** A pause of one duty, or of all of a machine. */
export interface PauseRow {
  id: string;
  machineId: string;
  planId: string | null;
  fromOn: string;
  /** First day that counts again; null = until resumed. */
  toOn: string | null;
  reason: string;
  byPerson: string;
  loggedAt: Date;
  resumedBy: string | null;
  resumedAt: Date | null;
}

export interface MachineMeterRow {
  machineId: string;
  meter: string;
  name: string;
  unit: string;
  /** What it counts: power-on, running, cutting … hours, runs, prints. */
  basis: string;
  /** Name under which the gateway delivers it. */
  gatewayRef: string | null;
}

export interface ParkedReadingRow {
  id: string;
  externalId: string;
  gatewayRef: string;
  payload: { value: unknown; at: unknown };
  reason: string;
  parkedAt: Date;
  settledBy: string | null;
  settledAt: Date | null;
  settledAs: "taken" | "dropped" | null;
}

export interface LinkRow {
  id: string;
  kind: "operator" | "person-calendar" | "site-calendar";
  /** Machine, person or site. */
  subjectId: string;
  /** SHA-256 of the token: the table alone opens nothing. */
  tokenHash: string;
  madeBy: string;
  madeAt: Date;
  revokedBy: string | null;
  revokedAt: Date | null;
}

export interface OperatorTickRow {
  id: string;
  linkId: string;
  machineId: string;
  planId: string;
  doneOn: string;
  name: string;
  loggedAt: Date;
}

export interface PhotoRow {
  id: string;
  mime: string;
  bytes: Buffer;
  width: number;
  height: number;
  madeAt: Date;
}

export interface ProblemReportRow {
  id: string;
  machineId: string;
  linkId: string | null;
  name: string;
  text: string;
  stopped: boolean;
  photoId: string | null;
  loggedAt: Date;
  closedBy: string | null;
  closedAt: Date | null;
  closedNote: string;
}

export interface SavedViewRow {
  id: string;
  personId: string;
  place: string;
  name: string;
  query: string;
  madeAt: Date;
}

export interface ProcedureRow {
  id: string;
  version: number;
  family: string;
  title: string;
  /** As written. */
  body: Procedure;
  /** With its nested procedures' steps in their places; null when nothing is nested. */
  expanded: Procedure | null;
  createdAt: Date;
  publishedBy: string | null;
  why: string;
}

export interface ProcedureDraftRow {
  id: string;
  procedureId: string;
  baseVersion: number;
  body: Procedure;
  byPerson: string;
  madeAt: Date;
  changedAt: Date;
  /** Goes up with each save, so that two editors do not overwrite each other. */
  revision: number;
}

export interface MachineHoldRow {
  id: string;
  machineId: string;
  reason: string;
  runId: string | null;
  /** The finding that caused it. */
  eventId: string | null;
  byPerson: string;
  since: Date;
  clearedBy: string | null;
  clearedAt: Date | null;
  clearedNote: string;
}

export interface InstrumentRow {
  id: string;
  code: string;
  kind: string;
  name: string;
  calibrationDue: string | null;
  certificate: string;
  retiredAt: Date | null;
}

export interface MachineSlotRow {
  machineId: string;
  slot: string;
  item: string;
  usesLeft: number;
  lot: string | null;
  fittedAt: Date;
  changedAt: Date;
  runId: string;
  /** Face values of the machine's meters when the piece went in. */
  meters: Record<string, number>;
}

export interface RecordChainRow {
  seq: number;
  kind: "record" | "addition" | "return-to-service";
  subjectId: string;
  at: Date;
  content: Record<string, unknown>;
  contentHash: string;
  previousHash: string;
  hash: string;
}

/** The machine's own rules for a duty, as the due engine takes them. */
export interface PlanRules {
  triggers: Trigger[];
  notice?: Lead;
  warning?: Lead;
  intervalFactor?: number;
  /** What is contained: ids of procedures with a plan on this machine, or of plans of its own making. */
  covers?: string[];
  /** Length of closure, in days, that counts as standing idle for the event `idle-ahead`; 2 when absent. */
  idleDays?: number;
  /** Events that a completion of this duty sets off: the second half of a split duty, a part that asks for others. */
  emits?: { event: string; on: "same-day" | "next-open-day" }[];
}

export interface PlanRow {
  id: string;
  machineId: string;
  procedureId: string;
  title: string;
  who: "operator" | "technician" | "licensed";
  authorisation: string | null;
  /** Hands-on and waiting together. */
  minutes: number;
  startOn: string;
  rules: PlanRules;
  hardStop: boolean;
  active: boolean;
  dueOn: string | null;
  warningFrom: string | null;
  noticeFrom: string | null;
  /** `dueOn` is a forecast from use: past it, the duty is due, not overdue. */
  projected: boolean;
  /** Earliest day that is no forecast. */
  firmDueOn: string | null;
  anchorOn: string | null;
  /** Due days of the triggers that lost the race. */
  rivals: string[];
  /** The machine's site and family, kept here so that one index serves what is ahead. */
  siteId: string;
  family: string;
  /** Day a person put it on, and for whom. */
  plannedOn: string | null;
  /** Stays on its day. */
  pinned: boolean;
  plannedFor: string | null;
  /** Goes up whenever a calendar should show it elsewhere. */
  sequence: number;
  assessedAt: Date | null;
}

export interface RunRow {
  id: string;
  planId: string;
  machineId: string;
  procedureId: string;
  procedureVersion: number;
  openedBy: string;
  openedAt: Date;
  /** In whose hands the sheet is. */
  heldBy: string | null;
  status: "open" | "signed" | "ended";
  closedAt: Date | null;
  closedBy: string | null;
  doneOn: string | null;
  outcome: string | null;
  outcomeReason: string | null;
}

export interface RunEventRow {
  seq: number;
  id: string;
  runId: string;
  byPerson: string;
  type: string;
  body: RunEvent;
  contentHash: string;
  receivedAt: Date;
}

export interface CompletionRow {
  id: string;
  planId: string;
  machineId: string;
  doneOn: string;
  meters: Record<string, number>;
  runId: string | null;
}

export interface MeterReadingRow {
  id: string;
  machineId: string;
  meter: string;
  value: number;
  readOn: string;
  readAt: Date;
  byPerson: string | null;
  source: "run" | "hand" | "import" | "gateway" | "operator";
  runId: string | null;
  /** First value of a new meter that took the place of the old one. */
  replaced: boolean;
  note: string;
  /** Id the gateway gave the reading: it is taken once. */
  externalId: string | null;
}

export interface ReadingRow {
  id: string;
  machineId: string;
  reading: string;
  value: number;
  unit: string;
  readOn: string;
  readAt: Date;
  byPerson: string | null;
  runId: string | null;
}

export interface MachineEventRow {
  id: string;
  machineId: string;
  event: string;
  happensOn: string;
  note: string;
  byPerson: string | null;
  loggedAt: Date;
}

export interface ImportRow {
  id: string;
  byPerson: string;
  fileName: string;
  content: string;
  createdAt: Date;
  status: "checked" | "running" | "done" | "failed";
  startedAt: Date | null;
  goodRows: number;
  faults: { line: number; column: string; reason: string }[];
  rowsDone: number;
  message: string;
}

/** A person's day: how it goes round. What it holds is in the plans put on it. */
export interface DayRow {
  id: string;
  personId: string;
  onDay: string;
  status: "open" | "started" | "ended";
  /** Minutes of the day. */
  startMinute: number;
  endMinute: number;
  technicians: number;
  /** Sites in an order chosen by hand; null = the best one. */
  fixedOrder: string[] | null;
  /** As planned last: what from, and what came out. */
  problem: DayProblem | null;
  plan: DayPlan | null;
  risk: DayRisk | null;
  plannedAt: Date | null;
  sequence: number;
}

export interface DayEventRow {
  id: string;
  dayId: string;
  at: Date;
  byPerson: string;
  type: "started" | "arrived" | "left" | "skipped" | "replanned" | "handed-over" | "ended";
  siteId: string | null;
  body: { reason?: string; to?: string; endAt?: number };
}
