import { DAYS, must, type SheetStep, useLine, wearPieces } from "@core";
import type { DutyRow } from "@db";

import { renewsLater, wantsDecision, wearOfStep, worstSaid } from "~/sheet/steps/wear-of-step";

import { foresee } from "./foresee";
import { nextVisits, type VisitDuty } from "./visits";
import { wearChartPoints } from "./wear-chart-points";
import { wearNow, type WearOnSheet } from "./wear-now";
import { moneyWords, nextWords, restsOn, type Told, whenWords } from "./wear-words";

const say = (on: string): string => on.slice(5);
const told = (more: Partial<Told> = {}): Told => ({
  ...{ n: 5, lastValue: 2.4, unit: "in", limitAt: 2, worse: "down", per: "running-hours" },
  ...{ crossesOn: "2026-12-05", crossesFrom: "2026-12-02", crossesTo: "2026-12-11" },
  ...{ nextOn: "2026-12-09", nextChance: 0.834, advice: "now", costNow: 13_000, costNext: 29_050 },
  line: {
    ...{ meanAt: 50, level: 3, levelSe: 0.02, slope: -0.0125, slopeSe: 0.0004, sd: 0.05, degrees: 20, worse: "down" },
    ...{ ownWeight: 0.6, pieces: 7 },
  },
  ...more,
});

describe("words of wear", () => {
  it("say when it passes its limit, with the days between which that lies", () => {
    expect(whenWords(told(), say, "2026-12-01")).toBe("2 in about 12-05 (12-02 to 12-11).");
    expect(whenWords(told(), say, "2026-12-05")).toBe("By all its values it is at 2 in about now (by 12-11).");
    expect(whenWords(told({ crossesFrom: null }), say, "2026-12-01")).toBe("2 in about 12-05 (by 12-11).");
    expect(whenWords(told({ crossesTo: null }), say, "2026-12-01")).toBe("Not sure yet: 2 in perhaps about 12-05.");
    expect(whenWords(told({ crossesOn: null }), say, "2026-12-01")).toBe("Not getting worse so far.");
    expect(whenWords(told({ limitAt: null }), say, "2026-12-01")).toMatch(/^No limit is named/);
    expect(whenWords(told({ lastValue: 1.9 }), say, "2026-12-01")).toBe("Past its limit of 2 in.");
    expect(whenWords(told({ lastValue: 2.1, worse: "up" }), say, "2026-12-01")).toBe("Past its limit of 2 in.");
    expect(whenWords(told({ line: null, n: 1 }), say, "2026-12-01")).toMatch(/^One value, .+ too early to say/);
    expect(whenWords(told({ line: null, n: 2 }), say, "2026-12-01")).toMatch(/^2 values/);
  });

  it("say what the next visit would find, and the money on both sides", () => {
    expect(nextWords(told(), say)).toBe("Next visit 12-09: 83 % it is past by then.");
    expect(nextWords(told({ nextChance: 0.001 }), say)).toBe("Next visit 12-09: under 1 % it is past by then.");
    expect(nextWords(told({ nextChance: 0.999 }), say)).toBe("Next visit 12-09: over 99 % it is past by then.");
    expect(nextWords(told({ nextChance: null }), say)).toBe("Next visit 12-09.");
    expect(nextWords(told({ nextOn: null }), say)).toBe("No visit is due that would see it.");
    expect(moneyWords(told())).toBe("€130.00 now, €290.50 to be expected with the next visit");
    expect(moneyWords(told({ costNow: null }))).toBeNull();
  });

  it("say what they rest on", () => {
    const said = restsOn({ ...told(), rate: 1.45 }, "running hours").join(" ");
    expect(said).toMatch(/5 values of this piece\. Its slope is 60 % its own and 40 % that of 7 pieces like it/);
    expect(said).toContain("0.0125 in less an hour");
    expect(said).toContain("It is used 1.45 running hours a day");
    expect(restsOn({ ...told({ line: null, n: 1 }), rate: null }, "")).toEqual(["1 value of this piece."]);
  });
});

const duty = (more: Partial<VisitDuty>): VisitDuty => ({
  ...{
    id: "d",
    procedureId: "measuring",
    startOn: "2026-01-01",
    dueOn: "2026-12-10",
    plannedOn: null,
    projected: false,
  },
  rules: { triggers: [{ kind: "calendar", every: 7, unit: "day", basis: "completion" }] },
  ...more,
});
const PROCEDURES = new Map([
  [
    "measuring",
    {
      rules: [
        {
          ...{ reading: "r", unit: "in", item: "i", slots: ["s"], per: "day" },
          ...{ worse: "down" as const, worst: false, limit: 2, options: [] },
        },
      ],
      renews: [],
    },
  ],
  ["renewing", { rules: [], renews: [{ item: "i", slots: ["s"], minutes: 5 }] }],
  ["other", { rules: [], renews: [] }],
]);
const SLOT = { item: "i", slot: "s", reading: "r" };
const condition: DutyRow["rules"] = { triggers: [{ kind: "condition", reading: "r", below: 2 }] };

describe("the next visits that would see a part", () => {
  const visits = (duties: VisitDuty[], repeats: (after: string, days: number) => string[] = () => []): string[] =>
    nextVisits(SLOT, duties, PROCEDURES, "2026-12-01", (_, after, days) => repeats(after, days));

  it("are those of what measures or renews it, planned days before due days, none in the past", () => {
    expect(visits([duty({}), duty({ id: "e", procedureId: "renewing", dueOn: "2026-12-20" })])).toEqual([
      "2026-12-10",
      "2026-12-20",
    ]);
    expect(visits([duty({ plannedOn: "2026-12-04" })])).toEqual(["2026-12-04"]);
    expect(visits([duty({ plannedOn: "2026-11-04", dueOn: "2026-11-10" })])).toEqual(["2026-12-01"]);
    expect(visits([duty({ procedureId: "other", dueOn: "2026-12-03" }), duty({})])).toEqual(["2026-12-10"]);
    expect(visits([duty({ procedureId: "other", dueOn: "2026-12-03" })])).toEqual(["2026-12-03"]);
    expect(visits([duty({ dueOn: null })])).toEqual([]);
  });

  it("come back by their rules, near first and far where they do not", () => {
    expect(visits([duty({})], (after) => (after === "2026-12-10" ? ["2026-12-17", "2026-12-24"] : []))).toEqual([
      "2026-12-10",
      "2026-12-17",
    ]);
    expect(visits([duty({})], (_, days) => (days > 100 ? ["2027-12-10"] : []))).toEqual(["2026-12-10", "2027-12-10"]);
  });

  it("are not the day that is only foretold from the readings themselves", () => {
    expect(visits([duty({ procedureId: "renewing", rules: condition, projected: true })])).toEqual([]);
    expect(visits([duty({ procedureId: "renewing", rules: condition, projected: false })])).toEqual(["2026-12-10"]);
  });
});

const COSTS = { planned: 10_000, failure: 30_000, visit: 9_000 };
const measured = {
  ...{ n: 4, meanAt: 45, level: 3.4, slope: -0.0133, sumSquares: 4500, residual: 0.002 },
  ...{ worse: "down" as const, limitAt: 2, firstUse: 0, useNow: 140, rate: 2, asOf: "2026-12-01" },
};

describe("what is foreseen", () => {
  it("is the day of the limit, the chance at each visit, and what pays", () => {
    const said = foresee(measured, { pool: null, visits: ["2026-12-03", "2026-12-12"], costs: COSTS });
    // 2 = 3.4 − 0.0133·(x − 45) at x = 150.3: five days of two from today.
    expect(said).toMatchObject({ crossesOn: "2026-12-06", nextOn: "2026-12-03", secondOn: "2026-12-12" });
    expect(must(said.nextChance)).toBeLessThan(must(said.secondChance));
    expect(must(said.secondChance)).toBeGreaterThan(0.5);
    expect(must(said.crossesFrom) < "2026-12-06" && "2026-12-06" < must(said.crossesTo)).toBe(true);
  });

  it("without a limit, without enough values, or without a visit says what it can", () => {
    const at = { pool: null, visits: ["2026-12-03"], costs: COSTS };
    expect(foresee({ ...measured, limitAt: null }, at)).toMatchObject({
      crossesOn: null,
      advice: null,
      nextChance: null,
    });
    expect(foresee({ ...measured, n: 2 }, at)).toMatchObject({ line: null, advice: null, plannedCost: 10_000 });
    expect(foresee(measured, { ...at, visits: [] })).toMatchObject({
      nextOn: null,
      advice: null,
      crossesOn: "2026-12-06",
    });
    expect(foresee({ ...measured, slope: 0.01 }, at)).toMatchObject({ crossesOn: null, advice: "next" });
    expect(foresee({ ...measured, rate: 0 }, at)).toMatchObject({ crossesOn: null });
  });
});

const known: WearOnSheet = {
  ...{
    slot: "s",
    item: "i",
    itemName: "Blade",
    slotName: "Left",
    reading: "edge",
    unit: "mm",
    per: "hours",
    worse: "down",
  },
  ...{ limitAt: 3, pool: null, useNow: 130, rate: 5, asOf: "2026-12-01", visits: ["2026-12-05"], costs: COSTS },
  face: { value: 500, use: 100 },
  values: [
    { use: 0, value: 6, confirmed: false },
    { use: 50, value: 4.9, confirmed: false },
    { use: 100, value: 4.1, confirmed: false },
  ],
};

describe("a value at its step", () => {
  it("stands where the meter says, else where the use is by today; a new meter is no step back", () => {
    const at = (face: number | null): number =>
      must(wearNow(known, { value: 3.4, confirmed: false }, face)?.line).meanAt;
    expect(at(530)).toBe((0 + 50 + 100 + 130) / 4);
    expect(at(560)).toBe((0 + 50 + 100 + 160) / 4);
    expect(at(null)).toBe(at(530));
    expect(at(12)).toBe(at(530));
  });

  const step = (more: object, state: object): SheetStep =>
    ({
      ...{ step: "m", round: 1, settled: true },
      definition: {
        ...{ id: "m", kind: "measure", title: "M", reading: "edge", unit: "mm", points: ["Left", "Right"] },
        wears: { item: "i", slots: ["s", "t"], per: "hours", worse: "down" },
        ...more,
      },
      state: { answer: "in", readings: [], ...state },
    }) as unknown as SheetStep;
  const read = (point: number, value: number) => ({ point, value, stage: "as-found" });
  const facts = { slots: [known, { ...known, slot: "t" }], meters: { hours: 545 } };

  it("is each point's of its own slot, or the worst of all; of a step that is open or out it is nothing", () => {
    const readings = [read(0, 9), read(0, 3.6), read(1, 3.2)];
    expect(wearOfStep(step({}, { readings }), facts).map(({ said }) => said.lastValue)).toEqual([3.6, 3.2]);
    const worst = { wears: { item: "i", slots: ["s", "t"], per: "hours", worse: "down", worst: true } };
    expect(wearOfStep(step(worst, { readings }), facts).map(({ said }) => said.lastValue)).toEqual([3.2, 3.2]);
    expect(worstSaid(wearOfStep(step({}, { readings }), facts))?.said.lastValue).toBe(3.2);
    expect(wearOfStep(step({}, { readings, answer: "low" }), facts)).toEqual([]);
    expect(wearOfStep({ ...step({}, { readings }), settled: false }, facts)).toEqual([]);
    expect(worstSaid([])).toBeNull();
  });

  it("holds the page while it pays to renew it now, this sheet could, and nobody has said", () => {
    const renews = [
      { id: "n", kind: "replace", title: "N", item: "i", slots: ["s", "t"], when: [{ step: "m", is: "low" }] },
    ] as never;
    const near = step({}, { readings: [read(0, 3.05), read(1, 3.05)] });
    expect(renewsLater(near.definition as never, renews)).toBe(true);
    expect(wantsDecision(near, renews, facts)).toBe(true);
    expect(wantsDecision(near, [] as never, facts)).toBe(false);
    expect(wantsDecision(step({}, { readings: [read(0, 3.05)], decided: { choice: "next" } }), renews, facts)).toBe(
      false,
    );
    expect(wantsDecision(null, renews, facts)).toBe(false);
  });
});

describe("the chart", () => {
  it("counts from the piece's beginning, ends where it is surely past or twice as far, and keeps the pieces before", () => {
    const use = must(
      useLine([
        { at: 0, value: 0 },
        { at: 100 * 86_400_000, value: 100 },
      ]),
    );
    const on = (n: number) => n * 86_400_000;
    const value = (n: number, v: number) => ({
      at: on(n),
      use: n,
      value: v,
      stage: "found" as const,
      confirmed: false,
    });
    const pieces = wearPieces([value(1, 4), value(20, 2), value(40, 4), value(60, 3.4)], [on(20)]);
    const row = {
      ...{ limitAt: 2, firstUse: 40, lastUse: 60, firstOn: "2026-11-01", useNow: 65, rate: 1, asOf: "2026-12-01" },
      ...{ nextOn: "2026-12-03", secondOn: "2027-06-01", crossesTo: null, line: told().line },
    };
    const chart = wearChartPoints(row, pieces, use);
    expect(chart.values.map((one) => one.x)).toEqual([20, 40]);
    expect(chart.earlier).toEqual([
      [
        { x: 0, value: 4 },
        { x: 19, value: 2 },
      ],
    ]);
    expect(chart.visits).toEqual([{ on: "2026-12-03", x: 47 }]);
    expect(must(chart.line.at(-1)).x).toBe(60);
    expect(chart.nowX).toBe(45);
    expect(wearChartPoints({ ...row, line: null }, [], DAYS)).toMatchObject({ values: [], line: [], earlier: [] });
  });
});
