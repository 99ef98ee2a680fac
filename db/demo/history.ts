import type { MachineFacts, Procedure, Step } from "../../core/index";
import { must } from "../../core/must";
import type { SheetScript } from "./simulate-sheet";

/** A sheet of the made-up year, to be worked by the simulation. */
export interface PastSheet {
  machineId: string;
  dutyId: string;
  procedure: Procedure;
  daysAgo: number;
  script: SheetScript;
}

export interface HistoryDuty {
  dutyId: string;
  procedure: Procedure;
  /** Days since it was last done, where the story wants it so. */
  lastDone?: number | undefined;
}

const YEAR = 365;
/** Daily work is shown for the last days alone: a year of it would be thousands of sheets like each other. */
const DAILY_SHEETS = 6;
const WEEKLY_SHEETS = 20;

/**
 * A year of sheets for one machine, invented and the same for the same seed: every duty at about its interval, readings that
 * drift towards their limits and are put right when they pass them, meters that run.
 */
export function pastYear(
  machine: {
    id: string;
    facts: MachineFacts;
    seed: number;
    /** Meter values that the story tells, with which the year's readings go together. */
    told?: Record<string, { daysAgo: number; value: number }[]>;
  },
  duties: readonly HistoryDuty[],
): PastSheet[] {
  const random = generator(machine.seed);
  const drift = new Drift(random, machine.told ?? {});
  const days = new Map(duties.map(({ procedure, lastDone }) => [procedure.id, daysOf(procedure, random, lastDone)]));
  for (const { procedure } of duties) {
    // A second half is done on the day after its first.
    const firstHalf = duties.find((one) =>
      (one.procedure.plan.emits ?? []).some(({ event }) => hasEvent(procedure, event)),
    );
    if (firstHalf && intervalDays(procedure) === null)
      days.set(
        procedure.id,
        must(days.get(firstHalf.procedure.id))
          .map((daysAgo) => daysAgo - 1)
          .filter((daysAgo) => daysAgo > 0),
      );
  }
  for (const { procedure } of duties) {
    // What may open a machine up goes with the work that it is not used before: both in one visit.
    const after = duties.find(
      (one) => one.procedure.plan.notUntil?.done && procedure.plan.covers?.includes(one.procedure.id),
    )?.procedure.plan.notUntil?.done;
    const together = after === undefined ? undefined : days.get(after);
    if (together) days.set(procedure.id, together);
  }
  const sheets = duties
    .flatMap(({ dutyId, procedure }) => must(days.get(procedure.id)).map((daysAgo) => ({ dutyId, procedure, daysAgo })))
    .sort((a, b) => b.daysAgo - a.daysAgo);
  // What was found is seen to, and not found a second time: nothing stands open for a year.
  const found = new Set<string>();
  const isFound = (procedureId: string, step: Step): boolean => {
    if (step.kind !== "inspect" || step.finding === "unsafe" || random() >= 0.05) return false;
    const name = `${procedureId} ${step.id}`;
    const again = step.finding !== undefined && found.has(name);
    found.add(name);
    return !again;
  };
  return sheets.map(({ dutyId, procedure, daysAgo }) => ({
    machineId: machine.id,
    dutyId,
    procedure,
    daysAgo,
    script: {
      readings: drift.readings(procedure, YEAR - daysAgo),
      notOk: procedure.steps.filter((step) => isFound(procedure.id, step)).map((step) => step.id),
      ...(random() < 0.15 ? { rounds: 2 } : {}),
      waited: overlong(procedure, random),
    },
  }));
}

function hasEvent(procedure: Procedure, event: string): boolean {
  return procedure.plan.triggers.some((trigger) => trigger.kind === "event" && trigger.event === event);
}

/** Days before today on which the duty was done. */
function daysOf(procedure: Procedure, random: () => number, lastDone: number | undefined): number[] {
  const interval = intervalDays(procedure);
  if (interval === null) return [];
  const most = interval <= 1 ? DAILY_SHEETS : interval <= 7 ? WEEKLY_SHEETS : Math.floor(YEAR / interval) + 1;
  // Most duties are in their interval, one in eight was let slip a little.
  const usual =
    interval <= 1
      ? 1
      : Math.max(1, Math.round(interval * (random() < 0.12 ? 1.05 + random() * 0.15 : 0.1 + random() * 0.8)));
  const days: number[] = [];
  for (
    let daysAgo = lastDone ?? usual;
    daysAgo < YEAR + interval && days.length < most;
    daysAgo += Math.max(1, Math.round(interval * (0.92 + random() * 0.16)))
  ) {
    if (daysAgo <= YEAR + 15) days.push(daysAgo);
  }
  return days;
}

const DAYS = { day: 1, week: 7, month: 30, year: 365 } as const;
/** What meters run in a day, about. */
const PER_DAY: Record<string, number> = {
  "running-hours": 4,
  "cutting-hours": 2,
  "power-on-hours": 7,
  "spindle-hours": 2.5,
  "axis-hours": 1.5,
  runs: 2,
  slides: 22,
};

function intervalDays(procedure: Procedure): number | null {
  const days = procedure.plan.triggers.map((trigger) =>
    trigger.kind === "calendar"
      ? trigger.every * DAYS[trigger.unit]
      : trigger.kind === "meter"
        ? Math.round(trigger.every / (PER_DAY[trigger.meter] ?? 3))
        : trigger.kind === "event" && EVENT_DAYS[trigger.event] !== undefined
          ? must(EVENT_DAYS[trigger.event])
          : Infinity,
  );
  const shortest = Math.min(...days);
  return Number.isFinite(shortest) ? Math.max(1, shortest) : null;
}

/** How often things happen that set duties off. */
const EVENT_DAYS: Record<string, number> = { "after-charge": 6, "after-run": 4, "ribbon-replaced": 45 };

/** Now and then a soak is forgotten. */
function overlong(procedure: Procedure, random: () => number): Record<string, number> {
  return Object.fromEntries(
    procedure.steps.flatMap((step) =>
      step.kind === "wait" && step.maxMinutes !== undefined && random() < 0.06 ? [[step.id, step.maxMinutes + 3]] : [],
    ),
  );
}

type Measure = Extract<Step, { kind: "measure" }>;

/** Readings over the year: each creeps from its good value towards a limit, and starts again when it was put right. */
class Drift {
  readonly #random: () => number;
  readonly #since = new Map<string, number>();
  readonly #meters = new Map<string, number>();
  /** How long the piece that is in lasts beside its fellows, by reading. */
  readonly #lasts = new Map<string, number>();
  readonly #told: Record<string, { daysAgo: number; value: number }[]>;

  constructor(random: () => number, told: Record<string, { daysAgo: number; value: number }[]>) {
    this.#random = random;
    this.#told = told;
  }

  readings(procedure: Procedure, day: number): Record<string, number[]> {
    const all: Record<string, number[]> = {};
    for (const step of procedure.steps) {
      if (step.kind !== "measure") continue;
      if (step.meter !== undefined) all[step.reading] = [this.#meter(step.meter, day)];
      else if (step.limits || LEFT_TO_THE_MAKER[step.reading]) all[step.reading] = this.#values(step, day);
    }
    return all;
  }

  #meter(meter: string, day: number): number {
    const told = this.#told[meter];
    if (told && told.length > 0) {
      // Between two values that are told; before the first and after the last as between those next to them.
      const daysAgo = YEAR - day;
      const later = told.findIndex((one, i) => i > 0 && one.daysAgo <= daysAgo);
      const after = must(told[later === -1 ? told.length - 1 : later]);
      const before = told[(later === -1 ? told.length - 1 : later) - 1] ?? after;
      const days = before.daysAgo - after.daysAgo;
      const perDay = days > 0 ? Math.max(0, after.value - before.value) / days : 0;
      return Math.max(0, Math.round(after.value - perDay * (daysAgo - after.daysAgo)));
    }
    const start = this.#meters.get(meter) ?? Math.round(200 + this.#random() * 2000);
    this.#meters.set(meter, start);
    return Math.round(start + (PER_DAY[meter] ?? 3) * day);
  }

  #values(step: Measure, day: number): number[] {
    const { good, bad, days = 300 } = LEFT_TO_THE_MAKER[step.reading] ?? rangeOf(step);
    const begun = this.#since.get(step.reading) ?? -Math.round(this.#random() * 150);
    this.#since.set(step.reading, begun);
    const width = bad - good;
    // About ten months from as new to the limit, where nothing else is told.
    const worn = good + width * ((day - begun) / (days * (this.#lasts.get(step.reading) ?? 1)));
    const count = step.points?.length ?? step.trials ?? 1;
    const around = (value: number): number =>
      round(value + (this.#random() - 0.5) * Math.abs(width) * 0.08, Math.abs(width), step.unit);
    const values = Array.from({ length: count }, () => around(worn));
    const isPast = (value: number): boolean => (width > 0 ? value > bad : value < bad);
    // A part is renewed by what was read off it; what is set right, by where it stands.
    const past = step.wears ? values.some(isPast) : isPast(worn);
    if (step.judge === "spread")
      return Array.from({ length: count }, () => round(1.265 + (this.#random() - 0.5) * 0.02, 0.05));
    if (!past) return step.stage === "as-left" ? Array.from({ length: count }, () => around(good)) : values;
    this.#since.set(step.reading, day);
    if (step.wears) this.#lasts.set(step.reading, 0.8 + this.#random() * 0.4);
    const fixed = Array.from({ length: count }, () => around(good));
    return step.stage === "as-left" ? fixed : step.retest ? [...values, ...fixed] : values;
  }
}

/** What the made-up machines read where a sheet leaves the limit to the maker: as new, worn, and the days in between. */
const LEFT_TO_THE_MAKER: Record<string, { good: number; bad: number; days?: number }> = {
  "wear-plate-thickness": { good: 12, bad: 6, days: 1500 },
  "belt-thickness": { good: 14, bad: 8, days: 2000 },
  "catenary-sag": { good: 60, bad: 110, days: 1500 },
  "tank-distilled-water": { good: 2925, bad: 2925 },
};

/** Where a reading stands when all is well, and the limit that it creeps towards. */
function rangeOf(step: Measure): { good: number; bad: number; days?: number } {
  const { min, max, above, below } = must(step.limits);
  const low = min ?? above;
  const high = max ?? below;
  if (low !== undefined && high !== undefined) {
    // Limits that begin at zero are ceilings: gaps, drops, missing nozzles.
    if (low === 0) return { good: step.target ?? high * 0.3, bad: high };
    return { good: step.target ?? (low + high) / 2, bad: high };
  }
  // Anything above nothing will do: the size of a backup, that grows and is tidied up.
  if (low === 0) return { good: step.target ?? 420, bad: 380 };
  if (low !== undefined) return { good: step.target ?? low * 1.6, bad: low };
  return { good: step.target ?? must(high) * 0.4, bad: must(high) };
}

/** What is counted comes whole; no instrument of a van shows more than thousandths. */
function round(value: number, width: number, unit = ""): number {
  if (unit === "nozzles") return Math.max(0, Math.round(value));
  const digits = Math.max(0, 2 - Math.floor(Math.log10(width || 1)));
  return Number(value.toFixed(Math.min(3, digits)));
}

/** Small generator with a seed (mulberry32): the demo is the same on every load. */
function generator(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}
