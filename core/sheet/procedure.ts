import type { Lead, Trigger } from "../schedule/types";

/**
 * A procedure: versioned, plain JSON in the open format of `schemas/procedure.schema.json`. A run is bound for ever to
 * the version it was worked on, so a published version never changes.
 */
export interface Procedure {
  format: "humble-hound/procedure";
  formatVersion: 1;
  id: string;
  version: number;
  title: string;
  /** Equipment family, for example `flake-ice-maker`. */
  family: string;
  summary: string;
  who: Who;
  /** Authorisation a person needs on the day, for example `licensed-refrigeration`. */
  authorisation?: string;
  minutes: { handsOn: number; waiting: number };
  plan: ProcedurePlan;
  hazards: Hazard[];
  protective: string[];
  tools: string[];
  materials: Material[];
  parts: Part[];
  options: { id: string; name: string }[];
  meters: { id: string; name: string; unit: string }[];
  steps: Step[];
}

export type Who = "operator" | "technician" | "licensed";

/** How the duty comes due unless a machine's own plan says otherwise. All figures are typical values. */
export interface ProcedurePlan {
  triggers: Trigger[];
  notice?: Lead;
  warning?: Lead;
  hardStop?: boolean;
  /** Ids of procedures whose work this one contains. */
  covers?: string[];
  /** Scale-related: the interval shrinks where water is hard. */
  scaledByHardness?: boolean;
  /** Days of closure that count as standing idle, for the event `idle-ahead`; 2 when absent. */
  idleDays?: number;
  /** Events that a completion sets off on this machine: a second half, or what must follow a replacement. */
  emits?: { event: string; on: "same-day" | "next-open-day" }[];
}

export type HazardKind =
  | "lock-out"
  | "stored-energy"
  | "hot"
  | "pressure"
  | "moving"
  | "electric"
  | "battery"
  | "chemical"
  | "flammable"
  | "uv"
  | "sharp"
  | "heavy"
  | "biohazard"
  | "waste";

export interface Hazard {
  kind: HazardKind;
  text: string;
}

export interface Material {
  item: string;
  name: string;
  qty: number;
  unit: string;
}

export interface Part {
  item: string;
  name: string;
  slots: { id: string; name: string }[];
  /** All slots are renewed together or none. */
  pair?: boolean;
}

/** Holds when every given clause does; a step whose condition fails is gone from the sheet. */
export type StepCondition =
  | { option: string; fitted: boolean }
  /** What an earlier step came to: its answer, or `in`, `out`, `low`, `high` for a reading. */
  | { step: string; is: string };

interface StepBase {
  id: string;
  title: string;
  text?: string;
  when?: StepCondition[];
  /** Materials this step consumes, by item, in the unit of the material list. */
  uses?: { item: string; qty: number }[];
}

/** `min`/`max` belong to the allowed band, `above`/`below` do not. */
export interface Limits {
  min?: number;
  max?: number;
  above?: number;
  below?: number;
}

export type Step =
  | (StepBase & { kind: "safety"; checks: string[] })
  | (StepBase & { kind: "do" })
  | (StepBase & { kind: "inspect"; asItShouldBe: string; ifNot: string })
  | (StepBase & {
      kind: "measure";
      /** Name under which readings are kept over the years, for trends and condition triggers. */
      reading: string;
      unit: string;
      /** One reading at each, in order; without points a single reading. */
      points?: string[];
      limits?: Limits;
      target?: number;
      /** The reading is the face value of this meter. */
      meter?: string;
      /** Stays open until a reading is within limits, or it is left with a reason. */
      retest?: boolean;
      advice?: { low?: string; high?: string };
    })
  | (StepBase & {
      kind: "wait";
      minMinutes: number;
      maxMinutes?: number;
      /** Steps that may be done while this one runs. */
      meanwhile?: string[];
      ifShort?: string;
      ifLong?: string;
    })
  | (StepBase & { kind: "count"; times: number; each: string })
  | (StepBase & { kind: "replace"; item: string; slots: string[] })
  | (StepBase & {
      kind: "repeat";
      /** First step of the block that is done again; the block ends here. */
      from: string;
      question: string;
      clean: string;
      again: string;
      maxRounds?: number;
    })
  | (StepBase & { kind: "reset"; meter: string; expect: number })
  | (StepBase & { kind: "prove"; expect: string })
  | (StepBase & { kind: "hand-off"; to: string });

export type StepKind = Step["kind"];

/** A step in one round of its repeat block; round 1 outside such a block. */
export interface StepRef {
  step: string;
  round: number;
}

/** What the sheet must know about the machine in front of it. */
export interface MachineFacts {
  /** Ids of fitted options. */
  options: string[];
}
