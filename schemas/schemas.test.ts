import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import { type FaultGuide, foldRun, missingSteps, type Procedure, sheetSteps } from "@core";
import Ajv2020 from "ajv/dist/2020";
import { v7 as uuidv7 } from "uuid";

import { parseMachineCsv } from "~/machines/register/machine-csv.server";
import { parseGuide } from "~/procedures/guides/guide-schema.server";
import { parseProcedure } from "~/procedures/procedure-schema.server";
import { ENTRY_TYPES, parseLogEntry } from "~/sheet/log/log-entry-schema";

import { must } from "../core/must";
import { allShipped, earlier, whole } from "../core/sheet/testing/shipped";
import { simulateSheet } from "../db/demo/simulate-sheet";

/** The published JSON Schemas, with a general-purpose validator, against what the app itself takes. */
const ajv = new Ajv2020({ strict: true, allowUnionTypes: true });
const load = (name: string) => JSON.parse(readFileSync(join(__dirname, name), "utf8")) as object;
const isProcedure = ajv.compile(load("procedure.schema.json"));
const isRunLog = ajv.compile(load("run-log.schema.json"));
const isGuide = ajv.compile(load("fault-guide.schema.json"));
const isRegister = ajv.compile(load("machine-register.schema.json"));

const folder = join(__dirname, "../procedures");
const files = readdirSync(folder).filter((file) => file.endsWith(".json"));
const read = (file: string) => JSON.parse(readFileSync(join(folder, file), "utf8")) as Procedure;

describe("procedures", () => {
  it.each(files)("%s is valid by schema and by the app", (file) => {
    expect(isProcedure(read(file)) || isProcedure.errors).toBe(true);
    expect(() => parseProcedure(read(file))).not.toThrow();
  });

  /** One wrong thing at a time: both must refuse it. */
  const wrong: [
    string,
    (procedure: Record<string, never> & { steps: Record<string, unknown>[]; plan: Record<string, unknown> }) => void,
  ][] = [
    ["another format", (p) => Object.assign(p, { format: "other" })],
    ["no steps", (p) => Object.assign(p, { steps: [] })],
    ["an unknown field", (p) => Object.assign(p, { colour: "red" })],
    ["an id with spaces", (p) => Object.assign(p, { id: "two words" })],
    ["version 0", (p) => Object.assign(p, { version: 0 })],
    ["half a version", (p) => Object.assign(p, { version: 1.5 })],
    ["an unknown step kind", (p) => Object.assign(must(p.steps[0]), { kind: "dance" })],
    ["a step without a title", (p) => delete must(p.steps[0]).title],
    ["a gate without checks", (p) => Object.assign(must(p.steps[0]), { checks: [] })],
    ["a step with a field of another kind", (p) => Object.assign(must(p.steps[0]), { times: 3 })],
    [
      "a trigger every 0",
      (p) => Object.assign(p.plan, { triggers: [{ kind: "calendar", every: 0, unit: "day", basis: "grid" }] }),
    ],
    [
      "a trigger without a basis",
      (p) => Object.assign(p.plan, { triggers: [{ kind: "calendar", every: 1, unit: "day" }] }),
    ],
    ["a lead of more than all", (p) => Object.assign(p.plan, { notice: { fraction: 2 } })],
    ["an unknown hazard", (p) => Object.assign(p, { hazards: [{ kind: "boredom", text: "x" }] })],
    ["text where a number belongs", (p) => Object.assign(p, { minutes: { handsOn: "70", waiting: 0 } })],
    ["no material list", (p) => delete (p as Record<string, unknown>).materials],
  ];
  it.each(wrong)("with %s is refused by both", (_name, spoil) => {
    const procedure = earlier("flake-ice-maker-clean-sanitise") as never;
    spoil(procedure);
    expect(isProcedure(procedure)).toBe(false);
    expect(() => parseProcedure(procedure)).toThrow(/no valid procedure/);
  });
});

describe("what only format version 2 has", () => {
  type Loose = {
    formatVersion: number;
    plan: Record<string, unknown>;
    meters: object[];
    parts: object[];
    steps: object[];
    begins?: unknown;
  };
  const gap = { id: "gap", kind: "measure", title: "Gap", reading: "gap", unit: "mm" };
  const blades = { item: "blade", name: "Blade", slots: [{ id: "l", name: "Left" }] };
  const wears = { item: "blade", slots: ["l"], per: "day", worse: "down" };
  const cases: [string, (p: Loose, value: unknown) => void, good: unknown[], bad: unknown[]][] = [
    ["readyBy", (p, value) => (p.plan["readyBy"] = value), ["00:00", "23:59"], ["24:00", "7:30", 730]],
    [
      "notUntil",
      (p, value) => (p.plan["notUntil"] = value),
      [{ hours: 0.5 }, { done: "refill" }, { hours: 12, done: "refill" }],
      [{}, { hours: 0 }, { hours: 2000 }, { done: "Re fill" }, { until: "then" }],
    ],
    [
      "within",
      (p, value) => p.meters.push({ id: "a", name: "A", unit: "h", within: value }, { id: "b", name: "B", unit: "h" }),
      ["b"],
      ["B b", 7],
    ],
    [
      "possible",
      (p, value) => p.steps.push({ ...gap, possible: value }),
      [{ min: 0 }, { max: 3 }, { min: -1, max: 0 }],
      [{}, { min: "0" }, { above: 3 }],
    ],
    [
      "begins",
      (p, value) => (p["begins"] = value),
      [{}, { off: ["tank"] }],
      [{ off: "tank" }, { states: ["isolated"] }, { off: [7] }],
    ],
    [
      "some",
      (p, value) => {
        p.parts.push(blades);
        p.steps.push({ id: "new", kind: "replace", title: "New", item: "blade", slots: ["l"], some: value });
      },
      [true],
      [false, "yes"],
    ],
    [
      "drawing",
      (p, value) => p.steps.push({ id: "look", kind: "do", title: "Look", figure: { kind: "drawing", of: value } }),
      ["auger-feeler"],
      ["a-place", ["auger-feeler"], 7],
    ],
    [
      "wears",
      (p, value) => {
        p.parts.push(blades);
        p.steps.push({ ...gap, wears: value });
      },
      [wears],
      [
        { ...wears, worse: "left" },
        { ...wears, slots: [] },
        { ...wears, per: undefined },
        { ...wears, side: "l" },
        { ...wears, worst: false },
      ],
    ],
  ];
  const withIt = (set: (typeof cases)[number][1], value: unknown, formatVersion: number): never => {
    const procedure = read("own-duty.json") as unknown as Loose;
    procedure.formatVersion = formatVersion;
    set(procedure, value);
    return JSON.parse(JSON.stringify(procedure)) as never;
  };

  it.each(cases)("%s is taken and refused by schema and by the app alike", (_name, set, good, bad) => {
    for (const value of good) {
      expect(isProcedure(withIt(set, value, 2)) || isProcedure.errors).toBe(true);
      expect(() => parseProcedure(withIt(set, value, 2))).not.toThrow();
    }
    for (const value of bad) {
      expect([value, isProcedure(withIt(set, value, 2))]).toEqual([value, false]);
      expect(() => parseProcedure(withIt(set, value, 2))).toThrow(/no valid procedure/);
    }
  });

  it.each(cases)("%s is refused in version 1", (name, set, [value]) => {
    expect(isProcedure(withIt(set, value, 1))).toBe(false);
    expect(() => parseProcedure(withIt(set, value, 1))).toThrow(`Format version 1 has no field ${name}`);
  });
});

it("every sheet's log is a valid run log, by schema and by the app", () => {
  const shippedOnes = allShipped();
  for (const file of files) {
    const procedure = whole(parseProcedure(read(file)), shippedOnes);
    const started = { type: "started", planId: uuidv7(), procedureId: procedure.id, procedureVersion: 1 } as const;
    const options = procedure.options.map((option) => option.id);
    const log = simulateSheet({
      procedure,
      machine: { options },
      sheetId: uuidv7(),
      by: uuidv7(),
      startMs: Date.UTC(2026, 0, 1),
      newId: uuidv7,
      started,
      script: { rounds: 2, notOk: procedure.steps.map((step) => step.id), found: "poor" },
    });
    // Worked to its end, with an entry at least for each step that is on it.
    const state = foldRun(procedure, log);
    expect(missingSteps(procedure, state, { options })).toEqual([]);
    expect(log.length).toBeGreaterThan(sheetSteps(procedure, state, { options }).length);
    expect(isRunLog(log) || isRunLog.errors).toBe(true);
    for (const entry of log) expect(parseLogEntry(entry).fault).toBeUndefined();
    expect(log.at(-1)).toMatchObject({ type: "as-found", found: "poor" });
    expect(isRunLog([{ ...must(log[0]), type: "deleted" }])).toBe(false);
    expect(isRunLog([{ ...must(log.at(-1)), found: "splendid" }])).toBe(false);
  }
});

it("the run log's schema knows every type of entry that the app takes, and no other", () => {
  const types = (node: unknown): string[] => {
    if (node === null || typeof node !== "object") return [];
    const own = (node as { properties?: { type?: { const?: string } } }).properties?.type?.const;
    return [...(own === undefined ? [] : [own]), ...Object.values(node).flatMap(types)];
  };
  expect([...new Set(types(load("run-log.schema.json")))].sort()).toEqual([...ENTRY_TYPES].sort());
});

it("the demo's register is valid as CSV and as JSON", () => {
  const { good, faults } = parseMachineCsv(readFileSync(join(__dirname, "../db/demo/machines.csv"), "utf8"));
  expect(faults).toEqual([]);
  expect(good).toHaveLength(61);
  expect(isRegister(good.map((row) => row.record)) || isRegister.errors).toBe(true);
  expect(isRegister([{ ...must(good[0]).record, tag: "two words" }])).toBe(false);
});

describe("fault guides", () => {
  const guides = readdirSync(join(__dirname, "../fault-guides")).filter((file) => file.endsWith(".json"));
  const guide = (file: string) =>
    JSON.parse(readFileSync(join(__dirname, "../fault-guides", file), "utf8")) as FaultGuide;
  it.each(guides)("%s is valid by schema and by the app", (file) => {
    expect(isGuide(guide(file)) || isGuide.errors).toBe(true);
    expect(() => parseGuide(guide(file))).not.toThrow();
  });
  const spoiled: [string, (guide: FaultGuide) => void][] = [
    ["another format", (one) => Object.assign(one, { format: "humble-hound/procedure" })],
    ["an unknown field", (one) => Object.assign(one, { colour: "red" })],
    ["version 0", (one) => Object.assign(one, { version: 0 })],
    ["no symptoms", (one) => Object.assign(one, { symptoms: [] })],
    ["a symptom without causes", (one) => Object.assign(must(one.symptoms[0]), { causes: [] })],
    ["a chance of 0", (one) => Object.assign(must(must(one.symptoms[0]).causes[0]), { chance: 0 })],
    ["a check that is surer than sure", (one) => Object.assign(must(must(one.checks[0]).finds[0]), { share: 1.1 })],
    ["a check of minus one minute", (one) => Object.assign(must(one.checks[0]), { minutes: -1 })],
    ["a cause that nobody may remedy", (one) => Object.assign(must(one.causes[0]), { who: "anybody" })],
    ["a life of no days", (one) => Object.assign(must(one.causes[0]), { usualLifeDays: 0 })],
    ["an id of more than forty letters", (one) => Object.assign(must(one.causes[0]), { id: "x".repeat(41) })],
    [
      "a remedy that proves",
      (one) => Object.assign(must(one.causes[0]), { remedy: [{ id: "a", kind: "prove", title: "A", expect: "B" }] }),
    ],
    ["an interim measure without an end", (one) => Object.assign(must(one.causes[0]), { interim: { text: "Slow" } })],
  ];
  it.each(spoiled)("with %s is refused by both", (_what, spoil) => {
    const one = guide("recirculating-chiller.json");
    spoil(one);
    expect(isGuide(one)).toBe(false);
    expect(() => parseGuide(one)).toThrow(/no valid fault guide/);
  });
});

it("the README tells how many procedures ship for the families", () => {
  const readme = readFileSync(join(__dirname, "../README.md"), "utf8");
  // Those of no family: a firm's own duty, an emergency call, what was left open.
  const ofFamilies = allShipped().filter((one) => !["own-duty", "emergency-call", "what-was-left"].includes(one.id));
  expect(readme).toContain(`${ofFamilies.length} procedures for nineteen equipment families`);
});
