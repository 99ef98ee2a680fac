import { must } from "../must";
import { expandNested } from "./expand-nested";
import type { Procedure } from "./procedure";
import { doing, sample } from "./testing/sample";

const nested = (id: string, procedure: string, version = 1, more: object = {}) =>
  doing(id, { kind: "nested", procedure, version, ...more });
const hot = { kind: "hot", text: "Hot" } as const;

const wash = sample([doing("soap", { uses: [{ item: "soap", qty: 2 }] })], {
  id: "wash",
  hazards: [hot, { kind: "wet", text: "Wet floor" } as never],
  protective: ["Gloves", "Apron"],
  tools: ["Brush"],
  materials: [{ item: "soap", name: "Soap", qty: 2, unit: "mL" }],
  parts: [{ item: "seal", name: "Seal", slots: [{ id: "a", name: "A" }] }],
  options: [{ id: "lid", name: "Lid" }],
  meters: [{ id: "hours", name: "Hours", unit: "h" }],
});
const outer = (more: Partial<Procedure> = {}): Procedure =>
  sample([nested("first", "wash", 3), nested("second", "wash", 3)], {
    id: "outer",
    hazards: [hot],
    protective: ["Gloves"],
    tools: ["Torch"],
    meters: [{ id: "hours", name: "Running hours", unit: "h" }],
    ...more,
  });

it("knows what a meter runs within when either says it; the outer's name stands", () => {
  const meters = [
    { id: "hours", name: "Hours", unit: "h", within: "power" },
    { id: "power", name: "Power on", unit: "h" },
  ];
  expect(expandNested(outer(), () => ({ ...wash, meters })).meters).toEqual([
    { id: "hours", name: "Running hours", unit: "h", within: "power" },
    { id: "power", name: "Power on", unit: "h" },
  ]);
});

it("asks for the version that is pinned", () => {
  const asked: [string, number][] = [];
  expandNested(outer(), (id, version) => {
    asked.push([id, version]);
    return wash;
  });
  expect(asked).toEqual([
    ["wash", 3],
    ["wash", 3],
  ]);
});

it("joins the lists, each entry once, the outer one's first, and adds materials up", () => {
  const whole = expandNested(outer(), () => wash);
  expect(whole.hazards.map((one) => one.text)).toEqual(["Hot", "Wet floor"]);
  expect(whole.protective).toEqual(["Gloves", "Apron"]);
  expect(whole.tools).toEqual(["Torch", "Brush"]);
  expect(whole.materials).toEqual([{ item: "soap", name: "Soap", qty: 4, unit: "mL" }]);
  expect(whole.parts.map((one) => one.item)).toEqual(["seal"]);
  expect(whole.options.map((one) => one.id)).toEqual(["lid"]);
  expect(whole.meters).toEqual([{ id: "hours", name: "Running hours", unit: "h" }]);
});

it("gives every step a name of its own, also of what is nested twice and deeper", () => {
  const middle = sample([nested("in", "wash"), doing("end", { when: [{ step: "gate", is: "ok" }] })], { id: "middle" });
  const find = (id: string): Procedure | undefined => ({ middle, wash })[id];
  const whole = expandNested(sample([nested("a", "middle"), nested("b", "wash")], { id: "top" }), find);
  const ids = whole.steps.map((step) => step.id);
  expect(ids).toEqual([
    "gate",
    "a-gate",
    "a-in-gate",
    "a-in-soap",
    "a-in-proof",
    "a-end",
    "a-proof",
    "b-gate",
    "b-soap",
    "b-proof",
    "proof",
  ]);
  expect(whole.steps.find((step) => step.id === "a-end")?.when).toEqual([{ step: "a-gate", is: "ok" }]);
  // Nothing that came in was changed.
  expect(wash.steps.map((step) => step.id)).toEqual(["gate", "soap", "proof"]);
});

it("renames what steps refer to: the begin of a repeat, and work for meanwhile", () => {
  const inner = sample(
    [
      doing("soak", { kind: "wait", minMinutes: 5, meanwhile: ["wipe"] }),
      doing("wipe"),
      doing("again", { kind: "repeat", from: "soak", question: "?", clean: "y", again: "n" }),
    ],
    { id: "inner" },
  );
  const whole = expandNested(sample([nested("n", "inner")], { id: "top" }), () => inner);
  expect(whole.steps.find((step) => step.id === "n-again")).toMatchObject({ from: "n-soak" });
  expect(whole.steps.find((step) => step.id === "n-soak")).toMatchObject({ meanwhile: ["n-wipe"] });
});

it("names an area: the step's own, else the nested step's, else its title", () => {
  const inner = sample([doing("x", { area: "Lid" }), doing("y")], { id: "inner" });
  const areas = (step: object) =>
    expandNested(sample([{ ...nested("n", "inner"), ...step }], { id: "top" }), () => inner)
      .steps.filter((one) => ["n-x", "n-y"].includes(one.id))
      .map((one) => one.area);
  expect(areas({ title: "Daily", area: "Hopper" })).toEqual(["Lid", "Hopper"]);
  expect(areas({ title: "Daily" })).toEqual(["Lid", "Daily"]);
});

it("tells the circle, or what does not exist, and where", () => {
  const a = sample([nested("to-b", "b")], { id: "a" });
  const b = sample([nested("to-a", "a")], { id: "b" });
  expect(() => expandNested(a, (id) => ({ a, b })[id])).toThrow(
    expect.objectContaining({
      code: "bad-value",
      path: "steps.to-a",
      message: expect.stringContaining('"a" holds itself: a → b → a.') as string,
    }) as Error,
  );
  expect(() => expandNested(must(a), () => undefined)).toThrow(
    expect.objectContaining({
      code: "unknown-reference",
      path: "steps.to-b",
      message: expect.stringContaining('Version 1 of the procedure "b" does not exist.') as string,
    }) as Error,
  );
});
