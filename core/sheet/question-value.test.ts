import { addDays } from "../days/add-days";
import { foldRun } from "./fold-run";
import { nextSteps } from "./next-steps";
import type { Procedure, Step } from "./procedure";
import { meantValue, type PastValues, questionValue } from "./question-value";
import { runResults } from "./run-results";
import { base2 } from "./testing/lint-cases-2";
import { TestLog } from "./testing/runs";

const ON = "2026-11-28";
const before = (days: number, value: number) => ({ on: addDays(ON, -days), value });
const level = (...values: number[]) => values.map((value, i) => before(7 * (values.length - i), value));
const METERS = [
  { id: "hours", name: "Hours", unit: "h" },
  { id: "prints", name: "Prints", unit: "prints" },
];
/** About two hours and five hundred prints a day. */
const PAST: PastValues = {
  hours: [before(61, 2800), before(33, 2860), before(5, 2927)],
  prints: [before(40, 60_000), before(5, 79_000)],
  "blade-gap": level(0.3, 0.31, 0.3, 0.32, 0.3, 0.31),
  broom: level(60, 58, 56, 54, 52, 50, 48, 46),
  pressure: level(4.2, 4.1, 4.3, 4.2, 4.2, 4.1),
  wash: level(61, 62, 61, 60, 62, 61),
  "belt-time": level(300, 302, 299, 301, 300, 300),
  filled: level(80, 90, 85, 95, 80, 88),
  clearance: level(7, 7, 7, 7, 7),
  ph: level(7.1, 7.2, 7.1, 7.0, 7.1),
};
const measure = (reading: string, unit: string, more: object = {}): Step => ({
  id: reading,
  kind: "measure",
  title: reading,
  reading,
  unit,
  ...more,
});
const STEPS = {
  hours: measure("hours-read", "h", { meter: "hours" }),
  prints: measure("prints-read", "prints", { meter: "prints" }),
  gap: measure("blade-gap", "mm"),
  broom: measure("broom", "mm", { possible: { max: 120 } }),
  pressure: measure("pressure", "bar"),
  wash: measure("wash", "°C", { possible: { min: 0, max: 100 } }),
  belt: measure("belt-time", "s"),
  filled: measure("filled", "%"),
  clearance: measure("clearance", "in"),
  ph: measure("ph", "pH", { possible: { min: 0, max: 14 } }),
  fresh: measure("never-read", "mm"),
  cool: { id: "cool", kind: "safety", title: "Cool", checks: ["Cool"], coolDown: { belowC: 50 } } as Step,
  reset: { id: "reset", kind: "reset", title: "Reset", meter: "prints", expect: 0 } as Step,
};
const verdict = (step: keyof typeof STEPS, value: number): string =>
  questionValue({ meters: METERS }, STEPS[step], value, { past: PAST, on: ON }).verdict;

it.each<[keyof typeof STEPS, number[]]>([
  // Another meter's face, a digit left out or doubled, the point forgotten, yesterday's figure.
  ["hours", [2.4, 0, 292.7, 29_270, 2926, 3200, -2927, 2980.5, 12_927]],
  ["prints", [85, 8500, 800_000, 79, -1, 78_999]],
  ["gap", [31, 3.1, 0.031, -0.3, 0.03, 300]],
  ["broom", [4.4, 440, 121, -44, 0, 60]],
  ["pressure", [42, 420, 0.42, 12, -4.2, 0]],
  ["wash", [610, 6.1, 16, 101, -61, 142]],
  ["belt", [5, 30, 3000, 3, -300, 360]],
  ["filled", [850, 101, -5, 8.5]],
  ["clearance", [70, 0.7, -7, 18]],
  ["ph", [71, 0.71, 14.1, -7, 12]],
  ["fresh", [-0.1, -35]],
  ["cool", [-400, -273.2, -91, 1501, 3100]],
  ["reset", [-1, -0.5]],
])("%s: what is absurd or slipped is refused or asked", (step, values) => {
  for (const value of values)
    expect([value, verdict(step, value)]).toEqual([value, expect.stringMatching(/impossible|unusual/)]);
});

it.each<[keyof typeof STEPS, number[]]>([
  ["hours", [2927, 2927.5, 2937, 2950]],
  ["prints", [79_000, 81_000, 86_000]],
  ["gap", [0.27, 0.28, 0.3, 0.34]],
  ["broom", [40, 44, 47]],
  ["pressure", [3.8, 4, 4.4, 4.6]],
  ["wash", [55, 58, 64, 67]],
  ["belt", [280, 295, 310, 325]],
  ["filled", [55, 70, 100]],
  ["clearance", [4, 6, 8, 10]],
  ["ph", [6.7, 7, 7.4]],
  ["fresh", [0, 0.1, 35, 9000]],
  ["cool", [-80, 0, 49.9, 90, 450]],
  ["reset", [0, 5, 79_000]],
])("%s: what is right is taken without a question", (step, values) => {
  for (const value of values)
    expect([value, verdict(step, value)]).toEqual([value, expect.stringMatching(/^(usual|unknown)$/)]);
});

it("takes what procedure and physics both say: one end from each", () => {
  expect(verdict("broom", -1)).toBe("impossible");
  expect(verdict("broom", 120.5)).toBe("impossible");
});

describe("meters that run within one another", () => {
  const meters = [
    { id: "cutting", name: "Cutting", unit: "h", within: "spindle" },
    { id: "spindle", name: "Spindle", unit: "h", within: "power" },
    { id: "power", name: "Power on", unit: "h" },
  ];
  /** Each about as fast as it was: one, two and four hours a day. */
  const past: PastValues = {
    cutting: [before(60, 940), before(10, 990)],
    spindle: [before(60, 900), before(10, 1000)],
    power: [before(60, 2000), before(10, 2200)],
  };
  const judged = (meter: string, value: number, known = past) =>
    questionValue({ meters }, measure(meter, "h", { meter }), value, { past: known, on: ON });

  it("are held against one another, either way", () => {
    expect(judged("cutting", 1010).verdict).toBe("usual");
    expect(judged("cutting", 1020).verdict).toBe("usual");
    // By itself it may do a hundred and twenty more; the spindle has come to 1060 at most.
    const fast: PastValues = { ...past, cutting: [before(60, 790), before(10, 990)] };
    expect(judged("cutting", 1060, fast).verdict).toBe("usual");
    expect(judged("cutting", 1061, fast)).toMatchObject({
      verdict: "unusual",
      because: "1061 h is more than Spindle can show by now, 1060: it runs only while that one runs.",
    });
    const ahead: PastValues = {
      ...past,
      cutting: [before(60, 940), before(1, 1005)],
      spindle: [before(60, 900), before(10, 1000), before(1, 1010)],
    };
    expect(judged("spindle", 1012, ahead).verdict).toBe("usual");
    expect(judged("spindle", 1004, ahead)).toMatchObject({
      verdict: "unusual",
      because: "1004 h is less than Cutting showed, 1005: they run only while this one runs.",
    });
  });

  it("but not once one of them counts from elsewhere, or was never read", () => {
    const replaced: PastValues = { ...past, spindle: [before(60, 10), before(10, 100)] };
    expect(judged("cutting", 1010, replaced).verdict).toBe("usual");
    expect(judged("cutting", 1010, { cutting: past["cutting"] ?? [] }).verdict).toBe("usual");
    expect(judged("cutting", 1e5).verdict).toBe("impossible");
  });
});

it("of two readings of what was typed, takes the one that can be meant", () => {
  const judge = (step: keyof typeof STEPS) => (value: number) =>
    questionValue({ meters: METERS }, STEPS[step], value, { past: PAST, on: ON });
  expect(meantValue([85, 85_000], judge("prints"))).toBe(85_000);
  expect(meantValue([4.125, 4125], judge("pressure"))).toBe(4.125);
  expect(meantValue([85, 85_000], judge("fresh"))).toBeNull();
  expect(meantValue([85, 85_000], judge("pressure"))).toBeNull();
});

describe("what a device sends all the same", () => {
  const procedure: Procedure = base2([
    STEPS.wash,
    { id: "proof", kind: "prove", title: "Proof", expect: "Runs" },
  ] as Step[]);
  const facts = { options: [] };
  const read = (value: number, more: object = {}) =>
    ({ type: "reading", step: "wash", round: 1, value, unit: "°C", ...more }) as const;

  it("is kept, answers nothing when it cannot be, and is nobody's result", () => {
    const log = new TestLog();
    log.add(read(610));
    const state = foldRun(procedure, log.events);
    expect(state.steps["wash/1"] ?? Object.values(state.steps)[0]).toMatchObject({
      status: "open",
      answer: null,
      readings: [{ value: 610, impossible: true }],
    });
    expect(nextSteps(procedure, state, facts)).toEqual([{ step: "wash", round: 1 }]);
    expect(runResults(procedure, state, facts).readings).toEqual([]);
  });

  it("and is set right by a correction", () => {
    const log = new TestLog();
    const slip = log.add(read(610));
    log.add({ type: "corrected", ref: slip.id, set: { value: 61 }, why: "The point" });
    const state = foldRun(procedure, log.events);
    expect(nextSteps(procedure, state, facts)).toEqual([{ step: "proof", round: 1 }]);
    expect(runResults(procedure, state, facts).readings).toMatchObject([{ value: 61 }]);
  });

  it("opens no gate", () => {
    const gated: Procedure = { ...procedure, steps: [STEPS.cool, ...procedure.steps] };
    const log = new TestLog();
    log.add({ type: "reading", step: "cool", round: 1, value: -400, unit: "°C" });
    log.add({ type: "safety-confirmed", step: "cool", round: 1 });
    expect(nextSteps(gated, foldRun(gated, log.events), facts)[0]).toEqual({ step: "cool", round: 1 });
    log.add({ type: "reading", step: "cool", round: 1, value: 41, unit: "°C" });
    log.add({ type: "safety-confirmed", step: "cool", round: 1 });
    expect(nextSteps(gated, foldRun(gated, log.events), facts)[0]).toEqual({ step: "wash", round: 1 });
  });

  it("carries what the person answered to its result", () => {
    const log = new TestLog();
    log.add(read(61, { asked: { answer: "right" } }));
    expect(runResults(procedure, foldRun(procedure, log.events), facts).readings).toMatchObject([
      { value: 61, asked: { answer: "right" } },
    ]);
    const odd = new TestLog();
    odd.add(read(61, { asked: { answer: "perhaps" } }));
    expect(foldRun(procedure, odd.events).unknown).toHaveLength(1);
  });
});
