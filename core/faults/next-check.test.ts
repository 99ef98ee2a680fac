import fc from "fast-check";

import { must } from "../must";
import { draws } from "../testing/draws";
import { orderChecks } from "../tools/order-checks";
import { nextCheck, type NextCheckInput } from "./next-check";

const cause = (id: string, weight: number) => ({ id, weight });

/** One of many, written out from the rule and not from the search: every order of the checks, each gone through step by step. */
function leastOfAllOrders({ causes, checks, seen, from, ways = {} }: NextCheckInput): number {
  const done = new Map(seen.map((one) => [one.check, one.found]));
  const likely = causes.map(({ id, weight }) =>
    checks.reduce((all, check) => {
      const result = done.get(check.id);
      const shows = check.finds[id] ?? 0;
      return result === undefined ? all : all * (result ? shows : 1 - shows);
    }, weight),
  );
  const total = likely.reduce((sum, one) => sum + one, 0);
  let least = Infinity;
  const go = (chances: number[], open: typeof checks, at: string | undefined, spent: number): void => {
    const able = open.filter(({ finds }) => causes.some(({ id }, c) => must(chances[c]) * (finds[id] ?? 0) > 0));
    if (able.length === 0) least = Math.min(least, spent);
    for (const check of able) {
      const way = check.state && at && at !== check.state ? must(must(ways[at])[check.state]) : 0;
      const reached = chances.reduce((sum, one) => sum + one, 0);
      go(
        chances.map((one, c) => one * (1 - (check.finds[must(causes[c]).id] ?? 0))),
        open.filter((one) => one !== check),
        check.state ?? at,
        spent + reached * (way + check.minutes),
      );
    }
  };
  go(
    likely.map((one) => one / total),
    checks.filter((one) => !done.has(one.id)),
    from,
    0,
  );
  return least;
}

const STATES = ["running", "isolated", "cool"];
const share = fc.oneof(
  fc.constant(0),
  fc.constant(1),
  fc.constantFrom(0.5, 0.8, 0.95),
  fc.double({ min: 0.001, max: 1, noNaN: true }),
);
const drawnCase: fc.Arbitrary<NextCheckInput> = fc
  .record({ causes: fc.integer({ min: 1, max: 5 }), checks: fc.integer({ min: 1, max: 6 }) })
  .chain(({ causes, checks }) =>
    fc.record({
      causes: fc
        .array(fc.double({ min: 0.01, max: 9, noNaN: true }), { minLength: causes, maxLength: causes })
        .map((weights) => weights.map((weight, i) => cause(`c${i}`, weight))),
      checks: fc
        .array(
          fc.record({
            minutes: fc.integer({ min: 0, max: 30 }),
            shares: fc.array(share, { minLength: causes, maxLength: causes }),
            state: fc.option(fc.constantFrom(...STATES), { nil: undefined }),
          }),
          { minLength: checks, maxLength: checks },
        )
        .map((list) =>
          list.map(({ minutes, shares, state }, k) => ({
            id: `k${k}`,
            minutes,
            finds: Object.fromEntries(shares.map((one, i) => [`c${i}`, one])),
            ...(state && { state }),
          })),
        ),
      nothing: fc.array(fc.boolean(), { minLength: checks, maxLength: checks }),
      from: fc.option(fc.constantFrom(...STATES), { nil: undefined }),
      way: fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 9, maxLength: 9 }),
    }),
  )
  .map(({ causes, checks, nothing, from, way }) => ({
    causes,
    checks,
    // Some have shown nothing already, never so many that no cause is left.
    seen: checks.flatMap(({ id, finds }, k) =>
      nothing[k] && k < 2 && Object.values(finds).every((one) => one < 1) ? [{ check: id, found: false }] : [],
    ),
    ...(from && { from }),
    ways: Object.fromEntries(
      STATES.map((a, i) => [a, Object.fromEntries(STATES.map((b, j) => [b, must(way[i * 3 + j])]))]),
    ),
  }));

it("comes to the least minutes of all orders, by a search of its own", () => {
  fc.assert(
    fc.property(drawnCase, (given) => {
      const found = nextCheck(given);
      expect(found.expectedMinutes).toBeCloseTo(leastOfAllOrders(given), 8);
      expect(Object.values(found.posterior).reduce((sum, one) => sum + one, 0)).toBeCloseTo(1, 12);
      expect([...found.order].sort()).toEqual(
        given.checks.flatMap(({ id }) => (given.seen.some((one) => one.check === id) ? [] : [id])).sort(),
      );
    }),
    { numRuns: draws(400, 20_000) },
  );
});

it("each next best check comes to what the whole order was said to come to", () => {
  fc.assert(
    fc.property(drawnCase, (given) => {
      const whole = nextCheck(given);
      let [seen, from, reached, spent] = [given.seen, given.from, 1, 0];
      for (;;) {
        const { best, posterior } = nextCheck({ ...given, seen, ...(from && { from }) });
        if (best === null) break;
        const check = must(given.checks.find((one) => one.id === best));
        const way = check.state && from && from !== check.state ? must(must(given.ways?.[from])[check.state]) : 0;
        spent += reached * (way + check.minutes);
        reached *= 1 - given.causes.reduce((sum, { id }) => sum + must(posterior[id]) * (check.finds[id] ?? 0), 0);
        from = check.state ?? from;
        seen = [...seen, { check: best, found: false }];
        if (reached < 1e-12) break;
      }
      expect(spent).toBeCloseTo(whole.expectedMinutes, 7);
    }),
    { numRuns: draws(200, 5_000) },
  );
});

it("is the order of orderChecks when each check is conclusive about one cause", () => {
  fc.assert(
    fc.property(
      fc.array(fc.record({ weight: fc.integer({ min: 1, max: 60 }), minutes: fc.integer({ min: 1, max: 40 }) }), {
        minLength: 1,
        maxLength: 10,
      }),
      (drawn) => {
        const total = drawn.reduce((sum, one) => sum + one.weight, 0);
        const simple = orderChecks({
          causes: drawn.map(({ weight, minutes }, i) => ({ id: `${i}`, probability: weight / total, minutes })),
        });
        const found = nextCheck({
          causes: drawn.map(({ weight }, i) => cause(`${i}`, weight)),
          checks: drawn.map(({ minutes }, i) => ({ id: `${i}`, minutes, finds: { [i]: 1 } })),
          seen: [],
        });
        expect(found.order).toEqual(simple.order);
        expect(found.expectedMinutes).toBeCloseTo(simple.expectedMinutes, 9);
      },
    ),
    { numRuns: draws(200, 3_000) },
  );
});

describe("by hand", () => {
  const causes = [cause("dirt", 3), cause("pump", 1)];
  const look = { id: "look", minutes: 2, finds: { dirt: 0.8 } };
  const open = { id: "open", minutes: 20, finds: { dirt: 1, pump: 1 } };

  it("a check that shows nothing rules out by Bayes' rule", () => {
    // 0.75 × 0.2 = 0.15 against 0.25
    const { posterior, order } = nextCheck({ causes, checks: [look, open], seen: [{ check: "look", found: false }] });
    expect(posterior["dirt"]).toBeCloseTo(0.375, 12);
    expect(order).toEqual(["open"]);
  });
  it("a check that found ends the search, with what it can have found", () => {
    expect(nextCheck({ causes, checks: [look, open], seen: [{ check: "open", found: true }] })).toEqual({
      posterior: { dirt: 0.75, pump: 0.25 },
      order: [],
      best: null,
      expectedMinutes: 0,
    });
    expect(nextCheck({ causes, checks: [look], seen: [{ check: "look", found: true }] }).posterior).toEqual({
      dirt: 1,
      pump: 0,
    });
  });
  it("the way into a state counts: two looks while it runs come before the one that needs it cool", () => {
    const found = nextCheck({
      causes: [cause("a", 5), cause("b", 3), cause("c", 2)],
      checks: [
        { id: "inside", minutes: 1, finds: { a: 1 }, state: "cool" },
        { id: "dial", minutes: 2, finds: { b: 1 }, state: "hot" },
        { id: "belt", minutes: 2, finds: { c: 1 }, state: "hot" },
      ],
      seen: [],
      from: "hot",
      ways: { hot: { cool: 60 }, cool: { hot: 10 } },
    });
    expect(found.order).toEqual(["dial", "belt", "inside"]);
    // 2 + 0.7 × 2 + 0.5 × 61
    expect(found.expectedMinutes).toBeCloseTo(33.9, 12);
  });
  it("what cannot find anything comes last and costs nothing", () => {
    const idle = { id: "idle", minutes: 9, finds: {} };
    const { order, expectedMinutes, best } = nextCheck({ causes, checks: [idle, open], seen: [] });
    expect(order).toEqual(["open", "idle"]);
    expect(expectedMinutes).toBe(20);
    expect(best).toBe("open");
    expect(nextCheck({ causes, checks: [idle], seen: [] })).toMatchObject({
      order: ["idle"],
      best: null,
      expectedMinutes: 0,
    });
  });
  it("equal checks keep their order", () => {
    const same = ["x", "y", "z"].map((id) => ({ id, minutes: 5, finds: { dirt: 0.5, pump: 0.5 } }));
    expect(nextCheck({ causes, checks: same, seen: [] }).order).toEqual(["x", "y", "z"]);
  });
  it("beyond ten checks the best chance per minute goes first", () => {
    const many = Array.from({ length: 14 }, (_, i) => cause(`${i}`, 14 - i));
    const found = nextCheck({
      causes: many,
      checks: many.map(({ id }, i) => ({ id, minutes: 1 + ((i * 5) % 7), finds: { [id]: 1 } })),
      seen: [],
    });
    const simple = orderChecks({
      causes: many.map(({ id, weight }, i) => ({ id, probability: weight / 105, minutes: 1 + ((i * 5) % 7) })),
    });
    expect(found.order).toEqual(simple.order);
    expect(found.expectedMinutes).toBeCloseTo(simple.expectedMinutes, 9);
  });
});

it.each([
  [{ causes: [], checks: [], seen: [] }, "causes"],
  [{ causes: [cause("a", 0)], checks: [], seen: [] }, "causes"],
  [{ causes: [cause("a", 1), cause("a", 1)], checks: [], seen: [] }, "causes"],
  [{ causes: [cause("a", -1)], checks: [], seen: [] }, "causes[0].weight"],
  [{ causes: [cause("a", 1)], checks: [{ id: "k", minutes: 1, finds: { b: 1 } }], seen: [] }, "checks[0].finds.b"],
  [{ causes: [cause("a", 1)], checks: [{ id: "k", minutes: 1, finds: { a: 1.2 } }], seen: [] }, "checks[0].finds.a"],
  [{ causes: [cause("a", 1)], checks: [{ id: "k", minutes: NaN, finds: {} }], seen: [] }, "checks[0].minutes"],
  [{ causes: [cause("a", 1)], checks: [], seen: [{ check: "k", found: true }] }, "seen[0].check"],
  [
    {
      causes: [cause("a", 1)],
      checks: [{ id: "k", minutes: 1, finds: { a: 1 } }],
      seen: [{ check: "k", found: false }],
    },
    "seen[0]",
  ],
  [
    {
      causes: [cause("a", 1)],
      checks: [{ id: "k", minutes: 1, finds: {}, state: "x" }],
      seen: [],
      from: "y",
      ways: {},
    },
    "ways.y.x",
  ],
])("says what is wrong with %j", (input, path) => {
  expect(() => nextCheck(input as NextCheckInput)).toThrow(
    expect.objectContaining({ name: "CoreError", path }) as Error,
  );
});
