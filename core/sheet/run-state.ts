import type { AsFound } from "../wear/tune-interval";
import type { SoakVerdict, Verdict } from "./judge";
import type { Begins, Ledger, TakenOff } from "./procedure";
import type { AskedValue, Correction, EventOf, MissingPart, Outcome, RunEvent } from "./run-event";

/** A correction of one logged fact; the old values stay readable here. */
export interface AppliedCorrection {
  eventId: string;
  by: string;
  at: string;
  why: string;
  old: Correction;
  set: Correction;
}

export interface LoggedReading {
  eventId: string;
  step: string;
  round: number;
  /** Index into the step's points, 0 for a single reading. */
  point: number;
  value: number;
  unit: string;
  verdict: Verdict;
  stage: "as-found" | "as-left";
  /** Id of the measuring instrument, null when none was named. */
  instrument: string | null;
  /** Its calibration was due before the day of the reading. */
  instrumentExpired: boolean;
  /** It cannot be: kept as it was logged, and answers nothing. */
  impossible?: true;
  asked?: AskedValue;
  by: string;
  at: string;
  corrections: AppliedCorrection[];
}

export interface TimerState {
  startedAt: string;
  startedBy: string;
  stoppedAt: string | null;
  /** Length when stopped, in minutes. */
  minutes: number | null;
  verdict: SoakVerdict | null;
}

export type StepStatus = "open" | "running" | "done" | "skipped" | "not-applicable";

/** What is known of one step in one round. */
export interface StepState {
  step: string;
  round: number;
  status: StepStatus;
  /** `ok`/`not-ok`, `clean`/`again`, or `in`/`low`/`high` of the latest readings; null when none. */
  answer: string | null;
  reason: string | null;
  by: string | null;
  at: string | null;
  /** All readings in order, retests included. */
  readings: LoggedReading[];
  timer: TimerState | null;
  /** Slots that got a new part, or had theirs turned. */
  slots: string[];
  counted: number;
  /** The solution made up here, last one logged. */
  mixed: MixedSolution | null;
  /** The last event that counts here: what "undo" takes back. */
  lastEventId: string | null;
  /** Corrections of what settled the step, its answer for example. */
  corrections: AppliedCorrection[];
  /** Functions of a proof that were tried, in order, those that were tried again among them. */
  results?: { eventId: string; function: string; ok: boolean; note: string | null; by: string; at: string }[];
  /** Of a search: its checks in order, those that were done again among them. */
  checks?: LoggedCheck[];
  /** Of a search: states that the machine was brought into and out of, in order. */
  gates?: { eventId: string; state: string; way: "in" | "out"; by: string; at: string }[];
  /** Of a measured part within its limit: whether it is renewed all the same, the last word. */
  decided?: WearDecision;
  /** What came off, where it was not as the procedure says. */
  off?: TakenOff[];
  /** What went back on so far, by item, while some of it did not. */
  back?: Record<string, number>;
}

export interface WearDecision {
  eventId: string;
  choice: "now" | "next";
  /** What the step counts as when it is renewed now: the side on which it gets worse. */
  side: "low" | "high";
  /** That it is past its limit at the next visit, as it was told. */
  chance: number | null;
  reason: string | null;
  by: string;
  at: string;
}

export interface LoggedCheck {
  eventId: string;
  check: string;
  result: "found" | "clear" | "left-out";
  /** The cause that it showed. */
  cause: string | null;
  note: string | null;
  by: string;
  at: string;
}

/** Something that holds until the real thing is done; open while it has not ended. */
export interface InterimMeasure {
  eventId: string;
  text: string;
  until: string;
  step: string | null;
  by: string;
  at: string;
  ended: { eventId: string; by: string; at: string; note: string | null } | null;
}

export interface MixedSolution {
  eventId: string;
  amounts: { item: string; ml: number; lot?: string }[];
  finalMl: number;
  stockPercent: number | null;
  batch: string | null;
}

export interface LoggedPhoto {
  eventId: string;
  photo: string;
  step: string | null;
  finding: string | null;
  caption: string | null;
  by: string;
  at: string;
}

export interface FittedPart {
  eventId: string;
  item: string;
  slot: string;
  /** Null when a new piece was fitted; else uses left of the piece that was turned. */
  turnedUsesLeft: number | null;
  qty: number;
  lot: string | null;
  expires: string | null;
  by: string;
  at: string;
  corrections: AppliedCorrection[];
}

export interface UsedConsumable {
  eventId: string;
  step: string | null;
  round: number | null;
  item: string;
  qty: number;
  unit: string;
  lot: string | null;
  expires: string | null;
  by: string;
  at: string;
  corrections: AppliedCorrection[];
}

export interface LoggedText {
  eventId: string;
  text: string;
  step: string | null;
  severity: "minor" | "major" | "unsafe" | null;
  by: string;
  at: string;
  corrections: AppliedCorrection[];
}

/** What passes locks on: to whom the sheet went, or whose lock a lead has lifted and why. */
export type LockChange = { by: string; at: string } & ({ to: string } | { state: string; reason: string });

/** The sheet as the log tells it. Everything here follows from the events; nothing else writes it. */
export interface RunState {
  runId: string | null;
  /** `signed`: done, by a technician's signature; `ended`: left undone with an outcome. */
  status: "empty" | "working" | "paused" | "signed" | "ended";
  startedAt: string | null;
  startedBy: string | null;
  planId: string | null;
  /** By `step` or `step#round` from round 2 on; steps nothing was logged on are absent. */
  steps: Record<string, StepState>;
  /** Running round of each repeat step, absent = 1. */
  rounds: Record<string, number>;
  parts: FittedPart[];
  consumables: UsedConsumable[];
  notes: LoggedText[];
  findings: LoggedText[];
  photos: LoggedPhoto[];
  interim: InterimMeasure[];
  /** What earlier sheets left open, and is settled with this one. */
  putRight: { eventId: string; item: string; text: string | null; by: string; at: string }[];
  /** How the machine was found, as somebody said; absent while nobody did. */
  asFound?: { eventId: string; found: AsFound; by: string; at: string; corrections: AppliedCorrection[] };
  /** What the sheet began with, left by the duty before; null when nothing was. */
  begins: Begins | null;
  /** What is off and still to go back on, in the order in which it came off. */
  ledger: Ledger;
  /** What was left off with a reason. */
  leftOff: Ledger;
  /** Whose hands the sheet is in; null = whoever opened it. */
  handedTo: string | null;
  /** The sheet handed over, and locks that a lead has lifted; in order. */
  lockChanges: LockChange[];
  technicianSignature: (EventOf<"signed"> & { role: "technician" }) | null;
  customerSignature: (EventOf<"signed"> & { role: "customer" }) | null;
  outcome: {
    outcome: Outcome;
    reason: string;
    by: string;
    at: string;
    part: MissingPart | null;
    /** Day that was agreed for another attempt. */
    again: string | null;
  } | null;
  /** Events that count, in order. */
  applied: number;
  /** What the signature did not see, or was logged on a sheet that was signed or ended: kept beside it, not part of it. */
  afterClosing: RunEvent[];
  /** Corrections of every entry, by the entry's id, corrections of corrections among them. */
  corrections: Record<string, AppliedCorrection[]>;
  /**
   * Events that mean nothing here and change nothing: of a kind that this version does not know, naming a step, a point, a
   * pass or an event that this procedure version or run does not have, or holding no number where one belongs.
   */
  unknown: RunEvent[];
  /** Ids taken back by an undo. */
  undone: string[];
}

/** Whether nothing is left to do on a step, as far as its log goes; one of which nothing was logged is open. */
export function isSettled(at: StepState | null): boolean {
  return at !== null && at.status !== "open" && at.status !== "running";
}

/** Key of a step's state. */
export function stepKey(step: string, round: number): string {
  return round === 1 ? step : `${step}#${round}`;
}

/** A step on which nothing has been logged. */
export const emptyStep = ({ step, round }: { step: string; round: number }): StepState => ({
  step,
  round,
  status: "open",
  answer: null,
  reason: null,
  by: null,
  at: null,
  readings: [],
  timer: null,
  slots: [],
  counted: 0,
  mixed: null,
  lastEventId: null,
  corrections: [],
});

/** A sheet on which nothing has been logged. */
export const emptyState = (): RunState => ({
  runId: null,
  status: "empty",
  startedAt: null,
  startedBy: null,
  planId: null,
  steps: {},
  rounds: {},
  parts: [],
  consumables: [],
  notes: [],
  findings: [],
  photos: [],
  interim: [],
  putRight: [],
  begins: null,
  ledger: [],
  leftOff: [],
  handedTo: null,
  lockChanges: [],
  technicianSignature: null,
  customerSignature: null,
  outcome: null,
  applied: 0,
  afterClosing: [],
  corrections: {},
  unknown: [],
  undone: [],
});
