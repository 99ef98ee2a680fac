import fc from "fast-check";

import { clockworkOf, drive } from "./clockwork";
import type { RoundProblem } from "./types";

const stops = (count: number) => Array.from({ length: count }, (_, i) => ({ id: `s${i}`, minutes: 10 }));
const even = (size: number, way: number) =>
  Array.from({ length: size }, (_, a) => Array.from({ length: size }, (__, b) => (a === b ? 0 : way)));
const round = (more: Partial<RoundProblem> = {}): RoundProblem => ({ stops: stops(2), travel: even(3, 20), ...more });
const ferry = (departures: number[], minutes = 15) => ({ from: 0, to: 1, departures, minutes });

describe("a leg that leaves at set times", () => {
  it("leaves at the first departure from then on, its own minute included", () => {
    const clock = clockworkOf(round({ timetables: [ferry([600, 480])] }));
    expect([0, 480, 481, 600].map((time) => clock.arrive(0, 1, time))).toEqual([495, 495, 615, 615]);
    // Back, and to other places, one goes when one likes.
    expect(clock.arrive(1, 0, 481)).toBe(501);
    expect(clock.travel[0]?.[1]).toBe(15);
  });

  it("comes again a day later, as often as it takes", () => {
    const clock = clockworkOf(round({ timetables: [ferry([480, 600])] }));
    expect(clock.arrive(0, 1, 601)).toBe(480 + 1440 + 15);
    expect(clock.arrive(0, 1, 600 + 1440)).toBe(600 + 1440 + 15);
    expect(clock.arrive(0, 1, 601 + 2 * 1440)).toBe(480 + 3 * 1440 + 15);
  });

  it("is the earliest that any day's departures give, found by trying them all", () => {
    const departures = fc.array(fc.integer({ min: 0, max: 1439 }), { minLength: 1, maxLength: 5 });
    fc.assert(
      fc.property(departures, fc.integer({ min: 0, max: 5000 }), (times, leave) => {
        const all = times.flatMap((time) => [0, 1, 2, 3, 4, 5].map((day) => time + day * 1440));
        const next = Math.min(...all.filter((time) => time >= leave));
        expect(clockworkOf(round({ timetables: [ferry(times)] })).arrive(0, 1, leave)).toBe(next + 15);
      }),
    );
  });
});

describe("the hours of a stop", () => {
  const hours = (...windows: [number, number][]) =>
    clockworkOf(round({ stops: [{ id: "a", minutes: 10, windows }, ...stops(1)] }));

  it("let work begin from their first to their last minute, wait for the next, and are late after the last", () => {
    const clock = hours([600, 660], [480, 540]);
    expect([400, 480, 540, 541, 660, 661].map((time) => clock.open(1, time))).toEqual([480, 480, 540, 600, 660, 661]);
    expect([540, 660, 661, 700].map((time) => clock.late(1, time))).toEqual([0, 0, 1, 40]);
  });

  it("are all day where there are none", () => {
    const clock = clockworkOf(round({ stops: [{ id: "a", minutes: 10, windows: [] }, ...stops(1)] }));
    expect([clock.open(1, 7), clock.late(1, 1e9), clock.plain]).toEqual([7, 0, true]);
    expect(hours([480, 540]).plain).toBe(false);
    expect(clockworkOf(round({ timetables: [ferry([480])] })).plain).toBe(false);
    // One stop with hours is enough: others without do not make it plain.
    expect(clockworkOf(round({ stops: [...stops(1), { id: "a", minutes: 1, windows: [[1, 2]] }] })).plain).toBe(false);
  });
});

describe("a round that is driven", () => {
  it("adds up ways, waiting and work, and comes home unless it need not", () => {
    const clock = clockworkOf(
      round({
        startAt: 480,
        stops: [
          { id: "a", minutes: 10, windows: [[540, 545]] },
          { id: "b", minutes: 30 },
        ],
      }),
    );
    expect(drive(clock, [1, 2])).toEqual({
      arrive: [500, 570],
      start: [540, 570],
      leave: [550, 600],
      travelMinutes: 60,
      lateMinutes: 0,
      endAt: 620,
    });
    expect(drive(clock, [2, 1])).toMatchObject({ arrive: [500, 550], lateMinutes: 5, endAt: 580 });
    const away = clockworkOf(round({ returnToDepot: false }));
    expect(drive(away, [1, 2])).toMatchObject({ travelMinutes: 40, endAt: 60 });
    expect(drive(clock, [])).toMatchObject({ travelMinutes: 0, endAt: 480, arrive: [] });
  });
});

describe("a malformed round", () => {
  const says = (more: Partial<RoundProblem>): [string, string, string] => {
    try {
      clockworkOf(round(more));
      return ["", "", ""];
    } catch (error) {
      const { code, path, message } = error as { code: string; path: string; message: string };
      return [code, path, message];
    }
  };

  it.each<[Partial<RoundProblem>, [string, string, string]]>([
    [{ stops: [...stops(1), ...stops(1)] }, ["bad-value", "stops[1].id", "Stop s0 is listed twice."]],
    [
      { stops: [{ id: "a", minutes: 1, windows: [[5, 4]] }, ...stops(1)] },
      ["out-of-range", "stops[0].windows[0]", "stops[0].windows[0] ends (4) before it begins (5)."],
    ],
    [
      { stops: [{ id: "a", minutes: 1, windows: [[5] as unknown as [number, number]] }, ...stops(1)] },
      ["bad-value", "stops[0].windows[0]", "stops[0].windows[0] must be [from, to]."],
    ],
    [{ travel: even(2, 1) }, ["bad-value", "travel", "For 2 stops travel needs 3 rows of 3 minutes, the depot first."]],
    [
      { travel: [...even(3, 1).slice(1), [0, 1]] },
      ["bad-value", "travel", "For 2 stops travel needs 3 rows of 3 minutes, the depot first."],
    ],
    [
      { timetables: [{ ...ferry([1]), to: 3 }] },
      ["unknown-reference", "timetables[0].to", "There is no place 3 in a round of 2 stops."],
    ],
    [
      { timetables: [ferry([1]), { ...ferry([1]), from: -1 }] },
      ["unknown-reference", "timetables[1].from", "There is no place -1 in a round of 2 stops."],
    ],
    [{ timetables: [ferry([])] }, ["missing", "timetables[0].departures", "Timetable 0 has no departures."]],
  ])("%#: is told", (more, expected) => {
    expect(says(more)).toEqual(expected);
  });

  it.each<[Partial<RoundProblem>, string]>([
    [{ stops: [{ id: "a", minutes: -1 }, ...stops(1)] }, "stops[0].minutes"],
    [
      {
        travel: [
          [0, 1, 1],
          [1, 0, -1],
          [1, 1, 0],
        ],
      },
      "travel[1][2]",
    ],
    [{ startAt: NaN }, "startAt"],
    [{ timetables: [ferry([1, Infinity])] }, "timetables[0].departures[1]"],
    [{ timetables: [ferry([1], -1)] }, "timetables[0].minutes"],
    [{ stops: [{ id: "a", minutes: 1, windows: [[NaN, 4]] }, ...stops(1)] }, "stops[0].windows[0][0]"],
  ])("%#: is named", (more, path) => {
    expect(says(more)[1]).toBe(path);
  });

  it("is not one whose hours are a single minute", () => {
    expect(says({ stops: [{ id: "a", minutes: 0, windows: [[5, 5]] }, ...stops(1)] })[0]).toBe("");
  });
});
