import type { Lead, NotUntil, Trigger, WearLine } from "../core/index";

/** What columns hold that have a shape of their own. */

export type Role = "technician" | "lead";

export interface Contact {
  name: string;
  role: string;
  phone: string;
  email: string;
}

/** How a machine left the register, with what is needed to take it back. */
export interface Retirement {
  why: string;
  by: string;
  /** Duties that it had until then. */
  duties: string[];
}

/** What of a file only a person can tell. */
export interface ImportAsks {
  /** Families that are none of those there are, with the one they come nearest to and the rows that name them. */
  families: { said: string; nearest: string | null; rows: number }[];
  /** A day that may be meant in two ways. */
  day: { text: string; either: [string, string] } | null;
}

export interface ImportAnswers {
  /** What a family is called here, by how the file calls it. */
  families: Record<string, string>;
  dayOrder: "day-first" | "month-first" | null;
}

/** What a record is found by and may have several of. */
export type LinkKind = "person" | "item" | "lot" | "instrument" | "exception" | "word";

/** How much it costs when a part of a machine fails: the firm says what each comes to. */
export type Criticality = "low" | "usual" | "high";

/** A line of wear as it is foreseen from, with how much of its slope is its own and of how many pieces the rest. */
export interface StoredLine extends WearLine {
  ownWeight: number;
  pieces: number;
}

/** How far long work is. `stopped`: whoever asked for it wants it no more. */
export type JobState = "waiting" | "running" | "done" | "failed" | "stopped";

/** A break of a person's days, in minutes from the day's start: it begins from `from` on, by `by`. */
export interface BreakRule {
  minutes: number;
  from: number;
  by: number;
}

/** What of a duty's rules decides how often it comes. */
export interface IntervalRules {
  triggers: Trigger[];
  intervalFactor?: number;
}

/** That a machine is found poor or worse, as many services tell it: between chance alone and wear alone. */
export interface PoorChances {
  /** Services that it rests on, and of how many of them poor or worse came out. */
  n: number;
  poor: number;
  /** All of this machine, or of machines of its kind as well. */
  own: boolean;
  old: [low: number, high: number];
  new: [low: number, high: number];
}

export type Dust = "little" | "usual" | "much";

/** The machine's own rules for a duty, as the due engine takes them. */
export interface DutyRules {
  triggers: Trigger[];
  notice?: Lead;
  warning?: Lead;
  intervalFactor?: number;
  /** What is contained: ids of procedures that are a duty on this machine, or of duties of its own making. */
  covers?: string[];
  /** Length of closure, in days, that counts as standing idle for the occurrence `idle-ahead`; 2 when absent. */
  idleDays?: number;
  /** Events that a completion of this duty sets off: the second half of a split duty, a part that asks for others. */
  emits?: { event: string; on: "same-day" | "next-open-day" }[];
  /** Time of day, HH:MM at the site, at which the machine is needed again: a day is planned so that the work ends before it. */
  readyBy?: string;
  /** How long the machine is not used after it. */
  notUntil?: NotUntil;
  /** By what its intervals may be multiplied at least and at most when findings tune them; half and double when absent. */
  tuning?: { least?: number; most?: number };
  /** What the intervals were before findings tuned them. */
  given?: IntervalRules;
}
