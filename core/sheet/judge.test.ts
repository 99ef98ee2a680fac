import {
  coolEnough,
  judgedTogether,
  judgeReading,
  judgeWait,
  limitsOf,
  limitWords,
  maxWarningMinutes,
  minutesBetween,
  summaryOf,
  timedBounds,
  timerNow,
} from "./judge";
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
    expect(limitWords({ above: 5, max: 9.5 }, "°C")).toBe("above 5 and at most 9.5 °C");
    // Binary remainders of a conversion are not shown.
    expect(limitWords({ min: 0.1 + 0.2 }, "mm")).toBe("at least 0.3 mm");
    expect(limitWords({ min: 0, max: 2 }, "nozzles")).toBe("at most 2 nozzles");
    expect(limitWords({ min: 0, below: 0.02 }, "in")).toBe("below 0.02 in");
    expect(limitWords({ min: 0, max: 5 }, "°C")).toBe("at least 0 and at most 5 °C");
    expect(limitWords({ min: 0 }, "h")).toBe("at least 0 h");
    // Voltages, and units that nobody knows, go below nothing: there the limit is one.
    expect(limitWords({ min: 0, max: 5 }, "V")).toBe("at least 0 and at most 5 V");
    expect(limitWords({ min: 0, max: 5 }, "")).toBe("at least 0 and at most 5 ");
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

describe("what a step is held against", () => {
  const reset: Step = { id: "r", kind: "reset", title: "Reset", meter: "hours", expect: 0 };
  const gap: Step = { id: "g", kind: "measure", title: "Gap", reading: "gap", unit: "in", limits: { below: 0.02 } };

  it("is its limits, for a counter exactly what it is set back to", () => {
    expect(limitsOf(gap)).toEqual({ below: 0.02 });
    expect(limitsOf(reset)).toEqual({ min: 0, max: 0 });
    expect(limitsOf(soak)).toBeUndefined();
  });

  it("is one figure where readings are judged together", () => {
    expect(summaryOf("mean", [300, 301, 305])).toBe(302);
    expect(summaryOf("spread", [300, 301, 305])).toBe(5);
    expect(summaryOf("spread", [7])).toBe(0);
    expect(judgedTogether({ ...gap, judge: "mean" })).toBe(true);
    expect(judgedTogether({ ...gap, judge: "each" })).toBe(false);
    expect(judgedTogether(gap)).toBe(false);
    expect(judgedTogether(reset)).toBe(false);
  });
});

describe("a clock", () => {
  const gate = { id: "g", kind: "safety", title: "Cool", checks: [] } as const;

  it("belongs to waits, and to cool-downs by time", () => {
    expect(timedBounds(soak)).toMatchObject({ minMinutes: 15, maxMinutes: 20 });
    expect(timedBounds({ ...gate, coolDown: { minutes: 30 } } as unknown as Step)).toEqual({ minMinutes: 30 });
    expect(timedBounds({ ...gate, coolDown: { belowC: 50 } } as unknown as Step)).toBeNull();
    expect(timedBounds({ ...gate } as unknown as Step)).toBeNull();
    expect(timedBounds({ id: "d", kind: "do", title: "Do" })).toBeNull();
  });

  it("is judged with both ends in the band", () => {
    expect([14.99, 15, 20, 20.01].map((minutes) => judgeWait(minutes, soak))).toEqual(["short", "in", "in", "long"]);
    expect(judgeWait(1e6, { minMinutes: 15 })).toBe("in");
  });

  it("tells minutes between instants of any offset, never below nothing", () => {
    expect(minutesBetween("2026-06-01T08:00:00Z", "2026-06-01T10:30:00+02:00")).toBe(30);
    expect(minutesBetween("2026-06-01T08:00:00Z", "2026-06-01T07:00:00Z")).toBe(0);
    expect(() => minutesBetween("2026-06-01T08:00:00", "2026-06-01T07:00:00Z")).toThrow(/^at must be an instant/);
  });

  it("says what to do now", () => {
    const says = (minutes: number) => timerNow(soak, 0, minutes * 60_000).says;
    expect([0, 16, 19, 21].map(says)).toEqual([
      "not before 15 min",
      "long enough; out by 20 min",
      "take it out now: at most 20 min",
      "past the maximum of 20 min",
    ]);
    expect(timerNow({ minMinutes: 15 }, 0, 16 * 60_000).says).toBe("long enough");
    expect(timerNow(soak, 0, 5 * 60_000)).toMatchObject({ elapsedMinutes: 5, toMinMinutes: 10, toMaxMinutes: 15 });
  });

  it("opens a gate by temperature or by time, whichever comes, and one without either at once", () => {
    const at = (more: object) =>
      ({ readings: [], timer: null, ...more }) as unknown as Parameters<typeof coolEnough>[1];
    const cool = (coolDown: object | undefined, state: object, minutes = 0) =>
      coolEnough({ ...gate, ...(coolDown && { coolDown }) } as never, at(state), minutes * 60_000);
    const began = { startedAt: "1970-01-01T00:00:00Z" };
    expect(cool(undefined, {})).toBe(true);
    expect(cool({ belowC: 50 }, { readings: [{ value: 49.9 }] })).toBe(true);
    expect(cool({ belowC: 50 }, { readings: [{ value: 40 }, { value: 50 }] })).toBe(false);
    expect(cool({ belowC: 50 }, { timer: began }, 600)).toBe(false);
    expect(cool({ minutes: 30 }, { readings: [{ value: -5 }], timer: began }, 29.9)).toBe(false);
    expect(cool({ minutes: 30 }, { timer: began }, 30)).toBe(true);
    expect(cool({ minutes: 30, belowC: 50 }, { readings: [{ value: 20 }] })).toBe(true);
    expect(coolEnough({ ...gate, coolDown: { minutes: 1 } } as never, null, 1e9)).toBe(false);
  });
});
