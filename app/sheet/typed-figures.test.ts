import {
  addDays,
  amountFault,
  meantValue,
  must,
  type NumberFormat,
  type PastValues,
  type Procedure,
  questionValue,
  readNumber,
  type Step,
  strengthFault,
  trialScatter,
} from "@core";

import { clockFaults, EMPTY_LINE } from "./paper/paper-entry";

/** Every kind of figure that a sheet takes, as it is typed: what cannot be or looks like a slip never passes unasked. */

const TODAY = "2026-11-28";
const weekly = (...values: number[]) =>
  values.map((value, i) => ({ on: addDays(TODAY, -7 * (values.length - i)), value }));
const PAST: PastValues = {
  // About 14 hours and 3,500 prints a week.
  hours: weekly(2857, 2871, 2885, 2899, 2913, 2927),
  prints: weekly(62_000, 65_500, 69_000, 72_500, 76_000, 79_500),
  broom: weekly(62, 60, 58, 56, 54, 52),
  gap: weekly(0.3, 0.31, 0.3, 0.32, 0.3, 0.31),
  wash: weekly(61, 62, 61, 60, 62, 61),
  pressure: weekly(4.2, 4.1, 4.3, 4.2, 4.2, 4.1),
  vacuum: weekly(-0.82, -0.8, -0.81, -0.83, -0.8, -0.82),
  freezer: weekly(-18, -19, -18, -18, -20, -18),
};
const METERS = [
  { id: "hours", name: "Hour meter", unit: "h" },
  { id: "prints", name: "Print counter", unit: "prints" },
];
const measure = (reading: string, unit: string, more: object = {}) =>
  ({ id: reading, kind: "measure", title: reading, reading, unit, ...more }) as Step;
const ENGLISH: NumberFormat = { decimal: ".", group: "," };
const GERMAN: NumberFormat = { decimal: ",", group: "." };

type Said = "refused" | "asked" | "taken";

/** What a field of a step says to what is typed, in a person's format of numbers. */
const typedInto =
  (step: Step, format = ENGLISH) =>
  (text: string): Said => {
    const judge = (value: number) => questionValue({ meters: METERS }, step, value, { past: PAST, on: TODAY });
    const typed = readNumber(text, format);
    if (typed.kind === "none") return "refused";
    const meant = typed.kind === "number" ? typed.value : meantValue(typed.values, judge);
    // It can mean two things: the person is asked which.
    if (meant === null) return "asked";
    const { verdict } = judge(meant);
    return verdict === "impossible" ? "refused" : verdict === "unusual" ? "asked" : "taken";
  };
const said = (fault: { refused: boolean } | null): Said =>
  fault === null ? "taken" : fault.refused ? "refused" : "asked";
const number = (text: string): number => {
  const typed = readNumber(text, ENGLISH);
  return typed.kind === "number" ? typed.value : NaN;
};
const used = (usual: number | null, unit: string) => (text: string) => said(amountFault(number(text), { usual, unit }));
const strength = (chemical: "hypochlorite" | "acid" | undefined, labelled?: number) => (text: string) =>
  said(strengthFault(number(text), { chemical, labelled }));
const timed = (limits: object) => (text: string) => {
  const step = measure("belt-time", "s", { trials: 3, judge: "mean", limits });
  return trialScatter(step, text.split(" ").map(Number)) === null ? "taken" : "asked";
};
const onPaper = (workMinutes: number) => (text: string) => {
  const procedure = { steps: [{ id: "soak", kind: "wait", title: "Soak", minMinutes: 30 }] } as unknown as Procedure;
  const line = { ...EMPTY_LINE, minutes: number(text) };
  return clockFaults(procedure, { soak: line }, workMinutes).length > 0 ? "refused" : "taken";
};

const hours = measure("hours-read", "h", { meter: "hours" });
const prints = measure("prints-read", "prints", { meter: "prints" });
const gate = { id: "cool", kind: "safety", title: "Cool", checks: ["Cool"], coolDown: { belowC: 50 } } as Step;
const reset = { id: "reset", kind: "reset", title: "Reset", meter: "prints", expect: 0 } as Step;

const FIELDS: [field: string, say: (text: string) => Said, absurd: string[], right: string[]][] = [
  [
    "an hour meter",
    typedInto(hours),
    ["2.4", "292.7", "29270", "2926", "0", "-2927", "29 27x", "12927", "3400"],
    ["2927", "2927.0", "2,941", "2933.5", "2960", "2985"],
  ],
  [
    "a counter of prints",
    typedInto(prints),
    ["85", "8300", "830000", "79", "79499", "-83000", "8 3 0"],
    ["83,000", "79500", "83000", "90,000", "83 000"],
  ],
  ["a counter, typed with a German point", typedInto(prints, GERMAN), ["83,0", "830.000"], ["83.000", "83000"]],
  ["a counter's reset", typedInto(reset), ["-1", "x", "-0.5"], ["0", "12", "79500"]],
  [
    "a broom's bristles, worn a little more each week",
    typedInto(measure("broom", "mm", { possible: { max: 120 } })),
    ["5", "500", "-50", "121", "0"],
    ["50", "49", "52", "47"],
  ],
  ["a gap", typedInto(measure("gap", "mm")), ["31", "3.1", "0.031", "-0.3"], ["0.3", "0.28", "0.34", ".31"]],
  ["a gap, with a German comma", typedInto(measure("gap", "mm"), GERMAN), ["3,1", "31"], ["0,31", "0.29", "0,28"]],
  [
    "a wash temperature",
    typedInto(measure("wash", "°C")),
    ["610", "6.1", "142", "-400", "16"],
    ["58", "64", "61.5", "66"],
  ],
  [
    "a freezer below zero",
    typedInto(measure("freezer", "°C")),
    ["18", "-180", "-400", "-1.8"],
    ["-18", "-21", "-16", "−19"],
  ],
  ["a pressure", typedInto(measure("pressure", "bar")), ["42", "420", "0.42", "-4.2"], ["4", "4.4", "3.9"]],
  [
    "a vacuum",
    typedInto(measure("vacuum", "bar", { possible: { min: -1.1 } })),
    ["0.8", "-8.2", "-82"],
    ["-0.79", "-0.84"],
  ],
  ["something never read", typedInto(measure("play", "mm")), ["-0.1", "1/2x"], ["0", "0.05", "120"]],
  ["a surface that has to be cool", typedInto(gate), ["-400", "-273.2", "3100", "12O"], ["-20", "0", "49.9", "180"]],
  [
    "hypochlorite's strength",
    strength("hypochlorite", 12),
    ["120", "1.2", "0", "-12", "60", "99"],
    ["12", "10", "13.5"],
  ],
  ["a strength without a label", strength(undefined), ["101", "0"], ["5", "96", "0.5"]],
  ["millilitres of a cleaner", used(240, "mL"), ["24", "2400", "-240", "2.4"], ["240", "200", "300", "480", "0", "60"]],
  ["tablets", used(2, "tablet"), ["20", "1.5", "-1"], ["1", "2", "3", "0"]],
  ["pieces that nothing is known of", used(null, "pc"), ["-1", "0.5"], ["1", "12"]],
  [
    "three times of one belt",
    timed({ min: 285, max: 315 }),
    ["300 301 30", "300 330 300", "285 301 315", "300 300 3000"],
    ["300 301 299", "290 300 304", "305 305 305"],
  ],
  ["a soak on paper, in two hours of work", onPaper(120), ["121", "1200", "-30"], ["30", "45", "0", "120"]],
];

const all = (which: 2 | 3): [string, string, Said][] =>
  FIELDS.flatMap(([field, say, ...texts]) =>
    must(texts[which - 2]).map((text): [string, string, Said] => [field, text, say(text)]),
  );

it("refuses or asks about more than sixty absurd and slipped entries, over every kind of field", () => {
  const absurd = all(2);
  expect(absurd.length).toBeGreaterThanOrEqual(60);
  expect(absurd.filter(([, , answer]) => answer === "taken")).toEqual([]);
});

it("takes more than sixty right but rare entries without refusing one, and asks of few", () => {
  const right = all(3);
  expect(right.length).toBeGreaterThanOrEqual(60);
  expect(right.filter(([, , answer]) => answer === "refused")).toEqual([]);
  // One question each at most, and seldom any.
  expect(right.filter(([, , answer]) => answer === "asked").length).toBeLessThanOrEqual(right.length / 10);
});
