import { must } from "../must";
import { exclusive } from "./always-covered";
import { comesOff } from "./parts";
import type { MachineState, Procedure, Step, StepCondition } from "./procedure";
import { gateOf, StateRules } from "./states";
import { usualSteps } from "./usual-steps";

interface Found {
  step?: string;
  message: string;
}

/** Conditions in so many combinations at most are gone through for what comes off and goes back. */
const MOST_CONDITIONS = 10;
/** Share by which the time stated in all may differ from the sum of the steps. */
const TIME_DIFFERS = 0.3;
const LOCKS = new Set(["lock-out", "tag", "isolate"]);

/** A step that needs what another thing that it needs ends: power behind a lock. */
export function statesThatClash({ states = [], steps }: Procedure): Found[] {
  const rules = new StateRules(states);
  const name = (id: string): string => rules.get(id)?.name ?? id;
  return steps.flatMap((step) => {
    const needs = rules.needs(step);
    for (const a of needs)
      for (const b of needs)
        if (a !== b && rules.ends(a, b))
          return [
            {
              step: step.id,
              message: `"${step.title}" needs "${name(b)}" and "${name(a)}", which ends it. Take what needs the one apart from what needs the other.`,
            },
          ];
    return [];
  });
}

/** A lock that nobody takes off again. */
export function locksNotReleased({ states = [], steps, leaves }: Procedure): Found[] {
  const isLock = (state: MachineState): boolean => (state.in.gates ?? []).some((gate) => LOCKS.has(gate));
  return states
    .filter((state) => isLock(state) && !state.out && !leaves?.states?.includes(state.id))
    .flatMap((state) => {
      const first = steps.find((step) => step.state?.includes(state.id));
      return first
        ? [{ step: first.id, message: `"${state.name}" is never released: say what is checked on the way out of it.` }]
        : [];
    });
}

/** At the machine nothing is taken apart in no state at all. */
export function disassemblyWithoutState({ states = [], steps }: Procedure): Found[] {
  const rules = new StateRules(states);
  return steps
    .filter((step) => step.path === undefined && takesApart(step) && rules.needs(step).length === 0)
    .map((step) => ({
      step: step.id,
      message: `"${step.title}" takes the machine apart and names no state for it: isolated, cool, drained, or standing with power where it has to be.`,
    }));
}

export const takesApart = (step: Step): boolean =>
  comesOff(step).length > 0 || step.kind === "replace" || step.kind === "turn";

/** On a hot machine nothing is taken apart but in a state in which it is cool. */
export function hotWithoutCoolState({ hazards, states = [], steps }: Procedure): Found[] {
  if (!hazards.some((hazard) => hazard.kind === "hot")) return [];
  const cool = new Set(
    states
      .filter(
        ({ id, in: into }) =>
          into.belowC !== undefined ||
          ((into.waitMinutes ?? 0) > 0 && (id === "cool" || into.gates?.includes("cool-down"))),
      )
      .map((state) => state.id),
  );
  return steps
    .filter((step) => step.path === undefined && takesApart(step) && !step.state?.some((state) => cool.has(state)))
    .map((step) => ({
      step: step.id,
      message: `The machine is hot, and "${step.title}" takes it apart in no state that has it cool: below a temperature, or after a time.`,
    }));
}

/** Things that no customer's own people may be asked for: behind a lock, apart, or anything but plain work. */
export function askedTooMuch({ states = [], steps }: Procedure): Found[] {
  const locked = new Set(
    states
      // A vehicle's key in a pocket is no lock on a supply.
      .filter(({ in: { gates = [] } }) => gates.includes("lock-out") && !gates.includes("park"))
      .map((state) => state.id),
  );
  return steps
    .filter(
      (step) =>
        step.beforehand !== undefined &&
        (step.kind !== "do" || takesApart(step) || (step.state ?? []).some((state) => locked.has(state))),
    )
    .map((step) => ({
      step: step.id,
      message: `"${step.title}" is asked of the customer beforehand: only plain work that takes nothing apart and stands behind no lock may be.`,
    }));
}

/** Paths that begin nowhere or end nowhere, and refits that come too early. */
export function openPaths({ steps, leaves }: Procedure): Found[] {
  const last = new Map<string, number>();
  const openers = new Map<string, Step[]>();
  const firstOpened = new Map<string, number>();
  steps.forEach((step, i) => {
    if (step.path !== undefined) last.set(step.path, i);
    if (step.opens === undefined) return;
    openers.set(step.opens, [...(openers.get(step.opens) ?? []), step]);
    if (!firstOpened.has(step.opens)) firstOpened.set(step.opens, i);
  });
  const found: Found[] = [];
  steps.forEach((step, i) => {
    const { path } = step;
    if (path === undefined || (firstOpened.get(path) ?? Infinity) < i) return;
    found.push({
      step: step.id,
      message: `"${step.title}" is on the path "${path}", which no earlier step opens by taking something off.`,
    });
  });
  for (const [path, from] of openers) {
    const items = from.flatMap((step) => (step.takesOff ?? []).map((one) => one.item));
    const isLeft = (item: string): boolean => leaves?.off?.includes(item) ?? false;
    const end = last.get(path) ?? firstOpened.get(path) ?? 0;
    for (const [i, step] of steps.entries())
      if (i < end && (step.putsBack ?? []).some(({ item }) => items.includes(item)) && i > (firstOpened.get(path) ?? 0))
        found.push({
          step: step.id,
          message: `"${step.title}" comes before the end of the path "${path}" of what it puts back.`,
        });
    const refitted = steps.some((step) => (step.putsBack ?? []).some(({ item }) => items.includes(item)));
    if (refitted || (items.length > 0 && items.every(isLeft))) continue;
    found.push({
      step: must(from[0]).id,
      message: `The path "${path}" never ends in a refit: nothing of it goes back on.`,
    });
  }
  return found;
}

/** What comes off and what goes back on, counted on every kind of sheet. */
export function countsThatDiffer({ steps, leaves, begins }: Procedure): Found[] {
  const touching = new Map<string, { step: Step; off: number; on: number }[]>();
  for (const step of steps) {
    const counts = new Map<string, { off: number; on: number }>();
    const of = (item: string): { off: number; on: number } => {
      const one = counts.get(item) ?? { off: 0, on: 0 };
      counts.set(item, one);
      return one;
    };
    for (const { item, count } of step.takesOff ?? []) of(item).off += count;
    for (const { item, count } of step.putsBack ?? []) of(item).on += count;
    for (const [item, { off, on }] of counts) touching.set(item, [...(touching.get(item) ?? []), { step, off, on }]);
  }
  return [...touching].flatMap(([item, list]): Found[] => {
    // How many were left off the sheet that left them says.
    if (leaves?.off?.includes(item) || begins?.off?.includes(item)) return [];
    for (const shown of sheets(list.map((one) => one.step))) {
      const on_sheet = list.filter(({ step }) => shown.has(step.id));
      const off = on_sheet.reduce((sum, one) => sum + one.off, 0);
      const on = on_sheet.reduce((sum, one) => sum + one.on, 0);
      // What never came off is not put back: such refits are gone from the sheet.
      if (off === on || (off === 0 && list.some((one) => one.off > 0))) continue;
      const step = on_sheet.find((one) => (off > on ? one.off > 0 : one.on > 0))?.step ?? must(list[0]).step;
      const message =
        on === 0
          ? `"${step.title}" takes off ${item}, and no later step puts it back.`
          : off === 0
            ? `"${step.title}" puts back ${item}, which no step takes off.`
            : `${off} of ${item} come off and ${on} go back on.`;
      return [{ step: step.id, message }];
    }
    return [];
  });
}

/** Sheets that differ in which of some steps stand on them: the ids that stand. */
function sheets(steps: readonly Step[]): Set<string>[] {
  const conditions = new Map<string, StepCondition>();
  for (const step of steps) for (const one of step.when ?? []) conditions.set(JSON.stringify(one), one);
  const keys = [...conditions.keys()].slice(0, MOST_CONDITIONS);
  const found: Set<string>[] = [];
  for (let bits = 0; bits < 2 ** keys.length; bits++) {
    const holds = new Set(keys.filter((_, k) => bits & (1 << k)));
    if (!canHold(keys, holds, conditions)) continue;
    found.push(
      new Set(
        steps.filter((step) => (step.when ?? []).every((one) => holds.has(JSON.stringify(one)))).map((step) => step.id),
      ),
    );
  }
  return found;
}

/** Whether some conditions can hold while the rest does not. */
function canHold(
  keys: readonly string[],
  holds: ReadonlySet<string>,
  all: ReadonlyMap<string, StepCondition>,
): boolean {
  const held = keys.filter((key) => holds.has(key)).map((key) => must(all.get(key)));
  const clash = held.some((a, i) =>
    held.slice(i + 1).some((b) => exclusive({ when: [a] } as Step, { when: [b] } as Step)),
  );
  if (clash) return false;
  // An option is fitted or not: of both, one holds.
  return keys.every((key) => {
    const one = must(all.get(key));
    if (!("option" in one)) return true;
    const other = JSON.stringify({ ...one, fitted: !one.fitted });
    return !all.has(other) || holds.has(key) || holds.has(other);
  });
}

/** A proof while something is off that goes back on later. */
export function provenWhileOff({ steps, leaves }: Procedure): Found[] {
  const off = new Map<string, Step>();
  return steps.flatMap((step) => {
    for (const { item } of step.putsBack ?? []) off.delete(item);
    const open = [...off].find(([, by]) => !exclusive(by, step));
    for (const { item } of step.takesOff ?? []) if (!leaves?.off?.includes(item)) off.set(item, step);
    if ((step.kind !== "prove" && step.kind !== "hand-off") || !open) return [];
    return [{ step: step.id, message: `"${step.title}" comes while ${open[0]} is off: put it back first.` }];
  });
}

/** Bands that nothing can lie in. */
export function emptyBands({ steps }: Procedure): Found[] {
  return steps.flatMap((step) => {
    if (step.kind === "wait" && step.maxMinutes !== undefined && step.minMinutes > step.maxMinutes)
      return [{ step: step.id, message: `"${step.title}" has a minimum above its maximum.` }];
    if (step.kind !== "measure" || (!step.limits && !step.possible)) return [];
    const { min = -Infinity, max = Infinity, above = -Infinity, below = Infinity } = step.limits ?? {};
    const { min: least = -Infinity, max: most = Infinity } = step.possible ?? {};
    if (least > most)
      return [{ step: step.id, message: `"${step.title}" has a minimum above its maximum: no reading is possible.` }];
    if (
      Math.max(min, least) <= Math.min(max, most) &&
      Math.max(min, least) < below &&
      above < Math.min(max, most, below)
    )
      return [];
    return [{ step: step.id, message: `"${step.title}" has a minimum above its maximum: no reading can be in.` }];
  });
}

/** Questions whose answer changes nothing on the sheet. */
export function idleChoices({ steps }: Procedure): Found[] {
  const asked = new Set(steps.flatMap((step) => (step.when ?? []).flatMap((one) => ("step" in one ? [one.step] : []))));
  return steps
    .filter(
      (step) =>
        (step.kind === "choose" || (step.kind === "decide" && step.branches.every((branch) => !branch.leadsTo))) &&
        !asked.has(step.id),
    )
    .map((step) => ({
      step: step.id,
      message: `"${step.title}" is a choice that changes nothing: no step depends on it.`,
    }));
}

/** Duties that are called covered though none of their steps stands here. */
export function coveredWithoutSteps({ plan, steps }: Procedure): Found[] {
  // What a nested procedure holds is known once it stands in its place.
  if (steps.some((step) => step.kind === "nested")) return [];
  const worked = new Set(steps.flatMap((step) => (step.workedFor ?? []).map((one) => one.procedure)));
  return (plan.covers ?? [])
    .filter((id) => !worked.has(id))
    .map((id) => ({ message: `"${id}" is called covered, and none of its steps is on this sheet.` }));
}

/** Critical steps that an answer makes go away, with nothing in their place. */
export function criticalThatVanish({ steps }: Procedure): Found[] {
  const byId = new Map(steps.map((step) => [step.id, step]));
  const isFree = (one: StepCondition): boolean => {
    const asked = "step" in one ? byId.get(one.step) : undefined;
    return asked !== undefined && asked.kind !== "measure" && asked.kind !== "reset";
  };
  return steps
    .filter((step) => step.critical && (step.when ?? []).some(isFree))
    .filter((step) => !steps.some((other) => other !== step && other.critical && exclusive(step, other)))
    .map((step) => ({
      step: step.id,
      message: `"${step.title}" is critical, and an answer makes it go away without a word: ask for it always, or on what was measured.`,
    }));
}

/** The time stated in all, held against the sum of the steps; with nested ones in their place alone, and the gates of all. */
export function timesThatDiffer(procedure: Procedure): Found[] {
  const { steps } = usualSteps(procedure, { options: procedure.options.map((one) => one.id) });
  const hands = steps.filter((step) => step.kind !== "wait" && step.kind !== "hand-off" && step.kind !== "nested");
  const given = hands.filter((step) => step.minutes !== undefined);
  if (procedure.steps.some((step) => step.kind === "nested") || given.length * 2 < hands.length || given.length === 0)
    return [];
  const sum = steps.reduce((all, step) => {
    const waits = step.kind === "wait" ? step.minMinutes : step.kind === "safety" ? (step.coolDown?.minutes ?? 0) : 0;
    return all + waits + (step.minutes ?? (step.kind === "wait" || gateOf(step) || step.kind === "hand-off" ? 0 : 1));
  }, 0);
  const { handsOn, waiting } = procedure.minutes;
  const stated = handsOn + waiting;
  if (Math.abs(stated - sum) <= TIME_DIFFERS * stated) return [];
  return [{ message: `${stated} minutes are stated in all, and the steps come to ${sum}.` }];
}
