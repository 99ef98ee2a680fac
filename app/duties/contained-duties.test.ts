import type { DutyRules } from "@db";

import { containedDuties } from "./contained-duties";

const row = (dutyId: string, machineId: string, covers: string[] = []) => ({
  dutyId,
  machineId,
  procedureId: `procedure of ${dutyId}`,
  title: dutyId.toUpperCase(),
  rules: { triggers: [], ...(covers.length > 0 ? { covers } : {}) } as DutyRules,
});

describe("duties contained in another of the same day", () => {
  it("are named by id or by procedure, on the same machine alone", () => {
    const rows = [
      row("yearly", "m1", ["weekly", "procedure of daily"]),
      row("weekly", "m1"),
      row("daily", "m1"),
      row("other", "m1"),
    ];
    expect([...containedDuties(rows)]).toEqual([
      ["weekly", "YEARLY"],
      ["daily", "YEARLY"],
    ]);
    expect(containedDuties([row("yearly", "m1", ["weekly"]), row("weekly", "m2")]).size).toBe(0);
  });

  it("never contain themselves", () => {
    expect(containedDuties([row("a", "m1", ["a", "procedure of a"])]).size).toBe(0);
  });
});
