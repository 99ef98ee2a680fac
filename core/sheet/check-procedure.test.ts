import { readdirSync } from "node:fs";
import { join } from "node:path";

import { checkProcedure } from "./check-procedure";
import type { Procedure, Step } from "./procedure";
import { shipped } from "./testing/runs";

const files = readdirSync(join(__dirname, "../../procedures")).filter((file) => file.endsWith(".json"));
const base = shipped("flake-ice-maker-clean-sanitise");
const withStep = (step: Partial<Step> & { id: string; kind: string }): Procedure => ({
  ...base,
  steps: [...base.steps, { title: "x", ...step } as Step],
});
const paths = (procedure: Procedure) => checkProcedure(procedure).map((fault) => fault.path);

it.each(files)("%s holds together", (file) => {
  expect(checkProcedure(shipped(file.replace(".json", "")))).toEqual([]);
});

const last = `steps[${base.steps.length}]`;
it.each<[string, Partial<Step> & { id: string; kind: string }, string]>([
  ["a step id twice", { id: "rinse", kind: "do" }, `${last}.id`],
  ["a material not listed", { id: "n", kind: "do", uses: [{ item: "soap", qty: 1 }] }, `${last}.uses`],
  ["an option that does not exist", { id: "n", kind: "do", when: [{ option: "wings", fitted: true }] }, `${last}.when`],
  ["a condition on a later step", { id: "n", kind: "do", when: [{ step: "n", is: "ok" }] }, `${last}.when`],
  ["a maximum below the minimum", { id: "n", kind: "wait", minMinutes: 5, maxMinutes: 4 }, `${last}.maxMinutes`],
  [
    "meanwhile naming an earlier step",
    { id: "n", kind: "wait", minMinutes: 5, meanwhile: ["rinse"] },
    `${last}.meanwhile`,
  ],
  ["an unknown meter", { id: "n", kind: "reset", meter: "hours", expect: 0 }, `${last}.meter`],
  ["an unknown part", { id: "n", kind: "replace", item: "wheel", slots: ["a"] }, `${last}.item`],
  [
    "an unknown slot",
    { id: "n", kind: "replace", item: "auger-bearing", slots: ["bearing-top", "bearing-bottom", "middle"] },
    `${last}.slots`,
  ],
  ["one of a pair", { id: "n", kind: "replace", item: "auger-bearing", slots: ["bearing-top"] }, `${last}.slots`],
  [
    "a repeat that goes forward",
    { id: "n", kind: "repeat", from: "n", question: "?", clean: "y", again: "n" },
    `${last}.from`,
  ],
  [
    "a second repeat after the first",
    { id: "n", kind: "repeat", from: "rinse", question: "?", clean: "y", again: "n" },
    "nothing",
  ],
  [
    "nested repeats",
    { id: "n", kind: "repeat", from: "look-over", question: "?", clean: "y", again: "n" },
    `${last}.from`,
  ],
])("%s is found", (_name, step, path) => {
  expect(paths(withStep(step))).toEqual(path === "nothing" ? [] : [path]);
});
