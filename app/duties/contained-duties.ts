import type { DutyRules } from "@db";

/** Duties contained in another one that is on the same day: duty's id to the containing duty's title. */
export function containedDuties(
  rows: readonly { dutyId: string; machineId: string; procedureId: string; title: string; rules: DutyRules }[],
): Map<string, string> {
  const contained = new Map<string, string>();
  for (const outer of rows) {
    for (const inner of rows) {
      if (inner === outer || inner.machineId !== outer.machineId) continue;
      if ((outer.rules.covers ?? []).some((id) => id === inner.dutyId || id === inner.procedureId))
        contained.set(inner.dutyId, outer.title);
    }
  }
  return contained;
}
