import { comesOff, goesBackOn } from "./parts";
import type { Procedure, Step } from "./procedure";

/** Kinds that are about the end of the work: of two the later one stands. */
const CLOSES = new Set<Step["kind"]>(["prove", "reset", "hand-off"]);

interface Kept {
  step: Step;
  /** Nested procedures that lead to it, joined. */
  chains: Set<string>;
}

/**
 * Equal steps that are reached through different nested procedures, once: they are worked for both. A procedure that is nested
 * twice by the same way stays twice, and so does a step that what came between makes needed again: a rinse after another
 * agent, a soak of something else, a part that was put back.
 *
 * @param whole with nested procedures in place
 */
export function joinEqualSteps(whole: Procedure): Procedure {
  const kept: Kept[] = [];
  const byKey = new Map<string, Kept[]>();
  const renamed = new Map<string, string>();
  const spared = new Map<string, number>();
  /** What the last step of each chain became: a wait is equal only behind what it waits for. */
  const lastOf = new Map<string, Kept>();
  for (const given of whole.steps) {
    const step = withNames(given, renamed);
    const chain = chainOf(step);
    const own = { step, chains: new Set([chain]) };
    const key = chain === "" ? null : keyOf(step, given);
    const before = lastOf.get(chain);
    const same = (key === null ? [] : (byKey.get(key) ?? [])).find(
      (one) => !one.chains.has(chain) && stillHolds(one, step, kept, before),
    );
    if (!same) {
      kept.push(own);
      if (key !== null) byKey.set(key, [...(byKey.get(key) ?? []), own]);
      lastOf.set(chain, own);
      continue;
    }
    renamed.set(step.id, same.step.id);
    if (step.path !== undefined && same.step.path !== undefined) renamed.set(`path ${step.path}`, same.step.path);
    if (step.opens !== undefined && same.step.opens !== undefined) renamed.set(`path ${step.opens}`, same.step.opens);
    same.chains.add(chain);
    same.step = { ...same.step, workedFor: [...(same.step.workedFor ?? []), ...(step.workedFor ?? [])] };
    for (const { item, qty } of step.uses ?? []) spared.set(item, (spared.get(item) ?? 0) + qty);
    if (comesLast(step) && !kept.some((one) => refersTo(one.step, same.step.id))) {
      kept.splice(kept.indexOf(same), 1);
      kept.push(same);
    }
    lastOf.set(chain, same);
  }
  if (renamed.size === 0) return whole;
  return {
    ...whole,
    steps: kept.map((one) => withNames(one.step, renamed)),
    materials: whole.materials.map((one) =>
      spared.has(one.item) ? { ...one, qty: one.qty - (spared.get(one.item) ?? 0) } : one,
    ),
  };
}

/** Nested procedures that lead to a step, the outermost first; empty for the procedure's own. */
const chainOf = (step: Step): string =>
  (step.workedFor ?? [])
    .toReversed()
    .map((one) => one.procedure)
    .join(" ");

/** A proof, a counter, a hand-off, or what is measured last: it closes the work. */
export const closes = (step: Step): boolean =>
  CLOSES.has(step.kind) || (step.kind === "measure" && step.stage === "as-left");

const comesLast = (step: Step): boolean => closes(step) || goesBackOn(step).length > 0;

/** All that makes a step what it is, without its name and where it stands. */
function keyOf(step: Step, given: Pick<Step, "path" | "opens">): string {
  const { id: _id, area: _area, workedFor: _workedFor, path: _path, opens: _opens, ...rest } = step;
  // The name of a path goes by the procedure that it came with: what it is called there is what is compared.
  const own = step.workedFor?.at(0);
  const bare = (name: string | undefined): string | null =>
    name === undefined ? null : own ? name.slice(name.indexOf(own.within) + own.within.length) : name;
  return JSON.stringify([bare(given.path), bare(given.opens), rest]);
}

/** Whether two steps say the same, whatever they are called and whichever way they open. */
export const isSameWork = (a: Step, b: Step): boolean => keyOf(a, {}) === keyOf(b, {});

/** Whether what an equal step did is still so when the second would come. */
function stillHolds(one: Kept, step: Step, kept: readonly Kept[], before: Kept | undefined): boolean {
  const at = kept.indexOf(one);
  const since = kept.slice(at + 1).map((later) => later.step);
  if (step.kind === "mix") return false;
  // What was made safe may have been run since.
  if (step.kind === "safety" && since.some((later) => CLOSES.has(later.kind))) return false;
  if (step.kind === "wait" || step.kind === "repeat") return before !== undefined && before === kept[at - 1];
  if (step.rinses) return !since.some((later) => later.kind === "mix" || (later.uses ?? []).length > 0);
  const [off, on] = [comesOff(step), goesBackOn(step)];
  return !since.some(
    (later) =>
      goesBackOn(later).some((item) => off.includes(item)) || comesOff(later).some((item) => on.includes(item)),
  );
}

function refersTo(step: Step, id: string): boolean {
  return (
    (step.when ?? []).some((one) => "step" in one && one.step === id) ||
    (step.kind === "repeat" && step.from === id) ||
    (step.kind === "wait" && (step.meanwhile ?? []).includes(id))
  );
}

function withNames(step: Step, renamed: ReadonlyMap<string, string>): Step {
  if (renamed.size === 0) return step;
  const name = (id: string): string => renamed.get(id) ?? id;
  const changed: Step = { ...step };
  if (step.when) changed.when = step.when.map((one) => ("step" in one ? { ...one, step: name(one.step) } : one));
  if (step.path !== undefined) changed.path = renamed.get(`path ${step.path}`) ?? step.path;
  if (step.opens !== undefined) changed.opens = renamed.get(`path ${step.opens}`) ?? step.opens;
  if (changed.kind === "repeat") changed.from = name(changed.from);
  if (changed.kind === "wait" && changed.meanwhile) changed.meanwhile = [...new Set(changed.meanwhile.map(name))];
  return changed;
}
