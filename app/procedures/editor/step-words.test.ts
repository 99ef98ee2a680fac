import type { Step } from "@core";
import { must } from "@core";

import { doing } from "../../../core/sheet/testing/sample";
import { allShipped } from "../../../core/sheet/testing/shipped";
import { STEP_KINDS, stepWords, whenWords } from "./step-words";

const all = allShipped();
const step = (id: string, procedure: string): Step =>
  must(must(all.find((one) => one.id === procedure)).steps.find((one) => one.id === id));

it("says something of every step that has more than its title", () => {
  for (const one of all.flatMap((procedure) => procedure.steps)) {
    if (one.kind !== "do" && one.kind !== "replace") expect([one.id, stepWords(one) !== ""]).toEqual([one.id, true]);
    expect(STEP_KINDS[one.kind]).toBeTruthy();
  }
});

it.each([
  ["chlorine-soak", "slide-stainer-chambers", "15 to 20 minutes"],
  ["first-ice", "flake-ice-maker-clean-sanitise", "10 minutes or more"],
  ["belt-time", "conveyor-oven-weekly", "Reading (s), 2 runs (mean), at least 285 and at most 315 s"],
  ["pressure-before", "recirculating-chiller-strainer", "Reading (kPa), at least 0.9 times its own clean value"],
  ["daily", "conveyor-oven-weekly", "All steps of conveyor-oven-daily, version 3"],
])("%s of %s", (id, procedure, words) => expect(stepWords(step(id, procedure))).toBe(words));

it("says when a step is there, in the procedure's own names", () => {
  const when = (id: string, procedure: string): string =>
    whenWords(step(id, procedure), must(all.find((one) => one.id === procedure)));
  expect(when("side-new", "ride-on-sweeper-daily")).toBe('with: Two side brooms, if "Side broom bristle" is too low');
  expect(when("wiggle", "recirculating-chiller-strainer")).toBe("without: Central unit with flanged strainer");
  expect(when("flame", "icp-spectrometer-carbon")).toBe('if "How is the carbon removed?" is "Burn-out, gas flame"');
  expect(when("prove", "own-duty")).toBe("");
});

it.each<[object, string]>([
  [{ kind: "safety", checks: ["Off", "Locked"], coolDown: { minutes: 30 } }, "Off · Locked · after 30 min"],
  [{ kind: "safety", checks: ["Off"] }, "Off"],
  [{ kind: "inspect", asItShouldBe: "dry", ifNot: "wipe it" }, "As it should be: dry. If not: wipe it"],
  [{ kind: "measure", reading: "x", unit: "mm" }, "Reading (mm)"],
  [{ kind: "measure", reading: "x", unit: "mm", points: ["a", "b"], judge: "each" }, "Reading (mm), 2 points"],
  [
    { kind: "measure", reading: "x", unit: "mm", trials: 3, judge: "spread", limits: { max: 1 } },
    "Reading (mm), 3 runs (spread), at most 1 mm",
  ],
  [{ kind: "wait", minMinutes: 5 }, "5 minutes or more"],
  [{ kind: "count", times: 8, each: "Rinse" }, "8 times"],
  [{ kind: "repeat", clean: "It is clean", again: "Once more" }, "It is clean, or: Once more"],
  [{ kind: "prove", expect: "Runs" }, "Expected: Runs"],
  [{ kind: "reset", meter: "hours", expect: 0 }, "Shows 0 afterwards"],
  [{ kind: "hand-off", to: "the cook" }, "To the cook"],
  [{ kind: "mix" }, "Made up with the stock's strength as it is"],
  [{ kind: "turn" }, "Turned while a use is left, then replaced"],
  [
    {
      kind: "choose",
      schools: [
        { id: "a", name: "Hot", why: "quicker" },
        { id: "b", name: "Cold", why: "gentler" },
      ],
    },
    "Hot (default): quicker · Cold: gentler",
  ],
  [{ kind: "decide", branches: [{ name: "Yes" }, { name: "No" }] }, "Yes · No"],
  [{ kind: "nested", procedure: "daily", version: 2 }, "All steps of daily, version 2"],
  [{ kind: "replace" }, ""],
  [{ kind: "do" }, ""],
])("%j wants: %s", (more, words) => {
  expect(stepWords(doing("it", more))).toBe(words);
});

it("says ids in words where a draft names what is not there yet", () => {
  const of = { options: [{ id: "water-filter", name: "Water filter" }], steps: [] };
  const when = [
    { option: "water-filter", fitted: true },
    { option: "side-lid", fitted: false },
    { step: "look-over", is: "not-ok" },
  ];
  expect(whenWords(doing("it", { when }), of)).toBe('with: Water filter, without: side lid, if "look over" is not ok');
});
