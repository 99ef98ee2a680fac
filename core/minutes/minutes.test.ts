import type { RunEvent } from "../sheet/run-event";
import { handsOnMinutes } from "./hands-on-minutes";
import { learnMinutes } from "./learn-minutes";

const at = (minute: number, type: string, more: object = {}): RunEvent =>
  ({
    id: `e${String(minute).padStart(4, "0")}`,
    runId: "r",
    by: "p",
    device: "d",
    at: new Date(Date.UTC(2026, 0, 5, 8, minute)).toISOString(),
    type,
    ...more,
  }) as RunEvent;

describe("hands-on minutes of a log", () => {
  it("are the time between entries, without running clocks and pauses", () => {
    const log = [
      at(0, "started"),
      at(5, "step-done", { step: "a" }),
      at(6, "timer-started", { step: "soak" }),
      at(24, "timer-stopped", { step: "soak" }),
      at(28, "paused"),
      at(70, "resumed"),
      at(73, "step-done", { step: "b" }),
    ];
    expect(handsOnMinutes(log)).toBe(5 + 1 + 4 + 3);
    expect(handsOnMinutes([...log].reverse())).toBe(13);
  });

  it("count work done while a clock runs, and cut long silences", () => {
    const log = [
      at(0, "started"),
      at(1, "timer-started", { step: "soak" }),
      at(8, "step-done", { step: "a" }),
      at(20, "timer-stopped", { step: "soak" }),
      at(200, "step-done", { step: "b" }),
    ];
    expect(handsOnMinutes(log)).toBe(1 + 7 + 20);
    expect(handsOnMinutes([at(0, "started")])).toBeNull();
  });
});

describe("learned minutes", () => {
  const sample = (minutes: number, sameSite = true, samePerson = true) => ({ minutes, sameSite, samePerson });

  it("come from the closest group that is large enough", () => {
    const elsewhere = [60, 62, 64].map((minutes) => sample(minutes, false));
    expect(learnMinutes(30, [sample(40), sample(42), ...elsewhere])).toMatchObject({
      minutes: 62 - 2,
      basis: "person",
      n: 5,
    });
    expect(learnMinutes(30, [sample(40), sample(42), sample(44), ...elsewhere])).toMatchObject({
      minutes: 42,
      basis: "person-site",
      n: 3,
      low: 41,
      high: 43,
    });
    expect(
      learnMinutes(30, [sample(40), sample(41, true, false), sample(45, true, false), ...elsewhere]),
    ).toMatchObject({ minutes: 41, basis: "site" });
  });

  it("stay with the typical figure while there is little", () => {
    expect(learnMinutes(30, [sample(90), sample(95)])).toEqual({
      minutes: 30,
      low: null,
      high: null,
      n: 0,
      basis: "typical",
      spread: 0.25,
    });
  });

  it("do not follow one odd service", () => {
    const usual = [30, 31, 32, 33].map((minutes) => sample(minutes));
    expect(learnMinutes(30, [...usual, sample(400)]).minutes).toBe(32);
    expect(learnMinutes(30, [...usual, sample(400)]).spread).toBeLessThan(0.1);
  });

  // Quartiles of 1 … 9 by R's default (type 7) are 3 and 7; the median absolute deviation about 5 is that of logarithms here.
  it("give the middle half by the usual definition", () => {
    expect(
      learnMinutes(
        5,
        [1, 2, 3, 4, 5, 6, 7, 8, 9].map((minutes) => sample(minutes)),
      ),
    ).toMatchObject({ minutes: 5, low: 3, high: 7 });
    expect(() => learnMinutes(0, [])).toThrow(/greater than zero/);
  });
});

describe("a cool-down", () => {
  const gate = (last: number, type = "safety-confirmed", step = "cool"): RunEvent[] => [
    at(0, "started"),
    at(2, "timer-started", { step: "cool" }),
    at(last, type, { step }),
    at(last + 1, "step-done", { step: "a" }),
  ];

  it("ends with the confirmation of its own gate: the time is a wait, not work", () => {
    expect(handsOnMinutes(gate(17))).toBe(2 + 1);
  });

  it("is worked through when another gate is confirmed meanwhile", () => {
    expect(handsOnMinutes(gate(17, "safety-confirmed", "other"))).toBe(2 + 15 + 1);
  });

  it("is over with its confirmation: what comes after counts again", () => {
    const log = [...gate(17), at(30, "timer-stopped", { step: "cool" })];
    expect(handsOnMinutes(log)).toBe(2 + 1 + 12);
  });

  it("leaves corrections out, which come days later", () => {
    const log = [...gate(17), at(58, "corrected", { ref: "e0018" })];
    expect(handsOnMinutes(log)).toBe(3);
  });
});

describe("learned minutes rest on services that say something", () => {
  const sample = (minutes: number, sameSite = true, samePerson = true) => ({ minutes, sameSite, samePerson });

  it("not on those of no minutes, of which there may be many", () => {
    const nothing = Array.from({ length: 20 }, () => sample(0));
    expect(learnMinutes(30, nothing)).toEqual({
      minutes: 30,
      low: null,
      high: null,
      n: 0,
      basis: "typical",
      spread: 0.25,
    });
    expect(learnMinutes(30, [...nothing, sample(40), sample(41), sample(60)])).toMatchObject({ minutes: 41, n: 3 });
    expect(learnMinutes(30, [...nothing, sample(40), sample(41)])).toMatchObject({ basis: "typical", n: 0 });
  });

  it("takes the closest group that has three of them", () => {
    const basis = (...samples: ReturnType<typeof sample>[]) => learnMinutes(30, samples).basis;
    const three = (sameSite: boolean, samePerson: boolean) => [1, 2, 3].map((one) => sample(one, sameSite, samePerson));
    expect(basis(...three(true, true), ...three(false, false))).toBe("person-site");
    expect(basis(sample(1), ...three(true, false), ...three(false, true))).toBe("site");
    expect(basis(sample(1), sample(1, true, false), ...three(false, true))).toBe("person");
    expect(basis(sample(1), sample(1, true, false), sample(1, false, true))).toBe("everybody");
  });

  it("gives the middle half, a spread that one odd service does not carry, and never less than a minute", () => {
    const learned = learnMinutes(
      30,
      [10, 20, 30, 40, 50].map((one) => sample(one)),
    );
    expect(learned).toMatchObject({ minutes: 30, low: 20, high: 40, n: 5 });
    // The median deviation of the logarithms from ln 30 is ln(30 / 20) or ln(50 / 30): 0.405 and 0.511, 0.288, 1.099.
    expect(learned.spread).toBeCloseTo(1.4826 * Math.log(30 / 20), 9);
    expect(
      learnMinutes(
        30,
        [7, 7, 7].map((one) => sample(one)),
      ).spread,
    ).toBe(0.05);
    expect(
      learnMinutes(
        30,
        [0.2, 0.3, 0.4].map((one) => sample(one)),
      ).minutes,
    ).toBe(1);
    expect(() => learnMinutes(0, [])).toThrow(/typical/);
    expect(() => learnMinutes(30, [sample(5), sample(-1)])).toThrow(/samples\[1\]\.minutes/);
  });
});
