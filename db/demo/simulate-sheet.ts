import {
  type AsFound,
  foldRun,
  GuideSearch,
  jugMl,
  type MachineFacts,
  type MixRecipe,
  nextSteps,
  type Procedure,
  recipeAmounts,
  type RunEvent,
  type RunEventBody,
  type Shown,
  statesInForce,
  type Step,
  UNKNOWN_CAUSE,
} from "../../core/index";
import { must } from "../../core/must";

/** What the demo wants to come out of a sheet; everything else goes as it should. */
export interface SheetScript {
  /** Readings by name; several are given one after another (points, retests). */
  readings?: Record<string, number[]>;
  /** Inspections that are not as they should be. */
  notOk?: string[];
  /** Rounds until a repeat block is clean, default 1. */
  rounds?: number;
  /** Answers of choices and decisions by step id; the first one when not given. */
  answers?: Record<string, string>;
  /** Length of waits by step id, in minutes; one over the minimum when not given. */
  waited?: Record<string, number>;
  /** Actual strength of stock solutions by item, in percent; as on the material list when not given. */
  strengths?: Record<string, number>;
  /** Places that get a new part, by step id, where those found worn alone are renewed; the first one when not given. */
  worn?: Record<string, string[]>;
  /** How the machine was found; said by nobody when not given. */
  found?: AsFound;
  /** What a fault's sheet comes to find, a cause of its guide; nothing when not given. */
  cause?: string;
  /** What a practice machine shows, read off it as it is. */
  shows?: (step: Step, at: { round: number; attempt: number; minute: number }) => Shown | null;
}

/**
 * Works a sheet from the safety gate to the last step, as a careful technician would, and gives its log without the
 * signatures. Times run on from `startMs`; nothing is random.
 */
export function simulateSheet(input: Simulated): RunEvent[] {
  return new Worker(input).work();
}

interface Simulated {
  procedure: Procedure;
  machine: MachineFacts;
  sheetId: string;
  by: string;
  startMs: number;
  newId: () => string;
  started: Extract<RunEventBody, { type: "started" }>;
  script?: SheetScript;
}

type At = { step: string; round: number };
type StepOf<Kind extends Step["kind"]> = Extract<Step, { kind: Kind }>;

class Worker {
  readonly #input: Simulated;
  readonly #script: SheetScript;
  readonly #given: Map<string, number[]>;
  readonly #entries: RunEvent[] = [];
  #clock: number;
  /** How often each step's values were read, by step and round. */
  readonly #attempts = new Map<string, number>();

  constructor(input: Simulated) {
    this.#input = input;
    this.#script = input.script ?? {};
    // Worked out with binary fractions, read off an instrument: 3.2, not 3.1999999999999997.
    const read = (value: number): number => Number(value.toPrecision(12));
    this.#given = new Map(
      Object.entries(this.#script.readings ?? {}).map(([name, values]) => [name, values.map(read)]),
    );
    this.#clock = input.startMs;
  }

  work(): RunEvent[] {
    const { procedure, machine, started } = this.#input;
    this.#log(started, 0);
    for (;;) {
      const state = foldRun(procedure, this.#entries);
      const open = new Map(nextSteps(procedure, state, machine).map((one) => [one.step, one]));
      // In the sheet's own order, whichever way it stands on.
      const step = procedure.steps.find((one) => open.has(one.id));
      if (!step) {
        const { found } = this.#input.script ?? {};
        if (found) this.#log({ type: "as-found", found }, 0.1);
        return this.#entries;
      }
      const next = must(open.get(step.id));
      const running = state.steps[step.id]?.status === "running";
      if (step.kind !== "wait" || !running) this.#use(step, next);
      if (isPartStep(step)) this.#fit(step, next);
      else this.#workStep(step, next, running);
    }
  }

  #log(body: RunEventBody, minutes = 0.5): void {
    const { newId, sheetId: runId, by } = this.#input;
    this.#clock += Math.round(minutes * 60_000);
    this.#entries.push({ id: newId(), runId, at: new Date(this.#clock).toISOString(), by, device: "demo", ...body });
  }

  #use(step: Step, at: At): void {
    for (const use of step.uses ?? []) {
      const material = must(this.#input.procedure.materials.find((one) => one.item === use.item));
      this.#log({ type: "consumable-used", ...at, item: use.item, qty: use.qty, unit: material.unit });
    }
  }

  #done(at: At, minutes: number, answer?: string): void {
    this.#log({ type: "step-done", ...at, ...(answer === undefined ? {} : { answer }) }, minutes);
  }

  #prove(step: StepOf<"prove">, at: At): void {
    const results = step.functions?.map((one) => ({ function: one.id, ok: true }));
    this.#log({ type: "step-done", ...at, answer: "ok", ...(results ? { results } : {}) }, step.minutes ?? 4);
  }

  #workStep(step: Exclude<Step, StepOf<"replace" | "turn">>, at: At, running: boolean): void {
    const script = this.#script;
    switch (step.kind) {
      case "safety":
        this.#makeSafe(step, at);
        return;
      case "inspect":
        this.#inspect(step, at);
        return;
      case "measure":
        this.#measure(step, at);
        return;
      case "reset":
        this.#log({ type: "reading", ...at, value: step.expect, unit: "count" }, 1);
        return;
      case "wait":
        this.#wait(step, at, running);
        return;
      case "count":
        for (let i = 0; i < step.times; i++) this.#log({ type: "counted", ...at }, 0.7);
        return;
      case "mix":
        this.#log({ type: "mixed", ...at, ...this.#mixture(step.recipe) }, step.minutes ?? 4);
        return;
      case "choose":
      case "decide": {
        const first = must((step.kind === "choose" ? step.schools : step.branches)[0]).id;
        this.#done(at, 1, script.answers?.[step.id] ?? first);
        return;
      }
      case "nested":
        throw new Error(`"${step.id}" must be expanded before the sheet is worked.`);
      case "repeat":
        this.#done(at, 1, this.#isAgain(step, at) ? "again" : "clean");
        return;
      case "prove":
        this.#prove(step, at);
        return;
      case "find":
        this.#search(step, at);
        return;
      case "do":
      case "hand-off":
        this.#done(at, step.minutes ?? 4);
    }
  }

  /** The demo does not work meanwhile: it comes back one minute after the minimum. */
  #wait(step: StepOf<"wait">, at: At, running: boolean): void {
    if (!running) this.#log({ type: "timer-started", ...at });
    this.#log({ type: "timer-stopped", ...at }, this.#script.waited?.[step.id] ?? step.minMinutes + 1);
  }

  #shown(step: Step, { round }: At, attempt = 0): Shown | null {
    const minute = (this.#clock - this.#input.startMs) / 60_000;
    return this.#script.shows?.(step, { round, attempt, minute }) ?? null;
  }

  #isAgain(step: StepOf<"repeat">, at: At): boolean {
    const shown = this.#shown(step, at);
    return shown?.kind === "again" ? shown.isAgain : at.round < (this.#script.rounds ?? 1);
  }

  /** The guide's next check, until one shows the cause; without one, what is left is somebody else's. */
  #search(step: StepOf<"find">, at: At): void {
    const { procedure, machine } = this.#input;
    const run = foldRun(procedure, this.#entries);
    const { steps } = run;
    const search = new GuideSearch({
      ...{ step, states: procedure.states ?? [], symptom: must(steps[step.symptom]?.answer) },
      ...{ options: machine.options, checks: steps[step.id]?.checks ?? [], inside: statesInForce(procedure, run) },
    });
    const next = search.open.find((one) => one.chance > 0);
    if (!next) {
      this.#done(at, 0.5, UNKNOWN_CAUSE);
      return;
    }
    for (const { state, way } of next.gates)
      this.#log(
        { type: "gate-passed", ...at, state: state.id, way },
        (state.in.minutes ?? 1) + (state.in.waitMinutes ?? 0),
      );
    const { cause } = this.#script;
    const isIt = next.check.finds.some((one) => one.cause === cause);
    const seen = isIt && cause !== undefined ? { result: "found" as const, cause } : { result: "clear" as const };
    this.#log({ type: "checked", ...at, check: next.check.id, ...seen }, next.check.minutes);
  }

  #coolDown(step: StepOf<"safety">, at: At): void {
    for (let shown = this.#shown(step, at); shown?.kind === "surface"; shown = this.#shown(step, at)) {
      this.#log({ type: "reading", ...at, value: shown.celsius, unit: "°C" }, 0);
      if (shown.celsius < (step.coolDown?.belowC ?? Infinity)) return;
      this.#clock += 10 * 60_000;
    }
  }

  #makeSafe(step: StepOf<"safety">, at: At): void {
    this.#coolDown(step, at);
    const { belowC, minutes } = this.#script.shows && step.coolDown?.belowC !== undefined ? {} : (step.coolDown ?? {});
    if (belowC !== undefined) this.#log({ type: "reading", ...at, value: Math.round(belowC * 0.8), unit: "°C" }, 20);
    else if (minutes !== undefined) {
      this.#log({ type: "timer-started", ...at }, 1);
      this.#clock += minutes * 60_000;
    }
    this.#log({ type: "safety-confirmed", ...at }, step.minutes ?? 3);
  }

  #inspect(step: StepOf<"inspect">, at: At): void {
    const shown = this.#shown(step, at);
    const ok = shown?.kind === "state" ? shown.isGood : !this.#script.notOk?.includes(step.id);
    this.#done(at, step.minutes ?? 2, ok ? "ok" : "not-ok");
    if (!ok && step.finding) this.#log({ type: "finding", ...at, text: step.ifNot, severity: step.finding }, 1);
  }

  #measure(step: StepOf<"measure">, at: At): void {
    const points = step.points?.length ?? step.trials ?? 1;
    const key = `${at.step}#${at.round}`;
    const attempt = this.#attempts.get(key) ?? 0;
    this.#attempts.set(key, attempt + 1);
    const shown = this.#shown(step, at, attempt);
    for (let point = 0; point < points; point++) {
      const which = step.points || step.trials ? { point } : {};
      const value = shown?.kind === "values" ? must(shown.values[point]) : this.#valueFor(step);
      this.#log({ type: "reading", ...at, value, unit: step.unit, ...which }, 1.5);
    }
  }

  #fit(step: StepOf<"replace" | "turn">, at: At): void {
    const some = step.kind === "replace" && step.some === true;
    const shown = this.#shown(step, at);
    const worn = shown?.kind === "worn" ? shown.slots : this.#script.worn?.[step.id];
    for (const slot of some ? (worn ?? step.slots.slice(0, 1)) : step.slots) {
      const left = step.kind === "turn" ? (this.#input.machine.slots?.[slot]?.usesLeft ?? 0) : 0;
      if (left > 1) this.#log({ type: "part-turned", ...at, item: step.item, slot, usesLeft: left - 1 }, 4);
      else this.#log({ type: "part-fitted", ...at, item: step.item, slot, qty: 1 }, 6);
    }
    if (some) this.#done(at, 0.5);
  }

  #mixture(recipe: MixRecipe): Pick<Extract<RunEventBody, { type: "mixed" }>, "amounts" | "finalMl" | "stockPercent"> {
    const finalMl = recipe.by === "additive" ? recipe.tankMl : recipe.finalMl;
    const stockPercent = recipe.by === "dilution" ? this.#strengthOf(recipe.stock) : undefined;
    const amounts = recipeAmounts(recipe, finalMl, stockPercent).map(({ item, ml }) => ({ item, ml: jugMl(ml) }));
    return { amounts, finalMl, ...(stockPercent === undefined ? {} : { stockPercent }) };
  }

  #strengthOf(stock: string): number {
    const listed = this.#input.procedure.materials.find((one) => one.item === stock)?.stockPercent;
    return this.#script.strengths?.[stock] ?? listed ?? 5;
  }

  #valueFor(step: StepOf<"measure">): number {
    // When the script has no more values, what is measured is as it should be: a retest comes to an end.
    const scripted = this.#given.get(step.reading)?.shift();
    if (scripted !== undefined) return scripted;
    if (step.target !== undefined) return step.target;
    const { min, max, above, below } = step.limits ?? {};
    const low = min ?? above;
    const high = max ?? below;
    if (low !== undefined && high !== undefined) return (low + high) / 2;
    const value = low === undefined ? (high ?? 0) * 0.5 : low === 0 ? 1 : low * 1.2;
    return Math.max(value, step.possible?.min ?? value);
  }
}

const isPartStep = (step: Step): step is StepOf<"replace" | "turn"> => step.kind === "replace" || step.kind === "turn";
