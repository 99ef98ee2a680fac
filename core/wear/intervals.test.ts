import { foldRun, type Procedure, type RunEvent, type RunEventBody } from "../sheet";
import { agreement, type AsFound, asFoundOf, BY_CHANCE, BY_WEAR, foundBySheet, poorChance, tuneRules } from "./index";

const procedure: Procedure = {
  id: "condenser",
  family: "prep-cabinet",
  title: "Condenser",
  version: 1,
  who: "technician",
  minutes: { handsOn: 20, waiting: 0 },
  plan: { triggers: [{ kind: "calendar", every: 3, unit: "month", basis: "completion" }] },
  parts: [],
  tools: [],
  protection: [],
  consumables: [],
  meters: [],
  steps: [
    {
      id: "air",
      kind: "measure",
      title: "Air in the cabinet",
      text: "Before anything.",
      reading: "air",
      unit: "°C",
      limits: { min: 0, max: 5 },
      stage: "as-found",
    },
    { id: "fan", kind: "inspect", title: "Fan", text: "Look.", asItShouldBe: "Runs.", ifNot: "Say so." },
    {
      id: "after",
      kind: "measure",
      title: "Air afterwards",
      text: "After.",
      reading: "air",
      unit: "°C",
      limits: { min: 0, max: 5 },
      stage: "as-left",
    },
  ],
} as unknown as Procedure;

const log = (...bodies: RunEventBody[]): RunEvent[] =>
  bodies.map((body, i) => ({
    id: `0190aaaa-0000-7000-8000-${String(i).padStart(12, "0")}`,
    runId: "r",
    at: `2026-11-30T08:00:${String(i).padStart(2, "0")}Z`,
    by: "p",
    device: "d",
    ...body,
  }));
const read = (step: string, value: number): RunEventBody => ({ type: "reading", step, round: 1, value, unit: "°C" });
const found = (as: AsFound): RunEventBody => ({ type: "as-found", found: as });
const said = (...bodies: RunEventBody[]) => asFoundOf(procedure, foldRun(procedure, log(...bodies)), { options: [] });

describe("how a machine was found", () => {
  it("follows from what was bad before anything was put right, and from nothing when all was well", () => {
    expect(said(read("air", 3))).toBeNull();
    expect(said(read("air", 3), read("after", 9))).toBeNull();
    expect(said(read("air", 7), read("after", 3))).toEqual({
      found: "poor",
      told: "sheet",
      because: ["Air in the cabinet: 7 °C, allowed is at least 0 and at most 5 °C"],
    });
    expect(said({ type: "step-done", step: "fan", round: 1, answer: "not-ok" })?.because).toEqual([
      "not as it should be: Fan",
    ]);
    expect(said({ type: "finding", text: "Loose plug", severity: "minor" })).toBeNull();
    expect(said({ type: "finding", text: "No cold", severity: "major" })?.found).toBe("poor");
    expect(said(read("air", 7), { type: "finding", text: "Bare wire", severity: "unsafe" })).toEqual({
      found: "failed",
      told: "sheet",
      because: ["finding, unsafe: Bare wire"],
    });
  });

  it("is what somebody said, the last word, as it was corrected, whatever else is logged", () => {
    expect(said(read("air", 7), found("fair"))).toEqual({ found: "fair", told: "asked", because: [] });
    expect(said(found("fair"), found("clean"))?.found).toBe("clean");
    expect(said(found("excellent" as AsFound))).toBeNull();
    const events = log(found("clean"));
    const id = events[0]?.id ?? "";
    const corrected = (answer: string) => {
      const state = foldRun(procedure, [
        ...events,
        {
          ...log(found("clean"))[0],
          id: `${id.slice(0, -1)}9`,
          at: "2026-11-30T09:00:00Z",
          type: "corrected",
          ref: id,
          set: { answer },
          why: "x",
        } as RunEvent,
      ]);
      return {
        now: asFoundOf(procedure, state, { options: [] })?.found,
        was: state.asFound?.corrections[0]?.old.answer,
      };
    };
    expect(corrected("poor")).toEqual({ now: "poor", was: "clean" });
    expect(corrected("fine")).toEqual({ now: "clean", was: undefined });
    expect(foundBySheet(procedure, foldRun(procedure, events), { options: [] })).toBeNull();
  });
});

describe("the chance of being found poor", () => {
  const after = (days: number, poor: number, of: number) =>
    Array.from({ length: of }, (_, i) => ({ days, poor: i < poor }));

  it("has a closed form where every service came after the same interval", () => {
    for (const [poor, of] of [
      [0, 1],
      [2, 9],
      [9, 9],
    ] as const)
      for (const shape of [BY_CHANCE, 2, BY_WEAR])
        for (const days of [30, 90, 180]) {
          const p = (poor + 0.5) / (of + 1);
          expect(poorChance(after(90, poor, of), days, shape)).toBeCloseTo(1 - (1 - p) ** ((days / 90) ** shape), 10);
        }
  });

  it("has the scale that makes what was found likeliest, by trying all", () => {
    const list = [...after(60, 0, 4), ...after(90, 2, 6), ...after(140, 3, 4)];
    const mean = list.reduce((sum, one) => sum + one.days, 0) / list.length;
    const logOf = (scale: number): number =>
      [
        ...list.map((one) => ({ ...one, weight: 1 })),
        { days: mean, poor: true, weight: 0.5 },
        { days: mean, poor: false, weight: 0.5 },
      ]
        .map(({ days, poor, weight }) => {
          const well = Math.exp(-((days / scale) ** 3));
          return weight * Math.log(poor ? 1 - well : well);
        })
        .reduce((sum, one) => sum + one, 0);
    const scales = Array.from({ length: 30_000 }, (_, i) => 50 + i / 100);
    const best = scales.reduce((a, b) => (logOf(b) > logOf(a) ? b : a));
    expect(poorChance(list, 100, 3)).toBeCloseTo(1 - Math.exp(-((100 / best) ** 3)), 4);
  });

  it("grows with the interval, and says what it cannot do", () => {
    const list = after(90, 1, 5);
    expect(poorChance(list, 68, 3)).toBeLessThan(poorChance(list, 90, 3));
    expect(poorChance(list, 1e9, 1)).toBe(1);
    expect(() => poorChance([], 90, 1)).toThrow(/at least one service/);
    expect(() => poorChance([{ days: 0, poor: true }], 90, 1)).toThrow(/found\[0\]\.days/);
    expect(() => poorChance(list, Number.NaN, 1)).toThrow(/days/);
  });
});

describe("rules that findings tune", () => {
  const months = { kind: "calendar", every: 3, unit: "month", basis: "completion" } as const;
  const meter = { kind: "meter", meter: "running-hours", every: 100, basis: "completion" } as const;
  const rules = (...triggers: Parameters<typeof tuneRules>[0]["triggers"]) => ({ triggers });
  const bounds = (given: ReturnType<typeof rules>, most = 2) => ({ least: 0.5, most, given });

  it("take the staircase's step, all that repeat by themselves, in whole days and units", () => {
    const own = rules(months, meter, { kind: "event", event: "idle-ahead" });
    expect(tuneRules(own, ["poor"], bounds(own))).toEqual({
      triggers: [
        { ...months, every: 68, unit: "day" },
        { ...meter, every: 75 },
        { kind: "event", event: "idle-ahead" },
      ],
      because: "Found poor: 91 × 0.75 = 68 days.",
    });
    expect(tuneRules(own, ["clean", "clean", "clean"], bounds(own))?.triggers.slice(0, 2)).toEqual([
      { ...months, every: 109, unit: "day" },
      { ...meter, every: 120 },
    ]);
    expect(tuneRules(own, ["clean", "clean"], bounds(own))).toBeNull();
    expect(tuneRules(own, ["fair"], bounds(own))).toBeNull();
    expect(tuneRules(rules({ kind: "event", event: "x" }), ["failed"], bounds(rules()))).toBeNull();
  });

  it("stay within the bounds of what was given before any was tuned", () => {
    const given = rules(months);
    const now = rules({ ...months, every: 50, unit: "day" as const });
    expect(tuneRules(now, ["failed"], bounds(given))?.triggers).toEqual([{ ...months, every: 46, unit: "day" }]);
    expect(tuneRules(rules({ ...months, every: 46, unit: "day" as const }), ["failed"], bounds(given))).toBeNull();
    expect(tuneRules(given, ["clean", "clean", "clean"], bounds(given, 1))).toBeNull();
    // Outside already: nothing brings it further.
    expect(tuneRules(rules({ ...months, every: 20, unit: "day" as const }), ["poor"], bounds(given))).toBeNull();
    expect(() => tuneRules(given, [], bounds(given, 0.4))).toThrow(/cross/);
  });

  it("count with a site's factor, and end it where they change", () => {
    const own = { triggers: [months, meter], intervalFactor: 0.5 };
    expect(tuneRules(own, ["poor"], { least: 0.5, most: 2, given: own })?.triggers).toEqual([
      { ...months, every: 33, unit: "day" },
      { ...meter, every: 37 },
    ]);
  });

  it("keep to a weekday in whole weeks", () => {
    const weekly = { kind: "calendar", every: 4, unit: "week", basis: "grid", weekday: 2 } as const;
    const own = rules(weekly);
    expect(tuneRules(own, ["poor"], bounds(own))?.triggers).toEqual([{ ...weekly, every: 3 }]);
    const fortnight = rules({ ...weekly, every: 2 });
    expect(tuneRules(fortnight, ["clean", "clean", "clean"], bounds(fortnight))).toBeNull();
  });
});

const rankOf = (list: readonly number[], value: number): number =>
  list.filter((one) => one < value).length + (list.filter((one) => one === value).length + 1) / 2;

describe("whether one figure goes with another", () => {
  const pairs = (causes: number[], effects: number[]) => causes.map((cause, i) => ({ cause, effect: effects[i] ?? 0 }));

  it("agrees with a worked example and with the published critical values", () => {
    // A textbook's ten pairs (from memory): rho = -29/165; by the t distribution 0.627.
    const ten = agreement(
      pairs([106, 100, 86, 101, 99, 103, 97, 113, 112, 110], [7, 27, 2, 50, 28, 29, 20, 12, 6, 17]),
    );
    expect(ten.rho).toBeCloseTo(-29 / 165, 12);
    expect(ten.byLuck).toBeCloseTo(0.63, 1);
    // Zar 1972, two-sided 0.05 (from memory): 1.000 of five, 0.886 of six, 0.786 of seven, 0.738 of eight.
    const five = agreement(pairs([1, 2, 3, 4, 5], [1, 2, 3, 4, 5]));
    expect(five).toEqual({ rho: expect.closeTo(1, 12) as number, byLuck: 2 / 120, n: 5 });
    const six = agreement(pairs([1, 2, 3, 4, 5, 6], [2, 1, 3, 4, 6, 5]));
    expect(six.rho).toBeCloseTo(0.886, 3);
    expect(six.byLuck).toBeLessThanOrEqual(0.05);
    const less = agreement(pairs([1, 2, 3, 4, 5, 6], [2, 1, 4, 3, 6, 5]));
    expect(less.rho).toBeCloseTo(0.829, 3);
    expect(less.byLuck).toBeGreaterThan(0.05);
  });

  it("says nothing of too few, or where nothing varies", () => {
    expect(agreement(pairs([1, 2, 3, 4], [1, 2, 3, 4]))).toEqual({ rho: null, byLuck: null, n: 4 });
    expect(agreement(pairs([1, 1, 1, 1, 1], [1, 2, 3, 4, 5])).rho).toBeNull();
    expect(agreement(pairs([1, 2, 3, 4, 5], [0, 0, 0, 0, 0])).byLuck).toBeNull();
    expect(() => agreement(pairs([1, 2, 3, 4, 5], [0, 0, Number.NaN, 0, 0]))).toThrow(/pairs\[2\]\.effect/);
  });

  it("is the same by all orders and by many at random", () => {
    const causes = [1, 2, 2, 4, 5, 6, 7, 8, 4.5];
    const effects = [0, 0, 0.2, 0.1, 0.5, 0.3, 0.6, 0.2, 0.2];
    const many = agreement(pairs(causes, effects));
    const mean = effects.reduce((sum, one) => sum + rankOf(effects, one), 0) / 9;
    const agrees = (order: readonly number[]): number =>
      Math.abs(order.reduce((sum, one, i) => sum + rankOf(causes, causes[i] ?? 0) * (one - mean), 0));
    let [all, asMuch] = [0, 0];
    const least = agrees(effects.map((one) => rankOf(effects, one))) - 1e-9;
    const place = (order: number[], left: number[]): void => {
      if (left.length === 0) {
        all++;
        if (agrees(order) >= least) asMuch++;
      }
      left.forEach((one, i) => place([...order, one], left.toSpliced(i, 1)));
    };
    place(
      [],
      effects.map((one) => rankOf(effects, one)),
    );
    expect(all).toBe(362_880);
    expect(Math.abs((many.byLuck ?? 1) - asMuch / all)).toBeLessThan(0.01);
    expect(agreement(pairs(causes, effects)).byLuck).toBe(many.byLuck);
  });
});
