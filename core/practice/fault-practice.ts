import { CoreError } from "../errors";
import type { FaultCause, FaultCheck, FaultGuide, FaultSymptom } from "../faults/guide";
import { isMeant } from "../faults/guide-search";
import { wayInto } from "../faults/way-into";
import { must } from "../must";
import type { GateKind, MachineState } from "../sheet/procedure";
import { UNKNOWN_CAUSE } from "../sheet/readable-events";
import type { HiddenFault } from "./draw-fault";
import { familyModel } from "./family-models";
import { SimulatedMachine } from "./simulated-machine";

/** Hands-on minutes of what stands in no guide; common practice. */
const MINUTES = { prove: 3, handOver: 5, stop: 2, interim: 1, tell: 1, cannot: 1 };
/** Gates that keep the air clean or wait for it: without them a check shows nothing, and nobody is hurt by trying. */
const HARMLESS: readonly GateKind[] = ["ventilate"];

/** What somebody does at a practice machine. */
export type PracticeAct =
  /** The clock of a state that takes its time; into a state, out of it. */
  | { act: "begin" | "enter" | "leave"; state: string }
  | { act: "wait"; minutes: number }
  | { act: "check"; check: string }
  /** It is this, and this is done about it. */
  | { act: "remedy"; cause: string }
  /** It is this, or `unknown`, and somebody else goes on. */
  | { act: "hand-over"; cause: string }
  | { act: "prove" | "stop" | "interim" | "tell" | "done" };

export interface PracticeLine {
  /** Minutes since the beginning. */
  minute: number;
  text: string;
  kind: "did" | "saw" | "unsafe";
}

/**
 * A fault looked for on a machine that does not exist: everything that may be done can be done, in any order, and what was unsafe or
 * forgotten is said. Nothing is drawn here: it follows from the fault and the acts.
 */
export class FaultPractice {
  readonly symptom: FaultSymptom;
  readonly machine: SimulatedMachine;
  readonly lines: PracticeLine[] = [];
  /** Checks done, with what each showed; the text of what it shows, or null where it could not be done. */
  readonly checked: { check: string; cause: string | null }[] = [];
  /** What was said to be the cause, in order. */
  readonly named: string[] = [];
  /** What was dangerous, and what was left out in the end, a sentence each. */
  readonly unsafe: string[] = [];
  readonly forgotten: string[] = [];
  isOver = false;
  isStopped = false;
  hasInterim = false;
  hasTold = false;
  handedOver: string | null = null;
  /** The fault is gone; it was shown that it is. */
  isCured = false;
  isProven = false;
  readonly #guide: FaultGuide;
  readonly #fault: HiddenFault;
  readonly #cause: FaultCause;
  /** Something was remedied, and not tried since. */
  #isUnproven = false;

  constructor(guide: FaultGuide, fault: HiddenFault, acts: readonly PracticeAct[] = []) {
    this.#guide = guide;
    this.#fault = fault;
    this.symptom = known(guide.symptoms, fault.symptom, "symptom");
    this.#cause = known(guide.causes, fault.cause, "cause");
    this.machine = new SimulatedMachine(guide.states, familyModel(guide.family));
    for (const act of acts) this.do(act);
  }

  get minutes(): number {
    return this.machine.minute;
  }

  /** Found and remedied, or named and handed to who may. */
  get isSolved(): boolean {
    if (mayRemedy(this.#cause) && !isHandedOn(this.#cause)) return this.isCured;
    return this.handedOver === this.#cause.id;
  }

  /** @throws CoreError of what the guide does not have, and of anything after the end */
  do(act: PracticeAct): void {
    if (this.isOver) throw new CoreError("bad-value", "act", "This practice is over.");
    switch (act.act) {
      case "begin":
      case "enter":
      case "leave":
        this.#gate(act.act, this.machine.state(act.state));
        break;
      case "wait":
        if (!(act.minutes > 0 && act.minutes <= 240))
          throw new CoreError("out-of-range", "minutes", "Wait between a moment and four hours.");
        this.machine.pass(act.minutes);
        break;
      case "check":
        this.#check(known(this.#guide.checks, act.check, "check"));
        break;
      case "remedy":
        this.#remedy(known(this.#guide.causes, act.cause, "cause"));
        break;
      case "hand-over":
        this.#handOver(act.cause === UNKNOWN_CAUSE ? null : known(this.#guide.causes, act.cause, "cause"));
        break;
      case "done":
        this.#leaveIt();
        break;
      default:
        this.#plain(act.act);
    }
  }

  #gate(way: "begin" | "enter" | "leave", state: MachineState): void {
    const { machine } = this;
    if (way === "leave") {
      if (!machine.inside.has(state.id)) return;
      machine.leave(state.id);
      this.#say("did", `Out of “${state.name}”`);
      return;
    }
    if (way === "begin") {
      machine.begin(state.id);
      this.#say("did", `“${state.name}” begun: its clock runs`);
      return;
    }
    if (!machine.isReached(state.id)) {
      const touch = state.in.belowC === undefined ? "" : ` at ${Math.round(machine.surfaceC)} °C`;
      this.#danger(`Said to be “${state.name}”${touch} before it was.`);
    }
    for (const other of machine.endedUnchecked(state.id))
      this.#danger(`“${state.name}” while “${other.name}” was not ended: ${must(other.out).checks.join("; ")}.`);
    machine.enter(state.id);
    this.#say("did", state.name);
  }

  #check(check: FaultCheck): void {
    const missing = (check.state ?? [])
      .filter((id) => !this.machine.inside.has(id))
      .map((id) => this.machine.state(id));
    const dangerous = missing.filter((state) => this.#isDangerousWithout(state));
    if (missing.length > dangerous.length && dangerous.length === 0) {
      this.machine.pass(MINUTES.cannot);
      this.#say("saw", `${check.title}: shows nothing unless it is ${namesOf(missing)}`);
      return;
    }
    if (dangerous.length > 0) this.#danger(`“${check.title}” without: ${namesOf(dangerous)}.`);
    this.machine.pass(check.minutes);
    const shows = this.#fault.shownBy.includes(check.id)
      ? check.finds.find((one) => one.cause === this.#fault.cause)
      : undefined;
    const isThere = shows !== undefined && !this.isCured;
    this.checked.push({ check: check.id, cause: isThere ? shows.cause : null });
    this.#say("saw", `${check.title}: ${isThere ? shows.shows : check.clear}`);
  }

  #remedy(cause: FaultCause): void {
    this.named.push(cause.id);
    const { remedy = [], name } = cause;
    if (!mayRemedy(cause)) {
      this.#danger(`“${name}” is not yours to remedy: ${cause.handOff?.to ?? "hand it over"}.`);
      return;
    }
    const { machine } = this;
    for (const step of remedy) {
      const way = wayInto(machine.rules, machine.inside, step.state ?? []);
      machine.pass(way.minutes + (step.minutes ?? 0) + (step.kind === "wait" ? step.minMinutes : 0));
      machine.inside.clear();
      for (const id of way.after) machine.inside.add(id);
    }
    this.#say("did", `Remedied: ${name}`);
    this.#isUnproven = true;
    this.isProven = false;
    if (cause.id === this.#fault.cause) this.isCured = true;
  }

  #handOver(cause: FaultCause | null): void {
    this.machine.pass(MINUTES.handOver);
    this.handedOver = cause?.id ?? UNKNOWN_CAUSE;
    this.named.push(this.handedOver);
    this.#say(
      "did",
      cause ? `Handed over: ${cause.name}. ${cause.handOff?.to ?? ""}`.trim() : "Handed over: nothing found",
    );
  }

  #plain(act: "prove" | "stop" | "interim" | "tell"): void {
    const { symptom, machine } = this;
    switch (act) {
      case "prove":
        machine.pass(MINUTES.prove);
        this.isProven = this.isCured;
        this.#isUnproven = false;
        this.#say("saw", this.isCured ? `Proof: ${symptom.proof}` : `It is as before: ${symptom.says}`);
        break;
      case "stop":
        machine.pass(MINUTES.stop);
        this.isStopped = true;
        this.#say("did", "Taken out of service and tagged");
        break;
      case "interim":
        machine.pass(MINUTES.interim);
        this.hasInterim = true;
        this.#say("did", "What holds for now is said, with its end");
        break;
      case "tell":
        machine.pass(MINUTES.tell);
        this.hasTold = true;
        this.#say("did", "The operator is told what to know");
    }
  }

  #leaveIt(): void {
    const cause = this.#cause;
    const { name, outOfService, interim, handling } = cause;
    const goesOn = !this.isCured || isHandedOn(cause);
    if (!this.isCured && outOfService !== undefined && !this.isStopped)
      this.#danger(`Left in use with “${name}”: ${outOfService}`);
    if (this.#isUnproven) this.forgotten.push(`The proof: ${this.symptom.proof}.`);
    if (goesOn && this.handedOver === null) this.forgotten.push("Left without handing it over.");
    if (this.handedOver !== null && mayRemedy(cause) && !isHandedOn(cause) && !this.isCured)
      this.forgotten.push(`“${name}” can be remedied here.`);
    if (!this.isCured && interim && !this.isStopped && !this.hasInterim)
      this.forgotten.push(`What holds meanwhile: ${interim.text}.`);
    const lesson = handling?.lesson ?? this.symptom.tell;
    if (lesson !== undefined && !this.hasTold) this.forgotten.push(`Tell the operator: ${lesson}`);
    for (const id of this.machine.rules.lastFirst([...this.machine.inside])) {
      const { out, name: inName } = this.machine.state(id);
      if (out) this.forgotten.push(`“${inName}” was not ended: ${out.checks.join("; ")}.`);
    }
    this.isOver = true;
    this.#say("did", "Left the machine");
  }

  /** Whether somebody can be hurt, or something broken, by work in this state before it is reached. */
  #isDangerousWithout({ in: { gates = [], waitMinutes, belowC }, excludes = [] }: MachineState): boolean {
    return (
      waitMinutes !== undefined ||
      belowC !== undefined ||
      gates.some((gate) => !HARMLESS.includes(gate)) ||
      excludes.some((other) => this.machine.inside.has(other))
    );
  }

  #danger(text: string): void {
    this.unsafe.push(text);
    this.#say("unsafe", text);
  }

  #say(kind: PracticeLine["kind"], text: string): void {
    this.lines.push({ minute: this.machine.minute, text, kind });
  }
}

/** Whether a technician does something about it. */
const mayRemedy = ({ remedy = [] }: FaultCause): boolean => remedy.length > 0;

/** Whether it goes to somebody else, whatever is done about it here. */
const isHandedOn = ({ who, remedy = [], handOff }: FaultCause): boolean =>
  handOff !== undefined && (remedy.length === 0 || who === "authorised" || who === "licensed");

const namesOf = (states: readonly MachineState[]): string => states.map((one) => `“${one.name}”`).join(", ");

function known<T extends { id: string }>(list: readonly T[], id: string, path: string): T {
  const one = list.find((other) => other.id === id);
  if (!one) throw new CoreError("unknown-reference", path, `The guide has no ${path} of this name.`);
  return one;
}

/** Checks that go with a machine, in the guide's order. */
export const checksOf = (guide: FaultGuide, { options }: Pick<HiddenFault, "options">): FaultCheck[] =>
  guide.checks.filter((one) => isMeant(one.on, options));
