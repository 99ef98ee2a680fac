import { must } from "../must";
import type { SheetStep } from "./next-steps";
import { passedGates } from "./passed-gates";
import type { Procedure } from "./procedure";
import { isSettled, type RunState } from "./run-state";
import { gateOf, StateRules } from "./states";

type Next = "needs" | "ends" | "nothing";

/**
 * The steps of a sheet without the gates that change nothing on it: into a state that is in force, out of one that is not, or
 * that the next step to matter needs again. What was logged stays.
 *
 * @param shown steps whose conditions hold, gates among them
 */
export function withoutIdleGates(procedure: Procedure, shown: SheetStep[], state: RunState): SheetStep[] {
  if (!procedure.states || procedure.states.length === 0) return shown;
  const rules = new StateRules(procedure.states);
  const standing = new Set(shown.map((one) => one.step));
  const next = nextOfEach(rules, shown);
  const passes = laterPasses(procedure, state);
  const place = passes.length > 0 ? new Map(procedure.steps.map((step, p) => [step.id, p])) : null;
  let inside = new Set(state.begins?.states ?? []);
  return shown.filter((one, i) => {
    while (passes[0] && must(place?.get(one.step)) >= passes[0].from)
      inside = inForce(procedure, state, must(passes.shift()));
    if (one.definition.kind === "find") for (const passed of one.state?.gates ?? []) goThrough(rules, inside, passed);
    const gate = gateOf(one.definition);
    if (!gate) return true;
    const changes =
      gate.way === "in"
        ? !inside.has(gate.state) && servesSome(one, standing)
        : inside.has(gate.state) && must(next[i]).get(gate.state) !== "needs";
    if (!changes && !isSettled(one.state) && one.state?.status !== "running") return false;
    goThrough(rules, inside, gate);
    return true;
  });
}

const servesSome = ({ definition }: SheetStep, standing: ReadonlySet<string>): boolean =>
  definition.kind === "safety" && (definition.serves ?? []).some((id) => standing.has(id));

/** States in force by the log, what the sheet began with included. */
export function statesInForce(procedure: Procedure, state: RunState): Set<string> {
  return inForce(procedure, state, null);
}

/** A block that is in a later pass: which, and from where to where it goes. */
interface LaterPass {
  from: number;
  end: number;
  round: number;
}

function laterPasses({ steps }: Procedure, state: RunState): LaterPass[] {
  const later = steps.flatMap((step, end) => {
    const round = step.kind === "repeat" ? (state.rounds[step.id] ?? 1) : 1;
    return step.kind === "repeat" && round > 1 ? [{ step, end, round }] : [];
  });
  if (later.length === 0) return [];
  const place = new Map(steps.map((step, i) => [step.id, i]));
  return later
    .map(({ step, end, round }) => ({ from: place.get(step.from) ?? end + 1, end, round }))
    .filter(({ from, end }) => from <= end)
    .sort((a, b) => a.from - b.from);
}

/** What is in force after the gates that were passed, in their order; before a later pass begins when one is given. */
function inForce(procedure: Procedure, state: RunState, before: LaterPass | null): Set<string> {
  const rules = new StateRules(procedure.states ?? []);
  const inside = new Set(state.begins?.states ?? []);
  for (const { gate, place, round } of passedGates(procedure, state)) {
    const isLater = before && (place > before.end || (place >= before.from && round >= before.round));
    if (!isLater) goThrough(rules, inside, gate);
  }
  return inside;
}

export function goThrough(
  rules: StateRules,
  inside: Set<string>,
  { state, way }: { state: string; way: "in" | "out" },
): void {
  if (way === "out") {
    inside.delete(state);
    return;
  }
  for (const other of [...inside]) if (rules.ends(state, other)) inside.delete(other);
  inside.add(state);
}

/** Of each step, what the first later step that matters to a state does with it. */
function nextOfEach(rules: StateRules, shown: readonly SheetStep[]): ReadonlyMap<string, Next>[] {
  const next: ReadonlyMap<string, Next>[] = [];
  let now: ReadonlyMap<string, Next> = new Map();
  for (let i = shown.length - 1; i >= 0; i--) {
    next[i] = now;
    const { definition } = must(shown[i]);
    const needs = gateOf(definition) ? [] : rules.needs(definition);
    if (needs.length === 0) continue;
    const changed = new Map(now);
    for (const state of rules.order)
      if (needs.includes(state)) changed.set(state, "needs");
      else if (needs.some((one) => rules.ends(one, state))) changed.set(state, "ends");
    now = changed;
  }
  return next;
}
