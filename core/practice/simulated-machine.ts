import { CoreError } from "../errors";
import type { MachineState } from "../sheet/procedure";
import { goThrough } from "../sheet/standing-gates";
import { StateRules } from "../sheet/states";
import type { FamilyModel } from "./family-models";

/** Temperature of the room, °C. */
export const ROOM_C = 22;
/** Warms up so many times faster than it cools down. */
const WARMING = 4;

/**
 * A machine that does not exist: what it is in, how warm it is, and which waits have begun. It was in use a moment ago. Its time is
 * minutes since somebody stands before it.
 *
 * Newton's law of cooling, with a time constant of the family.
 */
export class SimulatedMachine {
  minute = 0;
  readonly inside = new Set<string>();
  /** Minute at which the clock of a state that takes its time was begun. */
  readonly begun = new Map<string, number>();
  readonly #rules: StateRules;
  readonly #model: FamilyModel;
  /** States that warm it up: those that end one in which it is cool. */
  readonly #warming: readonly string[];
  #surfaceC: number;

  constructor(states: readonly MachineState[], model: FamilyModel) {
    this.#rules = new StateRules(states);
    this.#model = model;
    this.#surfaceC = model.warmC;
    const cool = states.filter((one) => one.in.belowC !== undefined || one.in.gates?.includes("cool-down"));
    this.#warming = states.flatMap(({ id }) => (cool.some((one) => this.#rules.ends(id, one.id)) ? [id] : []));
  }

  get surfaceC(): number {
    return this.#surfaceC;
  }

  get rules(): StateRules {
    return this.#rules;
  }

  /** @throws CoreError of a state that it does not have */
  state(id: string): MachineState {
    const state = this.#rules.get(id);
    if (!state) throw new CoreError("unknown-reference", "state", `This machine has no state “${id}”.`);
    return state;
  }

  pass(minutes: number): void {
    const isWarmed = this.#warming.some((id) => this.inside.has(id));
    const towards = isWarmed ? this.#model.warmC : ROOM_C;
    const halves = this.#model.halvesInMinutes / (isWarmed ? WARMING : 1);
    this.#surfaceC = towards + (this.#surfaceC - towards) * 0.5 ** (minutes / halves);
    this.minute += minutes;
  }

  /** Begins what takes its time: cooling, draining, venting. */
  begin(id: string): void {
    this.pass(this.state(id).in.minutes ?? 0);
    this.begun.set(id, this.minute);
  }

  /** Minutes until a state is reached that takes its time, begun now where it was not; 0 for the others. */
  minutesUntil(id: string): number {
    const { waitMinutes, belowC } = this.state(id).in;
    const byClock =
      waitMinutes === undefined ? Infinity : waitMinutes - (this.minute - (this.begun.get(id) ?? this.minute));
    const byTouch = belowC === undefined ? Infinity : this.#untilBelow(belowC);
    const first = Math.min(byClock, byTouch);
    return first === Infinity ? 0 : Math.max(0, first);
  }

  /** Whether the checks of the way into a state hold: those that take their time. */
  isReached(id: string): boolean {
    const { waitMinutes, belowC } = this.state(id).in;
    if (belowC !== undefined && this.#surfaceC < belowC) return true;
    const begun = this.begun.get(id);
    if (waitMinutes !== undefined && begun !== undefined && this.minute - begun >= waitMinutes - 1e-9) return true;
    return waitMinutes === undefined && belowC === undefined;
  }

  /** States in force that are ended by getting into this one without the check on their way out. */
  endedUnchecked(id: string): MachineState[] {
    return [...this.inside]
      .filter((other) => this.#rules.exclude(id, other))
      .map((other) => this.state(other))
      .filter((one) => one.out !== undefined);
  }

  enter(id: string): void {
    if (!this.begun.has(id)) this.pass(this.state(id).in.minutes ?? 0);
    this.begun.delete(id);
    goThrough(this.#rules, this.inside, { state: id, way: "in" });
  }

  leave(id: string): void {
    this.pass(this.state(id).out?.minutes ?? 0);
    goThrough(this.#rules, this.inside, { state: id, way: "out" });
  }

  #untilBelow(limit: number): number {
    if (this.#surfaceC < limit) return 0;
    if (limit <= ROOM_C || this.#warming.some((id) => this.inside.has(id))) return Infinity;
    // A moment longer: at the limit is not below it.
    return this.#model.halvesInMinutes * Math.log2((this.#surfaceC - ROOM_C) / (limit - ROOM_C)) + 1e-6;
  }
}
