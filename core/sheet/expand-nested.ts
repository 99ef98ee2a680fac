import { CoreError } from "../errors";
import { closeLater } from "./close-later";
import { joinEqualSteps } from "./equal-steps";
import type { MachineState, Material, Procedure, ProcedureMeter, Step, StepCondition } from "./procedure";

/**
 * A procedure with every nested procedure's steps in its place. Nested versions are pinned, so that the expanded sheet of
 * a version never changes. Inner step ids get the nested step's id in front (`daily-wipe`); a condition on the nested
 * step holds for each of its steps; lists of materials, parts, tools, hazards and states are joined, each entry once.
 *
 * From format version 2 on, equal steps that are reached through different nested procedures stand once, and what closes a
 * nested procedure (proof, last reading, counter, hand-off) waits while the machine still has to stay in a state that it would end.
 *
 * @param find the procedure of an id and version, itself not yet expanded; undefined when there is none
 * @throws CoreError `unknown-reference` for a nested procedure that does not exist, `bad-value` for a circle
 * @returns the same object when nothing is nested
 */
export function expandNested(
  procedure: Procedure,
  find: (id: string, version: number) => Procedure | undefined,
): Procedure {
  const whole = expand(procedure, find, [procedure.id]);
  return procedure.formatVersion === 2 && whole !== procedure ? joinEqualSteps(whole) : whole;
}

function expand(
  procedure: Procedure,
  find: (id: string, version: number) => Procedure | undefined,
  path: string[],
): Procedure {
  if (!procedure.steps.some((step) => step.kind === "nested")) return procedure;
  const whole: Procedure = { ...procedure, steps: [] };
  const within = new Map<string, string[]>();
  for (const step of procedure.steps) {
    if (step.kind !== "nested") {
      whole.steps.push(step);
      continue;
    }
    if (path.includes(step.procedure)) {
      throw new CoreError(
        "bad-value",
        `steps.${step.id}`,
        `"${step.procedure}" holds itself: ${[...path, step.procedure].join(" → ")}.`,
      );
    }
    const found = find(step.procedure, step.version);
    if (!found) {
      throw new CoreError(
        "unknown-reference",
        `steps.${step.id}`,
        `Version ${step.version} of the procedure "${step.procedure}" does not exist.`,
      );
    }
    const inner = expand(found, find, [...path, step.procedure]);
    const steps = inner.steps.map((one) => inside(step, found, one));
    whole.steps.push(...steps);
    within.set(
      step.id,
      steps.map((one) => one.id),
    );
    whole.hazards = joined(whole.hazards, inner.hazards, (one) => one.kind + one.text);
    whole.protective = joined(whole.protective, inner.protective, String);
    whole.tools = joined(whole.tools, inner.tools, String);
    whole.materials = summed(whole.materials, inner.materials);
    whole.parts = joined(whole.parts, inner.parts, (one) => one.item);
    whole.options = joined(whole.options, inner.options, (one) => one.id);
    whole.meters = joinedMeters(whole.meters, inner.meters);
    if (inner.states) whole.states = joinedStates(whole.states ?? [], inner.states);
  }
  // Work for meanwhile that named the nested procedure means all of it.
  whole.steps = whole.steps.map((step) =>
    step.kind === "wait" && step.meanwhile
      ? { ...step, meanwhile: step.meanwhile.flatMap((id) => within.get(id) ?? [id]) }
      : step,
  );
  // What is nested deeper has its end behind the work of what holds it, before that has its own behind the work around it.
  return procedure.formatVersion === 2 ? closeLater(whole) : whole;
}

function inside(nested: Extract<Step, { kind: "nested" }>, procedure: Procedure, step: Step): Step {
  const name = (id: string): string => `${nested.id}-${id}`;
  const when: StepCondition[] = [
    ...(nested.when ?? []),
    ...(step.when ?? []).map((one) => ("step" in one ? { ...one, step: name(one.step) } : one)),
  ];
  // Where it stands: under the nested step, and for what is nested deeper under that of the inner procedure too.
  const workedFor = [
    ...(step.workedFor ?? []).map((one) => ({ ...one, within: name(one.within) })),
    { procedure: procedure.id, step: step.id, within: nested.id },
  ];
  const renamed: Step = { ...step, id: name(step.id), area: step.area ?? nested.area ?? nested.title, workedFor };
  if (step.path !== undefined) renamed.path = name(step.path);
  if (step.opens !== undefined) renamed.opens = name(step.opens);
  // What the machine has to be in for the nested procedure it has to be in for each of its steps at the machine.
  if (nested.state && step.path === undefined) renamed.state = [...new Set([...nested.state, ...(step.state ?? [])])];
  if (when.length > 0) renamed.when = when;
  if (renamed.kind === "repeat") renamed.from = name(renamed.from);
  if (renamed.kind === "wait" && renamed.meanwhile) renamed.meanwhile = renamed.meanwhile.map(name);
  return renamed;
}

function joined<T>(a: readonly T[], b: readonly T[], key: (one: T) => string): T[] {
  const known = new Set(a.map(key));
  return [...a, ...b.filter((one) => !known.has(key(one)))];
}

/** Meters by their name; what one runs within is known when either says it. */
function joinedMeters(outer: readonly ProcedureMeter[], inner: readonly ProcedureMeter[]): ProcedureMeter[] {
  const known = new Map(inner.map((meter) => [meter.id, meter]));
  return joined(outer, inner, (one) => one.id).map((meter) => ({ ...known.get(meter.id), ...meter }));
}

/** States by their name: the outer's checks hold, and what ends it in either ends it. */
function joinedStates(outer: readonly MachineState[], inner: readonly MachineState[]): MachineState[] {
  const known = new Map(outer.map((state) => [state.id, state]));
  for (const state of inner) {
    const before = known.get(state.id);
    const excludes = [...new Set([...(before?.excludes ?? []), ...(state.excludes ?? [])])];
    const lostBy = [...new Set([...(before?.lostBy ?? []), ...(state.lostBy ?? [])])];
    known.set(state.id, {
      ...state,
      ...before,
      ...(excludes.length > 0 ? { excludes } : {}),
      ...(lostBy.length > 0 ? { lostBy } : {}),
    });
  }
  return [...known.values()];
}

/** The same material twice is needed twice. */
function summed(a: readonly Material[], b: readonly Material[]): Material[] {
  const sum = new Map(a.map((one) => [one.item, one]));
  for (const one of b) {
    const before = sum.get(one.item);
    sum.set(one.item, before ? { ...before, qty: before.qty + one.qty } : one);
  }
  return [...sum.values()];
}
