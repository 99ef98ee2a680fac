import fc from "fast-check";

import { must } from "../must";
import { draws } from "../testing/draws";
import type { FaultGuide, FindStep } from "./guide";
import { guideProcedure } from "./guide-procedure";
import { GuideSearch, type SearchInput, typicalChances } from "./guide-search";
import { smallGuide } from "./testing/small-guide";

const stepOf = (guide: FaultGuide): FindStep => must(guideProcedure(guide).steps.find((step) => step.kind === "find"));
const searchOf = (more: Partial<SearchInput> = {}): GuideSearch => {
  const guide = smallGuide();
  return new GuideSearch({ step: stepOf(guide), states: guide.states, symptom: "weak", options: [], ...more });
};

describe("by hand", () => {
  it("counts the way into states, waits among it, and a share that no guide knows", () => {
    const { causes, open, expectedMinutes } = searchOf();
    expect(causes.map(({ cause, chance }) => [cause, Number(chance.toFixed(4))])).toEqual([
      ["dirt", 0.7125],
      ["seal", 0.2375],
      ["unknown", 0.05],
    ]);
    expect(open.map(({ check }) => check.id)).toEqual(["listen", "open"]);
    // Into running 1, listen 2; it shows dirt in 0.7125 × 0.8. Else locked 2, cooled 20, opened 5.
    expect(expectedMinutes).toBeCloseTo(3 + (1 - 0.57) * 27, 9);
    expect(must(open[0])).toMatchObject({ wayMinutes: 1, chance: 0.57 });
    expect(must(open[1]).gates.map(({ state, way }) => `${state.id} ${way}`)).toEqual(["locked in", "cool in"]);
  });
  it("from where the machine is: out of the lock first, what is cool is lost when it runs", () => {
    const { open } = searchOf({ inside: ["locked", "cool"] });
    expect(open.map(({ check }) => check.id)).toEqual(["open", "listen"]);
    const listen = must(open[1]);
    expect(listen.gates.map(({ state, way }) => `${state.id} ${way}`)).toEqual(["locked out", "running in"]);
    expect(listen.wayMinutes).toBe(2);
    expect(must(open[0])).toMatchObject({ wayMinutes: 0, gates: [] });
  });
  it("what was checked is done; what could not be done tells nothing", () => {
    const clear = searchOf({ checks: [{ check: "listen", result: "clear" }] });
    expect(must(clear.causes.find((one) => one.cause === "dirt")).chance).toBeCloseTo((0.7125 * 0.2) / 0.43, 9);
    const left = searchOf({ checks: [{ check: "listen", result: "left-out" }] });
    expect(must(left.causes[0]).chance).toBeCloseTo(0.7125, 9);
    expect(left.open.map(({ check }) => check.id)).toEqual(["open"]);
  });
  it("everything ruled out: only what no guide knows is left, and nothing to look for", () => {
    const { allRuledOut, causes, open } = searchOf({ checks: [{ check: "open", result: "clear" }] });
    expect(allRuledOut).toBe(true);
    expect(must(causes[0])).toMatchObject({ cause: "unknown", chance: 1 });
    expect(open.every(({ chance }) => chance === 0)).toBe(true);
  });
  it("what was remedied and did not cure it is not looked for again", () => {
    const { causes } = searchOf({ cured: ["dirt"] });
    expect(must(causes.find((one) => one.cause === "dirt")).chance).toBe(0);
  });
  it("says how its minutes come about", () =>
    expect(searchOf().because.slice(1)).toEqual([
      "Listen: 3 min with the way there, in 100 of 100 such faults.",
      "Open it: 27 min with the way there, in 43 of 100 such faults.",
      "Each times how often it comes to it: 14.6 min to be expected.",
    ]));
  it("a check says what it would rule out", () => {
    expect(must(searchOf({ inside: ["locked", "cool"] }).open[0]).rulesOut.sort()).toEqual(["dirt", "seal"]);
  });
  it("learned chances take the typical ones' place", () => {
    const { causes } = searchOf({ learned: { dirt: { weight: 1 }, seal: { weight: 8 }, unknown: { weight: 1 } } });
    expect(must(causes[0])).toMatchObject({ cause: "seal", chance: 0.8 });
  });
});

/** What the states of a machine say of each other, read again from the guide and not from the search. */
function reach(guide: FaultGuide, from: ReadonlySet<string>, needs: readonly string[]): [Set<string>, number] {
  const excludes = (a: string, b: string): boolean =>
    guide.states.some(
      ({ id, excludes: list = [] }) => (id === a && list.includes(b)) || (id === b && list.includes(a)),
    );
  let minutes = 0;
  const after = new Set(from);
  for (const state of guide.states)
    if (after.has(state.id) && !needs.includes(state.id) && needs.some((one) => excludes(one, state.id))) {
      after.delete(state.id);
      minutes += state.out?.minutes ?? 0;
    }
  for (const state of guide.states) {
    if (!needs.includes(state.id) || after.has(state.id)) continue;
    for (const other of guide.states)
      if (other.lostBy?.includes(state.id) || excludes(state.id, other.id)) after.delete(other.id);
    after.add(state.id);
    minutes += (state.in.minutes ?? 0) + (state.in.waitMinutes ?? 0);
  }
  return [after, minutes];
}

function leastOfAllOrders(guide: FaultGuide, inside: readonly string[]): number {
  const symptom = must(guide.symptoms[0]);
  const chances = typicalChances(symptom);
  const finds = (check: FaultGuide["checks"][number], cause: string): number =>
    check.finds.find((one) => one.cause === cause)?.share ?? 0;
  let least = Infinity;
  const go = (
    left: Record<string, number>,
    open: FaultGuide["checks"],
    at: ReadonlySet<string>,
    spent: number,
  ): void => {
    const able = open.filter((check) =>
      Object.entries(left).some(([cause, chance]) => chance * finds(check, cause) > 0),
    );
    if (able.length === 0) least = Math.min(least, spent);
    const reached = Object.values(left).reduce((sum, one) => sum + one, 0);
    for (const check of able) {
      const [after, way] = reach(guide, at, check.state ?? []);
      go(
        Object.fromEntries(Object.entries(left).map(([cause, chance]) => [cause, chance * (1 - finds(check, cause))])),
        open.filter((one) => one !== check),
        after,
        spent + reached * (way + check.minutes),
      );
    }
  };
  go(chances, guide.checks, new Set(inside), 0);
  return least;
}

it("comes to the least minutes of all orders, with the machine's states, by a search of its own", () => {
  const share = fc.constantFrom(0.3, 0.6, 0.9, 1);
  const drawn = fc.record({
    chances: fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 4 }),
    checks: fc.array(
      fc.record({
        minutes: fc.integer({ min: 0, max: 20 }),
        state: fc
          .subarray(["running", "locked", "cool"])
          .filter((list) => !(list.includes("running") && list.length > 1)),
        finds: fc.uniqueArray(fc.tuple(fc.nat(3), share), { selector: ([cause]) => cause, minLength: 1, maxLength: 4 }),
      }),
      { minLength: 1, maxLength: 5 },
    ),
    inside: fc.constantFrom([], ["running"], ["locked"], ["locked", "cool"], ["cool"]),
  });
  fc.assert(
    fc.property(drawn, ({ chances, checks, inside }) => {
      const guide = smallGuide();
      const causes = chances.map((_, c) => `c${c}`);
      guide.causes = causes.map((id) => ({ id, name: id, who: "technician" }));
      guide.symptoms = [
        { id: "weak", says: "", proof: "", causes: chances.map((chance, c) => ({ cause: `c${c}`, chance })) },
      ];
      guide.checks = checks.map(({ minutes, state, finds }, k) => ({
        ...{ id: `k${k}`, title: "", how: "", clear: "", minutes, state },
        finds: finds.map(([cause, one]) => ({ cause: `c${cause}`, share: one, shows: "" })),
      }));
      const { expectedMinutes } = new GuideSearch({
        ...{ step: stepOf(guide), states: guide.states, symptom: "weak", options: [], inside },
      });
      expect(expectedMinutes).toBeCloseTo(leastOfAllOrders(guide, inside), 8);
    }),
    { numRuns: draws(300, 10_000) },
  );
});
