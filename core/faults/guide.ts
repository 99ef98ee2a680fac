import type { MachineState, Procedure, Step, StepCondition, Who } from "../sheet/procedure";

/** What a guide has as a procedure has it. */
type AsInProcedures = Pick<
  Procedure,
  "family" | "version" | "title" | "summary" | "hazards" | "protective" | "tools" | "materials" | "parts" | "options"
>;

/**
 * What practitioners know of a family's faults: versioned, plain JSON in the open format of `schemas/fault-guide.schema.json`.
 * Chances are typical; what is found takes them over.
 */
export interface FaultGuide extends AsInProcedures {
  format: "humble-hound/fault-guide";
  formatVersion: 1;
  /** What the machine has to be in for checks and remedies. */
  states: MachineState[];
  symptoms: FaultSymptom[];
  checks: FaultCheck[];
  causes: FaultCause[];
}

/** Holds for machines with the option, or without it. */
export type OptionClause = Extract<StepCondition, { option: string }>;

export interface FaultSymptom {
  id: string;
  /** In the operator's words. */
  says: string;
  /** Other words for the same. */
  also?: string[];
  /** How it shows that the fault is gone. */
  proof: string;
  /** What can be behind it, with its typical chance in any scale. */
  causes: { cause: string; chance: number }[];
  /** What the operator is told, whatever the cause turns out to be. */
  tell?: string;
  on?: OptionClause[];
}

export interface FaultCheck {
  id: string;
  title: string;
  /** What to do, and what to look at. */
  how: string;
  /** States that the machine has to be in, all of them. */
  state?: string[];
  /** Hands-on minutes, the way into its states not counted. */
  minutes: number;
  /** What it shows when none of its causes is there. */
  clear: string;
  finds: CheckFind[];
  on?: OptionClause[];
}

export interface CheckFind {
  cause: string;
  /** Chance that the check shows it when that cause is the one, above 0 and at most 1. */
  share: number;
  /** What it looks like then. */
  shows: string;
}

export interface FaultCause {
  id: string;
  name: string;
  /** Who may remedy it: `authorised` by the maker, `licensed` by law. */
  who: Who | "authorised";
  /** What is done about it here, in the steps of a procedure. */
  remedy?: RemedyStep[];
  /** To whom it goes when it is not remedied here, and what they are told. */
  handOff?: { to: string; say: string };
  /** What holds until the real thing is done, and when that ends. */
  interim?: { text: string; until: string };
  /** Why nobody may use the machine with it. */
  outOfService?: string;
  /** Days after which it is no surprise when it comes back; typical. */
  usualLifeDays?: number;
  /** It comes of how the machine is handled: what was done to it, and what the operator should know. */
  handling?: { damage: string; lesson: string };
  on?: OptionClause[];
}

/** Steps that a remedy may be made of. */
export type RemedyKind = "do" | "inspect" | "measure" | "wait" | "count" | "replace" | "turn" | "mix";
export type RemedyStep = Extract<Step, { kind: RemedyKind }>;

/** The step of a fault's sheet that looks for the cause. */
export type FindStep = Extract<Step, { kind: "find" }>;
