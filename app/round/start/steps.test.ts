import type { FirstSteps } from "./first-steps.server";
import { stepsOf } from "./steps";

const NOTHING: FirstSteps = {
  procedures: 0,
  depot: null,
  sites: 0,
  machines: 0,
  owing: null,
  people: 1,
  next: null,
  signed: false,
};
const doors = (more: Partial<FirstSteps>) => stepsOf({ ...NOTHING, ...more }).map((step) => step.door?.to);
const done = (more: Partial<FirstSteps>) =>
  stepsOf({ ...NOTHING, ...more }).flatMap((step) => (step.done ? [step.title] : []));

it("begins with the library, which this page loads; a machine needs its site first", () => {
  expect(doors({})).toEqual([null, "/ways", "/sites/new", undefined, undefined, "/book/people", undefined]);
  expect(done({})).toEqual([]);
});

it("leads on: from the site to the machine, what it owes and its first sheet", () => {
  const begun = {
    procedures: 70,
    sites: 1,
    machines: 1,
    owing: { id: "m", name: "Oven" },
    next: { id: "d", title: "Daily", machine: "Oven" },
  };
  expect(doors(begun)).toEqual([
    "/book/procedures",
    "/ways",
    "/sites/new",
    "/machines/new",
    "/machines/m/first-duties",
    "/book/people",
    "/duties/d",
  ]);
  expect(done(begun)).toEqual(["The library", "The first site", "Its machines", "What they owe"]);
  expect(done({ ...begun, depot: "Yard", people: 3, signed: true })).toHaveLength(7);
  expect(doors({ ...begun, signed: true }).at(-1)).toBe("/round");
});
