import { CoreError } from "../errors";
import { requireList, requireRecord } from "../inputs";
import { must } from "../must";
import { comesOff, goesBackOn } from "./parts";
import type { MachineState, Procedure, Step } from "./procedure";
import { gateOf, StateRules } from "./states";
import { withDefaults } from "./terse";

type Gate = Extract<Step, { kind: "safety" }>;
/** Steps that one stay in a state is for; its gates list them. */
type Stay = string[];

/** What is in force on the way through the steps. */
interface Inside {
  /** In force for every step that is added to the stay, with the place where that begins. */
  surely: Map<string, number>;
  /** On some sheet, or in some pass, with the stays that it may be then; in the order in which it was entered. */
  perhaps: Map<string, Stay[]>;
  /** Left for steps that a sheet may be without, with the stays: a later pass may begin in it all the same. */
  leftPerhaps: Map<string, Stay[]>;
}

type AtEnd = Pick<Inside, "surely" | "perhaps">;

/**
 * Puts the gates into the states that a procedure's steps need, and out of them, where the state changes: what is isolated
 * stays isolated, what is cool stays cool until something ends it, and the way out comes before the first step that needs what
 * the state excludes, else behind the last step that needs it. What `leaves` names is left as it is.
 *
 * A gate lists in `serves` the steps of its stay. Where a step stands under a condition, or in a block that is done again, more
 * gates are put than one machine's sheet needs: `sheetSteps` shows those that change something.
 *
 * @param given with nested procedures in place; what a file leaves out may be left out
 * @returns the same with gates `gate-<state>-in-<n>` and `gate-<state>-out-<n>`; gates that were there before are put anew
 * @throws CoreError `bad-value` when procedures are still nested
 */
export function placeGates(given: Procedure): Procedure {
  const expanded = withDefaults(requireRecord(given, "procedure")) as Procedure;
  requireList(expanded.steps, "procedure.steps");
  const nested = expanded.steps.find((step) => step.kind === "nested");
  if (nested)
    throw new CoreError(
      "bad-value",
      `steps.${nested.id}`,
      `Gates are put into a procedure with its nested procedures in place; "${nested.id}" still nests one.`,
    );
  const bare = withoutGates(expanded);
  if (!bare.states || bare.states.length === 0) return bare;
  return new GatePlacer(bare, bare.states).place();
}

/** The procedure without gates that were put into it; a block that began with one begins with the step behind it. */
function withoutGates(procedure: Procedure): Procedure {
  if (!procedure.steps.some(gateOf)) return procedure;
  const behind = new Map<string, string>();
  let waiting: string[] = [];
  for (const step of procedure.steps) {
    if (gateOf(step)) waiting.push(step.id);
    else {
      for (const gate of waiting) behind.set(gate, step.id);
      waiting = [];
    }
  }
  return {
    ...procedure,
    steps: procedure.steps
      .filter((step) => !gateOf(step))
      .map((step) => (step.kind === "repeat" ? { ...step, from: behind.get(step.from) ?? step.from } : step)),
  };
}

class GatePlacer {
  readonly #procedure: Procedure;
  readonly #rules: StateRules;
  /** By the step that a block begins with, where it ends. */
  readonly #blockEnd = new Map<number, number>();
  /** By the place where a block ends, what is in force there: a later pass begins with it. */
  #atEnd = new Map<number, AtEnd>();
  /** Gates before each step, and behind the last. */
  #before: Gate[][] = [];
  #stays = new Map<string, Stay>();
  #served = new Map<Gate, Stay[]>();
  readonly #kept: ReadonlySet<string>;

  constructor(procedure: Procedure, states: readonly MachineState[]) {
    this.#procedure = procedure;
    this.#rules = new StateRules(states);
    this.#kept = new Set(procedure.leaves?.states ?? []);
    const place = new Map(procedure.steps.map((step, i) => [step.id, i]));
    procedure.steps.forEach((step, i) => {
      const from = step.kind === "repeat" ? place.get(step.from) : undefined;
      if (from !== undefined && from <= i) this.#blockEnd.set(from, Math.max(i, this.#blockEnd.get(from) ?? 0));
    });
  }

  place(): Procedure {
    const { steps } = this.#procedure;
    // What a later pass begins with is known once the block was gone through: until nothing new comes of it.
    for (let known = ""; ;) {
      const inside = this.#goThrough();
      const now = JSON.stringify(
        [...this.#atEnd].map(([at, end]) => [at, [...end.surely].sort(), [...end.perhaps.keys()].sort()]),
      );
      if (now === known) {
        this.#leaveAtTheEnd(inside);
        break;
      }
      known = now;
    }
    const numbers = new Map<string, number>();
    const placed: Step[] = [];
    const firstOf = new Map<string, string>();
    for (let i = 0; i <= steps.length; i++) {
      const step = steps[i];
      for (const gate of this.#before[i] ?? []) {
        const { state, way } = must(gate.gate);
        const n = (numbers.get(`${state} ${way}`) ?? 0) + 1;
        numbers.set(`${state} ${way}`, n);
        const id = `gate-${state}-${way}-${n}`;
        placed.push({ ...gate, id, serves: [...new Set(must(this.#served.get(gate)).flat())] });
        if (step && !firstOf.has(step.id)) firstOf.set(step.id, id);
      }
      if (step) placed.push(step);
    }
    return {
      ...this.#procedure,
      steps: placed.map((step) => {
        if (step.kind !== "repeat") return step;
        const from = steps.findIndex((one) => one.id === step.from);
        return from >= 0 && this.#changesAtStart(from) ? { ...step, from: firstOf.get(step.from) ?? step.from } : step;
      }),
    };
  }

  /** Goes through all steps once. @returns what is in force at the end */
  #goThrough(): Inside {
    const { steps } = this.#procedure;
    this.#before = Array.from({ length: steps.length + 1 }, () => []);
    this.#stays = new Map();
    this.#served = new Map();
    const inside: Inside = { surely: new Map(), perhaps: new Map(), leftPerhaps: new Map() };
    const atEnd = new Map<number, AtEnd>();
    const ends = new Set(this.#blockEnd.values());
    steps.forEach((step, i) => {
      const end = this.#blockEnd.get(i);
      const before = end === undefined ? undefined : this.#atEnd.get(end);
      if (before) {
        // Only what is never left in the block is in force in every pass, and not what is left and entered again.
        for (const [state, since] of inside.surely) if (before.surely.get(state) !== since) inside.surely.delete(state);
        for (const [state, stays] of before.perhaps)
          inside.perhaps.set(state, [...(inside.perhaps.get(state) ?? []), ...stays]);
      }
      this.#enter(step, i, inside);
      if (ends.has(i))
        atEnd.set(i, {
          surely: new Map(inside.surely),
          perhaps: new Map([...inside.leftPerhaps, ...inside.perhaps]),
        });
    });
    this.#atEnd = atEnd;
    return inside;
  }

  /** Gates before one step, and what is in force behind it. */
  #enter(step: Step, i: number, inside: Inside): void {
    // Whatever its checks needed may be in force behind a search, and nothing surely is.
    if (step.kind === "find") {
      inside.surely.clear();
      for (const state of this.#rules.order)
        inside.perhaps.set(state, [...(inside.perhaps.get(state) ?? []), [step.id]]);
      return;
    }
    const needs = this.#rules.needs(step);
    if (!step.when?.length)
      for (const state of inside.leftPerhaps.keys())
        if (needs.some((one) => this.#rules.ends(one, state))) inside.leftPerhaps.delete(state);
    const missing = needs.filter((state) => !inside.surely.has(state));
    const ended = [...inside.perhaps.keys()].filter(
      (state) => !needs.includes(state) && needs.some((one) => this.#rules.ends(one, state)),
    );
    for (const state of this.#rules.lastFirst(ended)) {
      const asked = needs.some((one) => this.#rules.exclude(one, state));
      const stays = must(inside.perhaps.get(state));
      if (asked) this.#put(state, "out", i, stays);
      if ((step.when ?? []).length > 0) inside.leftPerhaps.set(state, stays);
      // On a sheet without the step it may stay in force: then the next step to matter needs it, and enters it here again.
      inside.surely.delete(state);
      inside.perhaps.delete(state);
    }
    for (const state of missing) {
      const stay: Stay = [];
      const known = inside.perhaps.get(state) ?? [];
      this.#stays.set(state, stay);
      this.#put(state, "in", i, [stay]);
      inside.surely.set(state, i);
      inside.perhaps.delete(state);
      inside.perhaps.set(state, [...known, stay]);
    }
    for (const state of needs) this.#stays.get(state)?.push(step.id);
  }

  #put(state: string, way: "in" | "out", at: number, served: Stay[]): void {
    const definition = must(this.#rules.get(state));
    const check = way === "in" ? definition.in : definition.out;
    if (!check) return;
    const { in: into } = definition;
    const { belowC, waitMinutes } = into;
    const cools = way === "in" && (belowC !== undefined || waitMinutes !== undefined);
    const gate: Gate = {
      id: "",
      kind: "safety",
      title: way === "in" ? definition.name : `End of: ${definition.name}`,
      ...(check.cautions ? { text: check.cautions.join(" ") } : {}),
      ...(check.minutes === undefined ? {} : { minutes: check.minutes }),
      checks: check.checks,
      ...(way === "in" && into.gates ? { gates: into.gates } : {}),
      ...(cools
        ? {
            coolDown: {
              ...(belowC === undefined ? {} : { belowC }),
              ...(waitMinutes === undefined ? {} : { minutes: waitMinutes }),
            },
          }
        : {}),
      gate: { state, way },
    };
    must(this.#before[at]).push(gate);
    // The stay itself: what is done later in it is served by its gates too.
    this.#served.set(gate, served);
  }

  /** The ways out of what nothing has ended, behind the last step that needs it or moves a part. */
  #leaveAtTheEnd(inside: Inside): void {
    const { steps } = this.#procedure;
    const moved = steps.findLastIndex((step) => comesOff(step).length > 0 || goesBackOn(step).length > 0);
    // Each goes before what stands there: what a machine gets to last is left first.
    for (const state of this.#rules.order) {
      const stays = inside.perhaps.get(state);
      if (!stays || this.#kept.has(state)) continue;
      let last = Math.max(
        moved,
        steps.findLastIndex((step) => step.kind === "find" || step.state?.includes(state)),
      );
      // A fault is proven on a machine that is as it was: a search that goes on after it goes its own ways into states.
      const proof = steps.findIndex((step, i) => i > last && step.kind === "prove");
      if (proof >= 0 && steps.some((step) => step.kind === "find")) last = proof - 1;
      // Not before the block that it is needed in is over.
      else for (const [from, end] of this.#blockEnd) if (last >= from && last <= end) last = end;
      const gates = must(this.#before[last + 1]);
      const there = gates.splice(0);
      this.#put(state, "out", last + 1, stays);
      gates.push(...there);
    }
  }

  /** Whether a later pass of the block that begins here begins with a gate. */
  #changesAtStart(from: number): boolean {
    const end = this.#blockEnd.get(from);
    const later = end === undefined ? undefined : this.#atEnd.get(end);
    return (
      later !== undefined &&
      must(this.#before[from]).some((gate) => {
        const { state, way } = must(gate.gate);
        return way === "in" ? later.surely.get(state) !== from : later.perhaps.has(state);
      })
    );
  }
}
