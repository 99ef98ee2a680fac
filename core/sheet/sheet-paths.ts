import type { SheetStep } from "./next-steps";
import { pathsOfParts } from "./parts";
import type { Procedure } from "./procedure";
import type { RunState } from "./run-state";
import { statesInForce } from "./standing-gates";
import { gateOf, StateRules } from "./states";

/**
 * The steps of a sheet without those of paths that were never opened, and without refits of what never came off: what opens
 * them was left out, or is not on this machine.
 */
export function withoutIdlePaths(procedure: Procedure, shown: SheetStep[], state: RunState): SheetStep[] {
  if (!procedure.steps.some((step) => step.opens ?? step.takesOff)) return shown;
  // What came off in a pass that is over is off all the same.
  const came = [...(state.begins?.off ?? []), ...state.ledger];
  /** Paths and items that some step of the procedure opens or takes off, and those of which one still may, or did. */
  const [named, live] = [new Set<string>(), new Set<string>()];
  const note = (into: Set<string>, step: SheetStep["definition"]): void => {
    if (step.opens !== undefined) into.add(`path ${step.opens}`);
    for (const { item } of step.takesOff ?? []) into.add(`item ${item}`);
  };
  for (const step of procedure.steps) note(named, step);
  for (const { item, path } of came) {
    live.add(`item ${item}`);
    if (path !== undefined) live.add(`path ${path}`);
  }
  return shown.filter((one) => {
    const { definition } = one;
    const isIdle = (key: string): boolean => named.has(key) && !live.has(key);
    const logged = one.state !== null && one.state.status !== "open";
    const idle =
      (definition.path !== undefined && isIdle(`path ${definition.path}`)) ||
      (definition.putsBack !== undefined &&
        definition.putsBack.length > 0 &&
        definition.putsBack.every(({ item }) => isIdle(`item ${item}`)));
    if (idle && !logged) return false;
    const { status = "open" } = one.state ?? {};
    if (status !== "skipped" && status !== "not-applicable") note(live, definition);
    return true;
  });
}

/** The ways that work goes on a sheet: the machine's own, and those of parts on the bench. */
export class SheetPaths {
  /** Steps of each way, in order; the machine's own first, under null. */
  readonly lanes = new Map<string | null, SheetStep[]>([[null, []]]);
  readonly #procedure: Procedure;
  readonly #state: RunState;
  readonly #openers = new Map<string, SheetStep[]>();
  /** Paths that parts of each kind go. */
  readonly #pathsOf: Map<string, Set<string>>;
  readonly #place = new Map<SheetStep, number>();
  /** Open steps on the bench that need the machine in some state. */
  readonly #needing: SheetStep[] = [];
  readonly #rules: StateRules;
  /** What is off the machine by the log, or was when the sheet began. */
  readonly #off: readonly { item: string; path?: string }[];
  #inForce: Set<string> | null = null;

  constructor(procedure: Procedure, shown: readonly SheetStep[], state: RunState) {
    this.#procedure = procedure;
    this.#state = state;
    this.#rules = new StateRules(procedure.states ?? []);
    this.#off = [...(state.begins?.off ?? []), ...state.ledger];
    this.#pathsOf = pathsOfParts(shown.map((one) => one.definition));
    shown.forEach((one, place) => {
      const { path, opens } = one.definition;
      this.#place.set(one, place);
      const lane = this.lanes.get(path ?? null);
      if (lane) lane.push(one);
      else this.lanes.set(path ?? null, [one]);
      if (path !== undefined && !one.settled && (one.definition.state ?? []).length > 0) this.#needing.push(one);
      if (opens !== undefined) this.#openers.set(opens, [...(this.#openers.get(opens) ?? []), one]);
    });
    for (const { item, path } of this.#off)
      if (path !== undefined) this.#pathsOf.set(item, (this.#pathsOf.get(item) ?? new Set()).add(path));
  }

  /** Whether the parts of a path are on their way: all that open it have been done, or were left out. */
  isOpen(path: string): boolean {
    const openers = this.#openers.get(path);
    if (!openers) return this.#off.some((one) => one.path === path);
    return openers.every((one) => one.settled) && openers.some((one) => one.state?.status === "done");
  }

  hasEnded(path: string): boolean {
    return (this.lanes.get(path) ?? []).every((one) => one.settled);
  }

  /** Whether a step, the first of its way, has to wait for another way. */
  isHeld(one: SheetStep): boolean {
    const { definition } = one;
    if (definition.path !== undefined) return !this.hasItsState(one);
    for (const { item } of definition.putsBack ?? [])
      for (const path of this.#pathsOf.get(item) ?? []) if (!this.hasEnded(path)) return true;
    // The machine leaves no state that work on the bench before it still needs.
    if (gateOf(definition)) {
      const place = this.#place.get(one) ?? 0;
      return this.#needing.some((other) => (this.#place.get(other) ?? 0) < place);
    }
    return (definition.kind === "prove" || definition.kind === "hand-off") && this.holdsProof();
  }

  /** Whether something is off that has to be back on before anything is proven. */
  holdsProof(): boolean {
    const left = this.#procedure.leaves?.off ?? [];
    if (this.#state.ledger.some((one) => !left.includes(one.item))) return true;
    return [...this.#openers].some(([path, openers]) => {
      const items = openers.flatMap((one) => (one.definition.takesOff ?? []).map(({ item }) => item));
      const stays = items.length > 0 && items.every((item) => left.includes(item));
      return !stays && this.isOpen(path) && !this.hasEnded(path);
    });
  }

  /** Whether a gate would end a state that one of some steps needs. */
  endsAny(gate: SheetStep, needing: readonly SheetStep[]): boolean {
    const { state, way } = gateOf(gate.definition) ?? {};
    return needing
      .flatMap((one) => this.#rules.needs(one.definition))
      .some((other) => (way === "out" ? other === state : state !== undefined && this.#rules.ends(state, other)));
  }

  /** Whether what a step puts back has come off. */
  isOff({ definition }: SheetStep): boolean {
    return (definition.putsBack ?? []).every(({ item }) => this.#off.some((one) => one.item === item));
  }

  /** Whether what a step needs the machine to be in is in force. */
  hasItsState(one: SheetStep): boolean {
    const needs = this.#rules.needs(one.definition);
    if (needs.length === 0) return true;
    this.#inForce ??= statesInForce(this.#procedure, this.#state);
    return needs.every((state) => this.#inForce?.has(state));
  }
}
