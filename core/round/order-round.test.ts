import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import type { CoreError } from "../errors";
import { must } from "../must";
import { uniform } from "../random";
import { draws } from "../testing/draws";
import { driveRound, orderRound } from "./order-round";
import { euclidean, geographical, type Tour, TOURS } from "./testing/tours";
import type { RoundProblem } from "./types";

const stop = (id: string, minutes = 10, ...windows: [number, number][]) => ({
  id,
  minutes,
  ...(windows.length > 0 ? { windows } : {}),
});
const line = (...at: number[]): number[][] => [0, ...at].map((a) => [0, ...at].map((b) => Math.abs(a - b)));

describe("a round", () => {
  it("goes the short way and counts the way back", () => {
    const round = orderRound({
      stops: [stop("far", 5), stop("near", 5), stop("other side", 5)],
      travel: line(20, 10, -5),
    });
    expect(round).toMatchObject({ status: "optimal", travelMinutes: 50, lateMinutes: 0, endAt: 65 });
    expect([
      ["near", "far", "other side"],
      ["other side", "near", "far"],
      ["other side", "far", "near"],
      ["far", "near", "other side"],
    ]).toContainEqual(round.order);
  });

  it("waits for an opening, between windows too, and is late only after the last", () => {
    const one = (arrival: number) =>
      driveRound({ stops: [stop("a", 10, [20, 30], [50, 60])], travel: line(arrival) }, ["a"]);
    expect(one(5)).toEqual({ arrive: [5], start: [20], leave: [30], travelMinutes: 10, lateMinutes: 0, endAt: 35 });
    expect(one(25)).toMatchObject({ start: [25], leave: [35], lateMinutes: 0 });
    expect(one(40)).toMatchObject({ start: [50], lateMinutes: 0 });
    expect(one(65)).toMatchObject({ start: [65], leave: [75], lateMinutes: 5 });
  });

  it("would rather travel more than be late", () => {
    const round = orderRound({ stops: [stop("near", 30), stop("far", 30, [0, 25])], travel: line(10, 20) });
    expect(round).toMatchObject({ order: ["far", "near"], lateMinutes: 0, travelMinutes: 40 });
  });

  it("waits for a ferry; the last of the day missed, for the first of the next", () => {
    const problem = (leaving: number): RoundProblem => ({
      stops: [stop("island", 10)],
      travel: line(99),
      startAt: leaving,
      timetables: [
        { from: 0, to: 1, departures: [60, 30], minutes: 15 },
        { from: 1, to: 0, departures: [100], minutes: 20 },
      ],
    });
    expect(orderRound(problem(31))).toMatchObject({ arrive: [75], travelMinutes: 35, endAt: 120 });
    expect(orderRound(problem(61))).toMatchObject({ arrive: [1440 + 45], endAt: 1440 + 120 });
    expect(orderRound(problem(3000)).arrive).toEqual([2 * 1440 + 1440 + 45]);
  });

  it("need not come back, and may have nothing to do", () => {
    expect(orderRound({ stops: [stop("a")], travel: line(7), returnToDepot: false })).toMatchObject({
      travelMinutes: 7,
      endAt: 17,
    });
    expect(orderRound({ stops: [], travel: [[0]], startAt: 5 })).toEqual({
      status: "optimal",
      order: [],
      arrive: [],
      start: [],
      leave: [],
      travelMinutes: 0,
      lateMinutes: 0,
      endAt: 5,
    });
  });

  it.each<[string, unknown]>([
    ["travel", { stops: [stop("a")], travel: [[0]] }],
    [
      "travel[0][1]",
      {
        stops: [stop("a")],
        travel: [
          [0, -1],
          [1, 0],
        ],
      },
    ],
    ["stops[0].minutes", { stops: [stop("a", NaN)], travel: line(1) }],
    ["stops[1].id", { stops: [stop("a"), stop("a")], travel: line(1, 2) }],
    ["stops[0].windows[0]", { stops: [stop("a", 1, [5, 4])], travel: line(1) }],
    [
      "timetables[0].departures",
      { stops: [stop("a")], travel: line(1), timetables: [{ from: 0, to: 1, departures: [], minutes: 5 }] },
    ],
    [
      "timetables[0].to",
      { stops: [stop("a")], travel: line(1), timetables: [{ from: 0, to: 2, departures: [5], minutes: 5 }] },
    ],
  ])("is refused at %s when malformed", (path, problem) => {
    expect(() => orderRound(problem as RoundProblem)).toThrow(
      expect.objectContaining({ name: "CoreError", path }) as CoreError,
    );
  });

  it("driven by hand names every stop once", () => {
    const problem = { stops: [stop("a"), stop("b")], travel: line(1, 2) };
    expect(() => driveRound(problem, ["a"])).toThrow(/every stop once/);
    expect(() => driveRound(problem, ["a", "c"])).toThrow(/no stop c/);
  });
});

/** Up to six stops with windows, unequal ways there and back, ferries. */
function randomRound(random: () => number, stops: number): RoundProblem {
  const whole = (most: number): number => Math.floor(random() * (most + 1));
  return {
    stops: Array.from({ length: stops }, (_, i) => ({
      id: `s${i}`,
      minutes: whole(30),
      ...(random() < 0.6
        ? {
            windows: Array.from({ length: 1 + whole(1) }, () => whole(150)).map((from): [number, number] => [
              from,
              from + whole(60),
            ]),
          }
        : {}),
    })),
    travel: Array.from({ length: stops + 1 }, (_, i) =>
      Array.from({ length: stops + 1 }, (_unused, k) => (i === k ? 0 : 1 + whole(40))),
    ),
    startAt: whole(30),
    returnToDepot: random() < 0.7,
    timetables:
      random() < 0.5
        ? []
        : [{ from: whole(stops), to: whole(stops), departures: [whole(100), 100 + whole(100)], minutes: whole(30) }],
  };
}

function permutations<T>(list: T[]): T[][] {
  if (list.length < 2) return [list];
  return list.flatMap((one, i) =>
    permutations([...list.slice(0, i), ...list.slice(i + 1)]).map((rest) => [one, ...rest]),
  );
}

it("agrees with trying every order, on small rounds", () => {
  for (let seed = 0; seed < draws(120, 1_200); seed++) {
    const problem = randomRound(uniform(xoroshiro128plus(seed)), 1 + (seed % 6));
    const tried = permutations(problem.stops.map((one) => one.id)).map((order) => driveRound(problem, order));
    tried.sort((a, b) => a.lateMinutes - b.lateMinutes || a.travelMinutes - b.travelMinutes || a.endAt - b.endAt);
    const { status, order, ...times } = orderRound(problem, { nodeLimit: 200_000, seed });
    expect(status).toBe("optimal");
    expect(driveRound(problem, order)).toEqual(times);
    const key = (one: typeof times) => [one.lateMinutes, one.travelMinutes, one.endAt];
    expect({ seed, best: key(times) }).toEqual({ seed, best: key(must(tried[0])) });
  }
}, 300_000);

it("is proven for thirteen stops with windows and ferries in seconds, and the same for the same seed", () => {
  const problem = randomRound(uniform(xoroshiro128plus(4)), 13);
  const round = orderRound(problem, { nodeLimit: 5_000_000 });
  expect(round.status).toBe("optimal");
  expect(orderRound(problem, { nodeLimit: 5_000_000 })).toEqual(round);
});

/** Published tours and their optimal lengths; the sources stand beside the coordinates. */
describe("published tours", () => {
  const problem = ({ points, distance }: Tour): RoundProblem => ({
    stops: points.slice(1).map((_, i) => ({ id: `p${i + 1}`, minutes: 0 })),
    travel: points.map((a) =>
      points.map((b) => (a === b ? 0 : distance === "euclidean" ? euclidean(a, b) : geographical(a, b))),
    ),
  });

  it("burma14 is proven", () => {
    expect(orderRound(problem(TOURS.burma14), { nodeLimit: 5_000_000 })).toMatchObject({
      status: "optimal",
      travelMinutes: TOURS.burma14.optimum,
    });
  });

  it.each(["ulysses16", "eil51", "berlin52"] as const)("%s is within 1 %% of the optimum", (name) => {
    const { travelMinutes } = orderRound(problem(TOURS[name]), { nodeLimit: 1_500_000 });
    expect(travelMinutes).toBeGreaterThanOrEqual(TOURS[name].optimum);
    expect(travelMinutes).toBeLessThanOrEqual(TOURS[name].optimum * 1.01);
  });
});
