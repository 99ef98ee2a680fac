import { judgeReading, limitWords, maxWarningMinutes, timerNow } from "./judge";
import type { Step } from "./procedure";

const soak: Extract<Step, { kind: "wait" }> = { id: "s", kind: "wait", title: "Soak", minMinutes: 15, maxMinutes: 20 };

describe("limits", () => {
  it("counts min and max as within, above and below as out", () => {
    expect([0.79, 0.8, 1.6, 1.61].map((value) => judgeReading(value, { min: 0.8, max: 1.6 }))).toEqual([
      "low",
      "in",
      "in",
      "high",
    ]);
    expect([0.0199, 0.02].map((value) => judgeReading(value, { below: 0.02 }))).toEqual(["in", "high"]);
    expect([5, 5.1].map((value) => judgeReading(value, { above: 5 }))).toEqual(["low", "in"]);
    expect(judgeReading(1e9, undefined)).toBe("in");
  });
  it("says them in words", () => {
    expect(limitWords({ min: 0.8, max: 1.6 }, "in")).toBe("at least 0.8 and at most 1.6 in");
    expect(limitWords({ below: 0.02 }, "in")).toBe("below 0.02 in");
  });
});

describe("a running timer", () => {
  const phase = (minutes: number) => timerNow(soak, 0, minutes * 60_000).phase;
  it("warns before the maximum passes", () => {
    expect([0, 14.9, 15, 17.9, 18, 20, 20.1].map(phase)).toEqual([
      "before-min",
      "before-min",
      "ready",
      "ready",
      "near-max",
      "near-max",
      "past-max",
    ]);
  });
  it("warns two minutes ahead, or half of a narrow window", () => {
    expect(maxWarningMinutes(soak)).toBe(2);
    expect(maxWarningMinutes({ ...soak, maxMinutes: 16 })).toBe(0.5);
  });
  it("without a maximum it is ready for ever", () => {
    const { maxMinutes: _, ...open } = soak;
    expect(timerNow(open, 0, 1e9)).toMatchObject({ phase: "ready", toMaxMinutes: null });
  });
  it("does not run backwards on a device whose clock is behind", () => {
    expect(timerNow(soak, 60_000, 0).elapsedMinutes).toBe(0);
  });
});
