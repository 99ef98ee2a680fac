import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import type { Procedure, Step } from "@core";
import { must } from "@core";

import { STEP_KINDS, stepWords, triggerWords, whenWords } from "./step-words";

const folder = join(process.cwd(), "procedures");
const all = readdirSync(folder)
  .filter((file) => file.endsWith(".json"))
  .map((file) => JSON.parse(readFileSync(join(folder, file), "utf8")) as Procedure);
const step = (id: string, procedure: string): Step =>
  must(must(all.find((one) => one.id === procedure)).steps.find((one) => one.id === id));

it("says something of every step that has more than its title", () => {
  for (const one of all.flatMap((procedure) => procedure.steps)) {
    if (one.kind !== "do" && one.kind !== "replace") expect([one.id, stepWords(one) !== ""]).toEqual([one.id, true]);
    expect(STEP_KINDS[one.kind]).toBeTruthy();
  }
});

it.each([
  ["cool-down", "conveyor-oven-daily", "Nobody touches hot parts meanwhile · below 50 °C · after 60 min"],
  ["chlorine-soak", "slide-stainer-chambers", "15 to 20 minutes"],
  ["first-ice", "flake-ice-maker-clean-sanitise", "10 minutes or more"],
  ["belt-time", "conveyor-oven-weekly", "Measured in s, 3 runs (mean), at least 285 and at most 315 s"],
  ["daily", "conveyor-oven-weekly", "All steps of conveyor-oven-daily, version 1"],
])("%s of %s", (id, procedure, words) => expect(stepWords(step(id, procedure))).toBe(words));

it("says when a step is there, in the procedure's own names", () => {
  const when = (id: string, procedure: string): string =>
    whenWords(step(id, procedure), must(all.find((one) => one.id === procedure)));
  expect(when("side-new", "ride-on-sweeper-daily")).toBe('with: Two side brooms, if "Side broom bristle" is low');
  expect(when("nut-off", "recirculating-chiller-strainer")).toBe("without: Central unit with flanged strainer");
  expect(when("prove", "own-duty")).toBe("");
});

it.each([
  ["wash-tunnel-conveyor-half-year", "every 6 months (first after 3 months)"],
  ["card-printer-ribbon", 'at each "ribbon replaced"'],
  ["ride-on-scrubber-brushes", "every 100 on running hours"],
])("%s comes due %s", (id, words) =>
  expect(triggerWords(must(must(all.find((one) => one.id === id)).plan.triggers[0]))).toBe(words),
);

it("names conditions with their side", () => {
  const [signal, background] = must(all.find((one) => one.id === "mass-spectrometer-full")).plan.triggers;
  expect([triggerWords(must(signal)), triggerWords(must(background))]).toEqual([
    "when signal check is below 80000",
    "when background check is above 500",
  ]);
});
