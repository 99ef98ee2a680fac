import type { PlanRules } from "@db";

/** Duties contained in another one that is on the same day: plan id to the containing duty's title. */
export function containedDuties(
  rows: readonly { planId: string; machineId: string; procedureId: string; title: string; rules: PlanRules }[],
): Map<string, string> {
  const contained = new Map<string, string>();
  for (const outer of rows) {
    for (const inner of rows) {
      if (inner === outer || inner.machineId !== outer.machineId) continue;
      if ((outer.rules.covers ?? []).some((id) => id === inner.planId || id === inner.procedureId))
        contained.set(inner.planId, outer.title);
    }
  }
  return contained;
}
