import fc from "fast-check";

import { failureFigures, groupFigures } from "./failure-figures";
import { onTime } from "./on-time";
import { pareto } from "./pareto";

const day = (n: number): string => new Date(Date.UTC(2026, 0, 1) + n * 86_400_000).toISOString();
const down = (from: number, to: number | null) => ({ stoppedAt: day(from), backAt: to === null ? null : day(to) });

describe("failure figures", () => {
  it("one failure of a day in ten days", () => {
    expect(failureFigures({ from: day(0), until: day(10), failures: [down(1, 2)] })).toEqual({
      mtbfHours: 216,
      mttrHours: 24,
      availability: 0.9,
    });
  });
  it("what overlaps is down once; what is open is down until the end, and no repair", () => {
    expect(failureFigures({ from: day(0), until: day(10), failures: [down(1, 3), down(2, 4), down(8, null)] })).toEqual(
      {
        mtbfHours: (5 * 24) / 3,
        mttrHours: 48,
        availability: 0.5,
      },
    );
  });
  it("what began before the span is down in it, but no failure of it; its repair has its whole length", () => {
    expect(failureFigures({ from: day(10), until: day(20), failures: [down(5, 12)] })).toEqual({
      mtbfHours: null,
      mttrHours: 168,
      availability: 0.8,
    });
  });
  it("nothing happened", () => {
    expect(failureFigures({ from: day(0), until: day(1), failures: [] })).toEqual({
      mtbfHours: null,
      mttrHours: null,
      availability: 1,
    });
  });
  it("agrees with counting the hours one by one", () => {
    const hour = fc.integer({ min: -50, max: 250 });
    fc.assert(
      fc.property(fc.array(fc.tuple(hour, fc.option(fc.nat(60))), { maxLength: 8 }), (drawn) => {
        const at = (h: number): string => day(h / 24);
        const failures = drawn.map(([from, length]) => ({
          stoppedAt: at(from),
          backAt: length === null ? null : at(from + length),
        }));
        const up = Array.from({ length: 200 }, (_, h) => h).filter(
          (h) => !drawn.some(([from, length]) => h >= from && h < (length === null ? Infinity : from + length)),
        ).length;
        const found = failureFigures({ from: at(0), until: at(200), failures });
        expect(found.availability).toBeCloseTo(up / 200, 9);
        const began = drawn.filter(([from]) => from >= 0 && from < 200).length;
        if (began > 0) expect(found.mtbfHours).toBeCloseTo(up / began, 6);
        else expect(found.mtbfHours).toBeNull();
      }),
      { numRuns: 300 },
    );
  });
  it.each([
    [{ from: day(1), until: day(1), failures: [] }, "until"],
    [{ from: "yesterday", until: day(1), failures: [] }, "from"],
    [{ from: day(0), until: day(5), failures: [down(3, 2)] }, "failures[0].backAt"],
  ])("says what is wrong with %j", (input, path) => {
    expect(() => failureFigures(input)).toThrow(expect.objectContaining({ path }) as Error);
  });
});

describe("on time", () => {
  it("counts what is done, and what is past its day and grace", () => {
    const due = [
      { due: "2026-01-05", done: "2026-01-05" },
      { due: "2026-01-05", done: "2026-01-07" },
      { due: "2026-01-05", done: "2026-01-08" },
      { due: "2026-01-05", done: null },
      { due: "2026-01-30", done: null },
    ];
    expect(onTime({ due, today: "2026-02-01", graceDays: 2 })).toMatchObject({ n: 4, share: 0.5 });
    expect(onTime({ due, today: "2026-02-02", graceDays: 2 })).toMatchObject({ n: 5, share: 0.4 });
  });
  it("the interval of a published example", () => {
    // R. G. Newcombe, Statistics in Medicine 17 (1998) 857–872, table I, Wilson score without correction (from memory).
    const due = Array.from({ length: 263 }, (_, i) => ({ due: "2026-01-05", done: i < 81 ? "2026-01-05" : null }));
    const { low, high } = onTime({ due, today: "2026-02-01" });
    expect([low.toFixed(4), high.toFixed(4)]).toEqual(["0.2553", "0.3662"]);
  });
  it("says nothing of nothing", () =>
    expect(onTime({ due: [], today: "2026-02-01" })).toEqual({ share: 0, low: 0, high: 1, n: 0 }));
  it("wants days that exist", () => {
    expect(() => onTime({ due: [{ due: "2026-02-30", done: null }], today: "2026-02-01" })).toThrow(
      expect.objectContaining({ path: "due[0].due" }) as Error,
    );
  });
});

describe("pareto", () => {
  it("the largest first, with what it comes to with those above it", () => {
    const counts = [
      { id: "a", n: 1 },
      { id: "none", n: 0 },
      { id: "b", n: 5 },
      { id: "c", n: 2 },
      { id: "d", n: 2 },
    ];
    expect(pareto(counts)).toEqual([
      { id: "b", n: 5, share: 0.5, together: 0.5 },
      { id: "c", n: 2, share: 0.2, together: 0.7 },
      { id: "d", n: 2, share: 0.2, together: 0.9 },
      { id: "a", n: 1, share: 0.1, together: 1 },
    ]);
    expect(counts.map((one) => one.id)).toEqual(["a", "none", "b", "c", "d"]);
  });
  it("of nothing there is nothing; less than nothing is refused", () => {
    expect(pareto([])).toEqual([]);
    expect(() => pareto([{ n: -1 }])).toThrow(expect.objectContaining({ path: "counts[0].n" }) as Error);
  });
});

describe("failures of several machines", () => {
  const span = { from: "2026-01-01T00:00Z", until: "2026-01-11T00:00Z" };
  const downHours = (from: number, to: number) => ({
    stoppedAt: new Date(Date.UTC(2026, 0, 1, from)).toISOString(),
    backAt: new Date(Date.UTC(2026, 0, 1, to)).toISOString(),
  });

  it("of one machine are its own", () => {
    const one = { ...span, failures: [downHours(10, 20), downHours(15, 30), downHours(-5, 2)] };
    expect(groupFigures({ machines: [one], unfailedHours: 0 })).toEqual({
      ...failureFigures(one),
      failures: 2,
      repairs: 3,
    });
  });

  it("are operating time and failures of all: down on one machine is up on the other", () => {
    // 240 h each: one down 10 to 30, two repairs of 10 and 15; one down 10 to 20; 480 h more without a failure.
    const figures = groupFigures({
      machines: [
        { ...span, failures: [downHours(10, 20), downHours(15, 30)] },
        { ...span, failures: [downHours(10, 20)] },
      ],
      unfailedHours: 480,
    });
    expect(figures).toEqual({
      mtbfHours: (960 - 30) / 3,
      mttrHours: 35 / 3,
      availability: (960 - 30) / 960,
      failures: 3,
      repairs: 3,
    });
  });

  it("without a failure have no time between them; without a machine there is nothing to say", () => {
    expect(groupFigures({ machines: [], unfailedHours: 100 })).toEqual({
      ...{ mtbfHours: null, mttrHours: null, availability: 1, failures: 0, repairs: 0 },
    });
    expect(() => groupFigures({ machines: [], unfailedHours: 0 })).toThrow("No machine was there");
    expect(() => groupFigures({ machines: [], unfailedHours: -1 })).toThrow();
  });
});
