import type { FaultCause, FaultCheck, FaultSymptom } from "../faults/guide";
import type { ChemicalClass } from "../mix/check-mix";
import type { Grade, Surface } from "../mix/surfaces";
import type { Lead, Trigger } from "../schedule/types";
import type { NotUntil } from "../schedule/usable-again";
import type { Figure } from "./figure";

/**
 * A procedure: versioned, plain JSON in the open format of `schemas/procedure.schema.json`. A run is bound for ever to
 * the version it was worked on, so a published version never changes.
 */
export interface Procedure {
  format: "humble-hound/procedure";
  /** 2 has states, paths and what is off; 1 is read as it always was. */
  formatVersion: 1 | 2;
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
  /** `service`: a counter on the machine that a technician sets back at the end of the service. */
  meters: ProcedureMeter[];
  /** What the machine has to be in for the work, in the order in which it gets there. */
  states?: MachineState[];
  /** What the duty that this one sets off begins with: a machine that stays locked, parts that stay off. */
  leaves?: { states?: string[]; off?: string[] };
  /** What the duty that sets this one off left: it goes back on here without having come off here. */
  begins?: { off?: string[] };
  steps: Step[];
}

export interface ProcedureMeter {
  id: string;
  name: string;
  unit: string;
  service?: boolean;
  /** Meter that runs whenever this one does: cutting hours within spindle hours, those within hours of power. */
  within?: string;
}

/**
 * Something that a machine is in: isolated, cool, drained, standing with power … Steps name what they need; the checks on the
 * way in and out are gates, put where they are needed by `placeGates`.
 */
export interface MachineState {
  id: string;
  name: string;
  /** States that cannot be in force together with this one; it goes both ways. */
  excludes?: string[];
  /** States that end this one without a check: what is powered is not cool for long. */
  lostBy?: string[];
  in: StateCheck & {
    /** Minutes until it is reached by itself: cooling, draining, venting. */
    waitMinutes?: number;
    /** Reached below this surface temperature, °C. */
    belowC?: number;
    gates?: GateKind[];
  };
  /** Without it the state is left without a check. */
  out?: StateCheck;
}

interface StateCheck {
  checks: string[];
  /** Hands-on minutes. */
  minutes?: number;
  cautions?: string[];
  who?: Who;
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
  /** Time of day, HH:MM at the site, at which the machine has to be back in use: the work is planned to end before it. */
  readyBy?: string;
  notUntil?: NotUntil;
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
  /** Product class, for what may not meet without a rinse in between. */
  chemical?: ChemicalClass;
  /** Of water and solvents: another grade is another material. */
  grade?: Grade;
  /** Typical strength of the stock, percent weight per volume. */
  stockPercent?: number;
}

export interface Part {
  item: string;
  name: string;
  slots: { id: string; name: string }[];
  /** All slots are renewed together or none. */
  pair?: boolean;
  /** Uses of one piece: four for a four-edged blade, two for a two-sided stick; 1 when absent. */
  uses?: number;
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
  /** Hands-on minutes, typical. */
  minutes?: number;
  /** Heading under which the step stands on a long list. */
  area?: string;
  /** A schematic drawn beside the step. */
  figure?: Figure;
  /** What comes off the machine here, and what goes back on: both in the same words. */
  removes?: string[];
  refits?: string[];
  /** Rinses away what was applied before. */
  rinses?: boolean;
  /** States that the machine has to be in, all of them. */
  state?: string[];
  /** The way that parts go beside the machine, as soon as a step has opened it: this step is on it. */
  path?: string;
  opens?: string;
  /** Skipped or cut short, it leaves the duty due. */
  critical?: true;
  /** What comes off the machine here and is counted until it is back on. */
  takesOff?: TakenOff[];
  putsBack?: { item: string; count: number }[];
  /** Of a step that came with nested procedures: whose it is, what it is called there, and in which of them it stands. */
  workedFor?: { procedure: string; step: string; within: string }[];
  /** What it touches with what it uses. */
  surfaces?: Surface[];
  /** Grades that must not be used here. */
  forbids?: Grade[];
  /** What machines at a site share and this step takes: `sink`, `hood`, `hose` …; a wait holds it until it ends. */
  needs?: string[];
  /** What the customer is asked for before somebody comes, in these words; done by then, the step is only looked at. */
  beforehand?: string;
}

/** Parts that are off, how they were in, and where they were put. */
export interface TakenOff {
  item: string;
  count: number;
  wayRound?: string;
  place?: string;
}

/** What makes a machine safe to work on. */
export type GateKind =
  | "lock-out"
  | "tag"
  | "protective"
  | "isolate"
  | "vent"
  | "drain"
  | "park"
  | "cool-down"
  | "stored-energy"
  | "ventilate";

/** A calculator that opens inside a measuring step. */
export type Calculator =
  | { kind: "belt-time"; setSeconds: number; tolerancePercent?: number }
  | { kind: "hydrometer"; cells: number }
  | { kind: "strainer-drop"; cleanDrop: number; unit: string }
  | { kind: "polish-mark"; lowMm: number; highMm: number }
  /** Scatter of so many repeats of one sample, in percent of their mean. */
  | { kind: "relative-sd"; repeats: number }
  /** Control chart of this reading over the services. */
  | {
      kind: "control-chart";
      target: number;
      sd: number;
      lambda?: number;
      /** The reading is worked out first: in standard deviations of a lot, or in percent of the instrument's own signal. */
      worked?: "lot-score" | "percent-of-own";
    };

/** A reading that says how far a part is worn: its slots in the order of the points, or all by the one; `per` a meter or `day`. */
export interface WearReading {
  item: string;
  slots: string[];
  per: string;
  worse: "up" | "down";
  /** Its points are several places of each slot, of which the worst counts. */
  worst?: true;
}

/** One way among several that practitioners stand by. */
export interface School {
  id: string;
  name: string;
  why: string;
}

/** `min`/`max` belong to the allowed band, `above`/`below` do not. */
export interface Limits {
  min?: number;
  max?: number;
  above?: number;
  below?: number;
}

export type Step =
  | (StepBase & {
      kind: "safety";
      checks: string[];
      /** What this gate makes safe, for the linter and the signs. */
      gates?: GateKind[];
      /**
       * Cool-down: the gate opens when the surface reads below `belowC` °C, or when `minutes` have passed since its clock was
       * started, whichever is given and comes first.
       */
      coolDown?: { belowC?: number; minutes?: number };
      /** Put here by `placeGates`: the way into a state or out of it, and the steps it is there for. */
      gate?: { state: string; way: "in" | "out" };
      serves?: string[];
    })
  | (StepBase & { kind: "do" })
  | (StepBase & {
      kind: "inspect";
      asItShouldBe: string;
      ifNot: string;
      /** Not as it should be is logged as a finding of this severity at once; `unsafe` takes the machine out of service. */
      finding?: "minor" | "major" | "unsafe";
    })
  | (StepBase & {
      kind: "measure";
      /** Name under which readings are kept over the years, for trends and condition triggers. */
      reading: string;
      unit: string;
      /** One reading at each, in order; without points a single reading. */
      points?: string[];
      /** The same thing measured so many times; not together with points. */
      trials?: number;
      /** What is held against the limits: each value (when absent), or all of them together. */
      judge?: "each" | "mean" | "spread";
      limits?: Limits;
      /** Limits as ratios to the machine's own value when it was clean: the last of the reading that is named. */
      ofClean?: { reading: string; min?: number; max?: number };
      target?: number;
      /** The reading is the face value of this meter. */
      meter?: string;
      /** Stays open until a reading is within limits, or it is left with a reason. */
      retest?: boolean;
      advice?: { low?: string; high?: string };
      /** Kind of measuring instrument to be recorded, for example `thermometer`. */
      instrument?: string;
      /** As found or as left; when absent, first readings are as found and retests as left. */
      stage?: "as-found" | "as-left";
      calculator?: Calculator;
      /** What a reading can be at all: what is beyond was typed wrong, whatever the machine is in. */
      possible?: { min?: number; max?: number };
      wears?: WearReading;
    })
  | (StepBase & {
      kind: "wait";
      minMinutes: number;
      maxMinutes?: number;
      /** Steps that may be done while this one runs. */
      meanwhile?: string[];
      /** Somebody must stand by; a wait is passive otherwise. */
      attended?: boolean;
      /** No alarm before the maximum: only where passing it harms nothing. */
      silent?: boolean;
      ifShort?: string;
      ifLong?: string;
    })
  | (StepBase & {
      kind: "mix";
      recipe: MixRecipe;
    })
  | (StepBase & { kind: "count"; times: number; each: string })
  | (StepBase & {
      kind: "replace";
      item: string;
      slots: string[];
      /** Only those found worn, at least one; every slot when absent. Format version 2. */
      some?: true;
    })
  /** Turned to its next edge or side while one is left, replaced after the last. */
  | (StepBase & { kind: "turn"; item: string; slots: string[] })
  /** Ways that practitioners differ on: the default is the first, with its reason. */
  | (StepBase & { kind: "choose"; question: string; schools: School[] })
  | (StepBase & { kind: "decide"; question: string; branches: { id: string; name: string; leadsTo?: string }[] })
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
  | (StepBase & {
      kind: "prove";
      expect: string;
      /** What is tried one by one: each stop, lamp, direction, with its place; the proof holds when each has been as expected. */
      functions?: { id: string; name: string; place?: string }[];
      proof?: "leak-check" | "test-piece" | "check-fluid" | "function-test" | "first-output";
    })
  | (StepBase & { kind: "hand-off"; to: string })
  /** The search for a fault's cause, its answer, for what the `decide` step `symptom` says. Made of a fault guide. */
  | (StepBase & {
      kind: "find";
      symptom: string;
      symptoms: FaultSymptom[];
      checks: FaultCheck[];
      causes: Omit<FaultCause, "remedy">[];
    })
  /** All steps of another procedure stand here; the version is pinned. */
  | (StepBase & { kind: "nested"; procedure: string; version: number });

/** How a solution is made up; volumes in mL. */
export type MixRecipe =
  | { by: "dilution"; stock: string; target: { percent: number } | { ppm: number }; finalMl: number }
  | { by: "parts"; parts: { item: string; parts: number }[]; finalMl: number }
  | { by: "additive"; item: string; additiveMl: number; tankMl: number };

/** A step in one round of its repeat block; round 1 outside such a block. */
export interface StepRef {
  step: string;
  round: number;
}

/** What the sheet must know about the machine in front of it. */
export interface MachineFacts {
  /** Ids of fitted options. */
  options: string[];
  /** What is known of the machine's slots: uses left of the piece in each. */
  slots?: Record<string, { item: string; usesLeft: number }>;
}

/** What is off, in the order in which it came off; `path` is the way it goes. */
export type Ledger = (TakenOff & { path?: string })[];

/** What the duty that set this one off left: states in force, parts off. */
export interface Begins {
  states?: string[];
  /** Id of the person whose locks they are. */
  heldBy?: string;
  /** The machine's own clean values, by reading: what ratios are of. */
  baselines?: Record<string, number>;
  off?: Ledger;
}
