import type { Lead, Procedure, RunEvent, Trigger } from "../core/index";

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
  accessHours: string;
  notes: string;
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
}

export interface ProcedureRow {
  id: string;
  version: number;
  family: string;
  title: string;
  body: Procedure;
  createdAt: Date;
}

/** The machine's own rules for a duty, as the due engine takes them. */
export interface PlanRules {
  triggers: Trigger[];
  notice?: Lead;
  warning?: Lead;
  intervalFactor?: number;
  /** Ids of procedures whose plans on this machine are contained. */
  covers?: string[];
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
  source: "run" | "hand" | "import";
  runId: string | null;
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
