import { readFileSync } from "node:fs";
import { join } from "node:path";

import { must, type Procedure, type Step } from "@core";
import Ajv2020 from "ajv/dist/2020";

import { allShipped, shipped } from "../../../core/sheet/testing/shipped";
import { SECTIONS } from "./about-fields";
import { type Around, type FieldKind, type FieldSpec, fieldText, fieldValue } from "./field-kinds";
import { mendsOf } from "./mends";
import {
  COMMON_FIELDS,
  emptyStep,
  KIND_FIELDS,
  NEWER_FIELDS,
  OLDER_PART_FIELDS,
  PART_FIELDS,
  RARE_FIELDS,
} from "./step-fields";
import { STEP_KINDS } from "./step-words";

const procedure = shipped("own-duty");
const isProcedure = new Ajv2020({ strict: true, allowUnionTypes: true }).compile(
  JSON.parse(readFileSync(join(process.cwd(), "schemas/procedure.schema.json"), "utf8")) as object,
);
const stepSpecs = (kind: Step["kind"]): FieldSpec[] => [
  ...COMMON_FIELDS,
  ...KIND_FIELDS[kind],
  ...NEWER_FIELDS,
  ...PART_FIELDS,
  ...OLDER_PART_FIELDS,
  ...RARE_FIELDS,
];
const all = allShipped();
const library = all.map(({ id, title, version }) => ({ id, name: title, version }));

/** Fields of a value that no field of the editor shows, and values that would not come back as they are. */
function lost(value: unknown, kind: FieldKind, around: Around, at: string): string[] {
  const record = (value ?? {}) as Record<string, unknown>;
  const chosen = (ids: readonly unknown[], from: readonly { id: string }[]): string[] =>
    ids.filter((id) => !from.some((one) => one.id === String(id))).map((id) => `${at}: ${String(id)}`);
  // What is empty and has to stay is put back as it was.
  if (Array.isArray(value) && value.length === 0) return [];
  if (kind === "yes") return typeof value === "boolean" ? [] : [at];
  if (typeof kind === "string")
    return JSON.stringify(fieldValue(fieldText(value, kind), kind).value) === JSON.stringify(value) ? [] : [at];
  if ("choices" in kind) return kind.choices.some(([id]) => id === value) ? [] : [`${at}: ${String(value)}`];
  if ("pick" in kind) return kind.own ? [] : chosen([value], kind.pick(around));
  if ("some" in kind) return chosen(value as unknown[], kind.some(around));
  if ("record" in kind) return lostFields(record, kind.record, around, at);
  if ("list" in kind)
    return (value as Record<string, unknown>[]).flatMap((row, i) => lostFields(row, kind.list, around, `${at}[${i}]`));
  return (kind.many ? (value as unknown[]) : [value]).flatMap((one, i) => {
    const variant = kind.variants[kind.of(one)];
    if (!variant) return [`${at}[${i}]`];
    const fields = Object.fromEntries(
      Object.entries(one as object).filter(([name]) => name !== "kind" && name !== "by"),
    );
    return lostFields(fields, variant.fields, around, `${at}[${i}]`);
  });
}

function lostFields(
  record: Record<string, unknown>,
  specs: readonly FieldSpec[],
  around: Around,
  at: string,
): string[] {
  return Object.entries(record).flatMap(([field, value]) => {
    if (specs.some((spec) => spec.names === field)) return [];
    const spec = specs.find((one) => one.field === field);
    return spec ? lost(value, spec.kind, { ...around, within: record }, `${at}.${field}`) : [`${at}.${field}`];
  });
}

const around = (of: Procedure, step: string | null): Around => ({
  procedure: of,
  step,
  within: {},
  library,
  items: [],
});

/** Fields that no shipped procedure has yet. */
const newest: Procedure = {
  ...procedure,
  id: "newest",
  formatVersion: 2,
  plan: { ...procedure.plan, readyBy: "10:45", notUntil: { hours: 12, done: "ride-on-sweeper-daily" } },
  meters: [
    { id: "cutting", name: "Cutting", unit: "h", within: "power" },
    { id: "power", name: "Power on", unit: "h" },
  ],
  parts: [{ item: "brush", name: "Brush", slots: [{ id: "l", name: "Left" }] }],
  steps: [
    {
      id: "bristles",
      kind: "measure",
      title: "Bristles",
      reading: "bristles",
      unit: "mm",
      possible: { min: 0, max: 200 },
      wears: { item: "brush", slots: ["l"], per: "power", worse: "down" },
    },
  ],
};

it.each([newest, ...all].map((one) => [one.id, one] as const))(
  "every field of %s has its form, and comes back as it was",
  (_id, one) => {
    const { format: _, formatVersion: __, id: ___, version: ____, steps, ...rest } = one;
    const beside = Object.fromEntries(Object.entries(rest).filter(([name]) => name !== "$schema"));
    expect(
      lostFields(
        beside,
        SECTIONS.flatMap((section) => section.fields),
        around(one, null),
        one.id,
      ),
    ).toEqual([]);
    for (const step of steps) {
      const { id, kind, ...fields } = step;
      expect(lostFields(fields, stepSpecs(kind), around(one, id), id)).toEqual([]);
    }
  },
);

it.each(Object.keys(STEP_KINDS) as Step["kind"][])("a new %s step is found wanting, not broken", (kind) => {
  const draft = { ...procedure, steps: [...procedure.steps, emptyStep(kind, "fresh")] };
  expect(() => mendsOf(draft)).not.toThrow();
  expect(isProcedure(draft)).toBe(false);
});

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
    ["Épluche-légume No. 2 ", "short", { value: "epluche-legume-no-2" }],
    ["!?", "short", { fault: "Use letters or digits." }],
    ["Wash sink\nhood", "shorts", { value: ["wash-sink", "hood"] }],
  ])("%j as %s", (text, kind, expected) => {
    expect(fieldValue(text, kind)).toEqual(expected);
  });

  it("is empty where there is none, and no text for what it cannot show", () => {
    for (const kind of ["line", "number", "lines", "short"] as const)
      for (const nothing of [undefined, null]) expect(fieldText(nothing, kind)).toBe("");
    expect(fieldText(["a", "b"], "lines")).toBe("a\nb");
    expect(fieldText("a", "lines")).toBe("");
    expect(fieldText({ a: 1 }, "line")).toBe("");
    expect([fieldText(0, "number"), fieldText("x", "line"), fieldText("two-words", "short")]).toEqual([
      "0",
      "x",
      "two words",
    ]);
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
  expect(must(emptyStep("nested", "a"))).toMatchObject({ procedure: "", version: 1 });
});
