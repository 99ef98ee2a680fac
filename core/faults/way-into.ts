import { must } from "../must";
import type { MachineState } from "../sheet/procedure";
import { goThrough } from "../sheet/standing-gates";
import type { StateRules } from "../sheet/states";

/** A gate on the way into what is needed. */
export interface SearchGate {
  state: MachineState;
  way: "in" | "out";
}

/**
 * Out of what the needed states exclude, what was got to last first; then into what is missing.
 *
 * @param from states in force
 * @param needed ids of states
 * @returns the gates in their order, the minutes that they and waits for them take, and what is in force behind them
 */
export function wayInto(
  rules: StateRules,
  from: ReadonlySet<string>,
  needed: readonly string[],
): { gates: SearchGate[]; minutes: number; after: Set<string> } {
  const needs = rules.order.filter((id) => needed.includes(id));
  const after = new Set(from);
  const gates: SearchGate[] = [];
  let minutes = 0;
  const leave = [...from].filter((id) => !needs.includes(id) && needs.some((one) => rules.exclude(one, id)));
  for (const id of rules.lastFirst(leave)) {
    const state = must(rules.get(id));
    goThrough(rules, after, { state: id, way: "out" });
    if (!state.out) continue;
    minutes += state.out.minutes ?? 0;
    gates.push({ state, way: "out" });
  }
  for (const id of needs) {
    if (after.has(id)) continue;
    const state = must(rules.get(id));
    goThrough(rules, after, { state: id, way: "in" });
    minutes += (state.in.minutes ?? 0) + (state.in.waitMinutes ?? 0);
    gates.push({ state, way: "in" });
  }
  return { gates, minutes, after };
}
