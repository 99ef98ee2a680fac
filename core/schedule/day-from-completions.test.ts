import { dayFromCompletions } from "./day-from-completions";

describe("a day from past completions", () => {
  it("is the last one and the median interval", () => {
    expect(dayFromCompletions(["2026-01-01", "2026-01-31", "2026-03-02"])).toEqual({ on: "2026-04-01", intervals: 2 });
    // One long break does not move it: 10, 10, 90.
    expect(dayFromCompletions(["2026-01-01", "2026-01-11", "2026-01-21", "2026-04-21"])).toEqual({
      on: "2026-05-01",
      intervals: 3,
    });
  });

  it("goes by the latest six intervals", () => {
    const old = ["2024-01-01", "2025-01-01"];
    const weekly = Array.from({ length: 7 }, (_, i) => `2026-02-${String(1 + i * 4).padStart(2, "0")}`).slice(0, 7);
    expect(dayFromCompletions([...old, ...weekly])).toEqual({ on: "2026-03-01", intervals: 6 });
  });

  it("takes days in any order, and a day once", () => {
    expect(dayFromCompletions(["2026-01-31", "2026-01-01", "2026-01-31"])).toEqual({ on: "2026-03-02", intervals: 1 });
  });

  it("is none with fewer than two days, and refuses what is no day", () => {
    expect(dayFromCompletions([])).toBeNull();
    expect(dayFromCompletions(["2026-01-01", "2026-01-01"])).toBeNull();
    expect(() => dayFromCompletions(["2026-02-30", "2026-01-01"])).toThrow(/completedOn\[0\]/);
  });
});
