import type { MachineState, Step } from "./procedure";

/** What the states of a procedure do to each other. */
export class StateRules {
  readonly order: readonly string[];
  readonly #byId: ReadonlyMap<string, MachineState>;
  readonly #excluded: ReadonlyMap<string, ReadonlySet<string>>;

  constructor(states: readonly MachineState[]) {
    this.order = states.map((state) => state.id);
    this.#byId = new Map(states.map((state) => [state.id, state]));
    const excluded = new Map(states.map((state) => [state.id, new Set<string>()]));
    for (const state of states)
      for (const other of state.excludes ?? []) {
        excluded.get(state.id)?.add(other);
        excluded.get(other)?.add(state.id);
      }
    this.#excluded = excluded;
  }

  get(id: string): MachineState | undefined {
    return this.#byId.get(id);
  }

  /** What a step needs, in the order in which a machine gets there; names that are no states are left out. */
  needs(step: Step): string[] {
    const named = step.state;
    return !named || named.length === 0 ? [] : this.order.filter((id) => named.includes(id));
  }

  /**
   * The way back: what a machine gets to last is left first, whenever it was entered. A lock that was off for a trial and is
   * on again comes off after what was opened behind it has been closed.
   */
  lastFirst(states: readonly string[]): string[] {
    return this.order.filter((id) => states.includes(id)).reverse();
  }

  /** Whether two states cannot be in force together. */
  exclude(a: string, b: string): boolean {
    return this.#excluded.get(a)?.has(b) ?? false;
  }

  /** Whether getting into one state ends another: with its check out, or without. */
  ends(entered: string, other: string): boolean {
    return this.exclude(entered, other) || (this.#byId.get(other)?.lostBy?.includes(entered) ?? false);
  }
}

/** The gate that a step is, when `placeGates` put it there. */
export function gateOf(step: Step): { state: string; way: "in" | "out" } | undefined {
  return step.kind === "safety" ? step.gate : undefined;
}
