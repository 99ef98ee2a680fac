import { must } from "../must";
import type { Procedure } from "./procedure";

export interface StepChange {
  kind: "added" | "removed" | "changed" | "moved";
  step: string;
  title: string;
  /** Fields that differ, with both values as text. */
  fields: { field: string; before: string; after: string }[];
}

export interface ProcedureChange {
  /** Fields of the procedure itself that differ. */
  fields: { field: string; before: string; after: string }[];
  steps: StepChange[];
}

/** What differs between two versions of a procedure: fields, and steps added, removed, changed or moved. Steps are matched by id. */
export function compareProcedures(before: Procedure, after: Procedure): ProcedureChange {
  const old = new Map(before.steps.map((step) => [step.id, step]));
  const fresh = new Map(after.steps.map((step) => [step.id, step]));
  const steps: StepChange[] = [];
  // Steps that are in both, in either order: those outside the longest common order have moved.
  const common = after.steps
    .filter((step) => old.has(step.id))
    .map((step) => before.steps.findIndex((one) => one.id === step.id));
  const inOrder = longestIncreasing(common);
  after.steps.forEach((step) => {
    const known = old.get(step.id);
    if (!known) {
      steps.push({ kind: "added", step: step.id, title: step.title, fields: [] });
      return;
    }
    const fields = differences(known, step);
    if (fields.length > 0) steps.push({ kind: "changed", step: step.id, title: step.title, fields });
    else if (!inOrder.has(before.steps.indexOf(known)))
      steps.push({ kind: "moved", step: step.id, title: step.title, fields: [] });
  });
  for (const step of before.steps)
    if (!fresh.has(step.id)) steps.push({ kind: "removed", step: step.id, title: step.title, fields: [] });
  const { steps: _a, version: _b, ...left } = before;
  const { steps: _c, version: _d, ...right } = after;
  return { fields: differences(left, right), steps };
}

function differences(before: object, after: object): { field: string; before: string; after: string }[] {
  const [a, b] = [before as Record<string, unknown>, after as Record<string, unknown>];
  return [...new Set([...Object.keys(a), ...Object.keys(b)])]
    .filter((field) => JSON.stringify(a[field]) !== JSON.stringify(b[field]))
    .map((field) => ({ field, before: asText(a[field]), after: asText(b[field]) }));
}

function asText(value: unknown): string {
  if (value === undefined) return "";
  return typeof value === "string" ? value : JSON.stringify(value);
}

/** Values of one longest increasing subsequence. */
function longestIncreasing(values: readonly number[]): Set<number> {
  const best: { length: number; from: number }[] = [];
  let end = -1;
  values.forEach((value, i) => {
    best[i] = { length: 1, from: -1 };
    for (let j = 0; j < i; j++)
      if (must(values[j]) < value && must(best[j]).length + 1 > best[i].length)
        best[i] = { length: must(best[j]).length + 1, from: j };
    if (end < 0 || best[i].length > must(best[end]).length) end = i;
  });
  const chosen = new Set<number>();
  for (let i = end; i >= 0; i = must(best[i]).from) chosen.add(must(values[i]));
  return chosen;
}
