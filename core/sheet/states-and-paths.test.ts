import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { must } from "../must";
import { uniform } from "../random";
import { draws } from "../testing/draws";
import { foldRun, missingSteps, nextSteps, placeGates, type Procedure, type RunEvent, type Step } from "./index";
import { stepKey } from "./run-state";
import { drawnProcedure } from "./testing/drawn-procedures";
import { TestLog } from "./testing/runs";

type Random = () => number;
const MACHINES = [{ options: [] }, { options: ["extra"] }];

/** What a machine on which a log is worked goes through, read off the rules of states and not off the sheet. */
class Witness {
  readonly inside = new Set<string>();
  readonly off = new Map<string, number>();
  readonly faults: string[] = [];

  constructor(private readonly procedure: Procedure) {}

  sees(step: Step): void {
    if (step.kind === "safety" && step.gate?.way === "out" && !this.inside.delete(step.gate.state))
      this.faults.push(`${step.id} leaves what is not in force`);
    if (step.kind === "safety" && step.gate?.way === "in") this.#enters(step.id, step.gate.state);
    for (const state of step.state ?? []) if (!this.inside.has(state)) this.faults.push(`${step.id} without ${state}`);
    for (const { item, count } of step.takesOff ?? []) this.off.set(item, count);
    for (const { item } of step.putsBack ?? []) this.#putsBack(step.id, item);
    const left = this.procedure.leaves?.off ?? [];
    if (step.kind === "prove")
      for (const item of this.off.keys()) if (!left.includes(item)) this.faults.push(`${step.id} with ${item} off`);
    this.#open.delete(step.id);
  }

  #enters(id: string, state: string): void {
    const { states = [] } = this.procedure;
    if (this.inside.has(state)) this.faults.push(`${id} enters what is in force`);
    const entered = must(states.find((one) => one.id === state));
    for (const other of [...this.inside]) {
      const known = must(states.find((one) => one.id === other));
      const excluded = known.excludes?.includes(state) || entered.excludes?.includes(other);
      if (excluded && known.out) this.faults.push(`${id} enters without leaving ${other}`);
      if (excluded || known.lostBy?.includes(state)) this.inside.delete(other);
    }
    this.inside.add(state);
  }

  #putsBack(id: string, item: string): void {
    const opener = this.procedure.steps.find((one) => one.takesOff?.some((part) => part.item === item));
    for (const bench of this.procedure.steps)
      if (opener?.opens !== undefined && bench.path === opener.opens && this.#open.has(bench.id))
        this.faults.push(`${id} before ${bench.id}`);
    this.off.delete(item);
  }

  /** Steps that were offered or are on the way to be: bench steps of opened paths that are not done. */
  readonly #open = new Set<string>();
  opens(ids: readonly string[]): void {
    for (const id of ids) this.#open.add(id);
  }
}

/** Works a sheet in any order that it allows; sometimes a step is undone and done again. */
function work(procedure: Procedure, random: Random, machine: { options: string[] }) {
  const log = new TestLog();
  const witness = new Witness(procedure);
  const byId = new Map(procedure.steps.map((step) => [step.id, step]));
  log.add({ type: "started", planId: "plan", procedureId: procedure.id, procedureVersion: 1 });
  for (let taps = 0; taps < 400; taps++) {
    const state = foldRun(procedure, log.events);
    const next = nextSteps(procedure, state, machine);
    witness.opens(next.map((one) => one.step));
    const ref = next[Math.floor(random() * next.length)];
    if (!ref) return { log, witness, state, missing: missingSteps(procedure, state, machine) };
    const step = must(byId.get(ref.step));
    const at = { step: ref.step, round: ref.round };
    const running = state.steps[stepKey(ref.step, ref.round)]?.status === "running";
    if (step.kind === "wait" && !running) log.add({ type: "timer-started", ...at });
    else {
      witness.sees(step);
      if (step.kind === "wait") log.add({ type: "timer-stopped", ...at }, { after: 30 });
      else if (step.kind === "safety") {
        if (step.coolDown) log.add({ type: "timer-started", ...at });
        log.add({ type: "safety-confirmed", ...at }, { after: 60 });
      } else log.add({ type: "step-done", ...at, ...answerTo(step, random) });
    }
  }
  throw new Error("A sheet goes on for ever.");
}

function answerTo(step: Step, random: Random): { answer?: string } {
  if (step.kind === "decide") return { answer: random() < 0.5 ? "yes" : "no" };
  return step.kind === "repeat" ? { answer: random() < 0.4 ? "again" : "clean" } : {};
}

const DRAWS = draws(60, 5_000);

it(`every order that a sheet allows ends whole: nothing outside its state, nothing off, nothing locked (${DRAWS} drawn)`, () => {
  const seen = { gates: 0, paths: 0, again: 0 };
  for (let seed = 1; seed <= DRAWS; seed++) {
    const random = uniform(xoroshiro128plus(seed));
    const procedure = placeGates(drawnProcedure(random));
    expect({ seed, again: placeGates(procedure) }).toEqual({ seed, again: procedure });
    for (const machine of MACHINES) {
      const { log, witness, state, missing } = work(procedure, random, machine);
      expect({ seed, machine, faults: witness.faults, missing }).toEqual({ seed, machine, faults: [], missing: [] });
      const left = procedure.leaves;
      expect({ seed, off: state.ledger.filter((one) => !left?.off?.includes(one.item)) }).toEqual({ seed, off: [] });
      const locked = [...witness.inside].filter(
        (id) => !left?.states?.includes(id) && procedure.states?.find((one) => one.id === id)?.out,
      );
      expect({ seed, machine, locked }).toEqual({ seed, machine, locked: [] });
      expect(foldRun(procedure, shuffled(log.events, random))).toEqual(foldRun(procedure, log.events));
      seen.again += Object.keys(state.rounds).length;
    }
    seen.gates += procedure.steps.filter((step) => step.kind === "safety" && step.gate).length;
    seen.paths += procedure.steps.filter((step) => step.path).length;
  }
  expect(Math.min(seen.gates, seen.paths, seen.again * 20)).toBeGreaterThan(DRAWS);
});

function shuffled(events: readonly RunEvent[], random: Random): RunEvent[] {
  return events
    .map((event) => ({ event, key: random() }))
    .sort((a, b) => a.key - b.key)
    .map(({ event }) => event);
}
