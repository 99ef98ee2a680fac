import { readFileSync } from "node:fs";
import { join } from "node:path";

import type { Procedure, Step } from "@core";
import { must } from "@core";
import Ajv2020 from "ajv/dist/2020";

import { mendsOf } from "./lint-panel";
import { COMMON_FIELDS, emptyStep, fieldText, fieldValue, KIND_FIELDS, RARE_FIELDS } from "./step-fields";
import { STEP_KINDS } from "./step-words";

const procedure = JSON.parse(readFileSync(join(process.cwd(), "procedures/own-duty.json"), "utf8")) as Procedure;

const isProcedure = new Ajv2020({ strict: true, allowUnionTypes: true }).compile(
  JSON.parse(readFileSync(join(process.cwd(), "schemas/procedure.schema.json"), "utf8")) as object,
);

it("every field of every shipped step can be edited, and comes back as it was", () => {
  const folder = join(process.cwd(), "procedures");
  for (const file of [
    "conveyor-oven-weekly",
    "icp-spectrometer-carbon",
    "ride-on-scrubber-brushes",
    "flake-ice-maker-clean-sanitise",
    "chemistry-analyser-weekly",
  ]) {
    const { steps } = JSON.parse(readFileSync(join(folder, `${file}.json`), "utf8")) as Procedure;
    for (const step of steps) {
      const known = new Map(
        [...COMMON_FIELDS, ...RARE_FIELDS, ...KIND_FIELDS[step.kind]].map((spec) => [spec.field, spec]),
      );
      for (const [field, value] of Object.entries(step)) {
        if (field === "id" || field === "kind") continue;
        const spec = known.get(field);
        expect([file, step.id, field, spec !== undefined]).toEqual([file, step.id, field, true]);
        if (must(spec).kind !== "yes")
          expect(fieldValue(fieldText(value, must(spec).kind), must(spec).kind).value).toEqual(value);
      }
    }
  }
});

it.each(Object.keys(STEP_KINDS) as Step["kind"][])("a new %s step is found wanting, not broken", (kind) => {
  const draft = { ...procedure, steps: [...procedure.steps, emptyStep(kind, "fresh")] };
  expect(() => mendsOf(draft)).not.toThrow();
  expect(isProcedure(draft)).toBe(false);
});

it.each([
  ["1,5", "number", { value: 1.5 }],
  ["", "number", {}],
  ["one", "number", { fault: "This is no figure." }],
  ["a\n\n b ", "lines", { value: ["a", "b"] }],
  ["", "lines", {}],
  ["{", "json", { fault: "This is no JSON yet." }],
  ['{"min":1}', "json", { value: { min: 1 } }],
  ["  ", "text", {}],
] as const)("%j as %s", (text, kind, expected) => expect(fieldValue(text, kind)).toEqual(expected));

it("a list of the wrong shape is something to mend, not a crash", () => {
  expect(mendsOf({ ...procedure, materials: {} as never })).toMatchObject([{ rule: "form", severity: "error" }]);
});

describe("a field's text and its value", () => {
  it.each<[string, Parameters<typeof fieldValue>[1], object]>([
    ["", "line", {}],
    ["   ", "number", {}],
    [" 2,5 ", "number", { value: 2.5 }],
    ["-0.1", "number", { value: -0.1 }],
    ["two", "number", { fault: "This is no figure." }],
    ["1e400", "number", { fault: "This is no figure." }],
    [" a \n\n b ", "lines", { value: ["a", "b"] }],
    ["\n \n", "lines", {}],
    ['{"a":1}', "json", { value: { a: 1 } }],
    ["{a:1}", "json", { fault: "This is no JSON yet." }],
  ])("%j as %s", (text, kind, expected) => {
    expect(fieldValue(text, kind)).toEqual(expected);
  });

  it("is empty where there is none, and no text for what it cannot show", () => {
    for (const kind of ["line", "number", "lines", "json"] as const)
      for (const nothing of [undefined, null]) expect(fieldText(nothing, kind)).toBe("");
    expect(fieldText(["a", "b"], "lines")).toBe("a\nb");
    expect(fieldText("a", "lines")).toBe("");
    expect(fieldText({ a: 1 }, "line")).toBe("");
    expect([fieldText(0, "number"), fieldText(false, "line"), fieldText("x", "line")]).toEqual(["0", "false", "x"]);
  });
});

it("a new step has what its kind must have, empty, and nothing else", () => {
  expect(emptyStep("do", "a")).toEqual({ id: "a", kind: "do", title: "" });
  expect(emptyStep("hand-off", "a")).toEqual({ id: "a", kind: "hand-off", title: "", to: "" });
  expect(emptyStep("count", "a")).toMatchObject({ times: 1, each: "" });
  expect(emptyStep("replace", "a")).toMatchObject({ item: "", slots: [] });
  expect(emptyStep("mix", "a")).toMatchObject({ recipe: { by: "dilution", target: { ppm: 100 }, finalMl: 1000 } });
  expect(emptyStep("decide", "a")).toMatchObject({ branches: [{ id: "yes" }, { id: "no" }] });
  expect(emptyStep("choose", "a")).toMatchObject({ schools: [{ id: "first" }, { id: "second" }] });
  expect(emptyStep("wait", "a")).not.toHaveProperty("maxMinutes");
});
