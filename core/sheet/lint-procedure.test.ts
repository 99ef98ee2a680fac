import { readdirSync } from "node:fs";
import { join } from "node:path";

import { checkProcedure } from "./check-procedure";
import { expandNested } from "./expand-nested";
import { lintProcedure, lintRules } from "./lint-procedure";
import type { Procedure, Step } from "./procedure";
import { shipped } from "./testing/runs";

const files = readdirSync(join(__dirname, "../../procedures")).filter((file) => file.endsWith(".json"));
const all = files.map((file) => shipped(file.replace(".json", "")));
const find = (id: string, version: number) => all.find((one) => one.id === id && one.version === version);

describe("shipped procedures", () => {
  it("are at least sixty, for nineteen families", () => {
    expect(all.length).toBeGreaterThanOrEqual(60);
    expect(new Set(all.map((one) => one.family).filter((family) => family !== "any")).size).toBe(19);
  });
  it.each(all.map((one) => [one.id, one] as const))("%s is clean, alone and with what it holds", (_id, procedure) => {
    const whole = expandNested(procedure, find);
    expect([...lintProcedure(procedure), ...lintProcedure(whole), ...checkProcedure(whole)]).toEqual([]);
    if (procedure.family !== "any") expect(procedure.summary).toMatch(/typical/i);
    expect(procedure.minutes.handsOn).toBeGreaterThan(0);
  });
  it("have a material, part or hazard list that names no item twice", () => {
    for (const { id, materials, parts } of all) {
      const items = [...materials, ...parts].map((one) => one.item);
      expect([id, new Set(items).size]).toEqual([id, items.length]);
    }
  });
});

const GATE: Step = { id: "gate", kind: "safety", title: "Make it safe", checks: ["Off"] };
const PROOF: Step = { id: "proof", kind: "prove", title: "Prove", expect: "Works" };
const base: Procedure = {
  format: "humble-hound/procedure",
  formatVersion: 1,
  id: "sample",
  version: 1,
  title: "Sample",
  family: "any",
  summary: "Typical figures.",
  who: "technician",
  minutes: { handsOn: 1, waiting: 0 },
  plan: { triggers: [{ kind: "event", event: "x" }] },
  hazards: [],
  protective: [],
  tools: [],
  materials: [],
  parts: [],
  options: [],
  meters: [],
  steps: [GATE, PROOF],
};
const steps = (...inner: Step[]): Partial<Procedure> => ({ steps: [GATE, ...inner, PROOF] });
const doing = (id: string, more: Partial<Step> = {}): Step => ({ id, kind: "do", title: id, ...more }) as Step;
const acid = { item: "descaler", name: "Descaler", qty: 1, unit: "mL", chemical: "acid" } as const;
const bleach = { item: "bleach", name: "Bleach", qty: 1, unit: "mL", chemical: "hypochlorite" } as const;
const blade = {
  item: "blade",
  name: "Blade",
  pair: true,
  slots: [
    { id: "l", name: "Left" },
    { id: "r", name: "Right" },
  ],
};
const counter = { id: "counter", name: "Counter", unit: "h", service: true };
const acidFirst = doing("acid", { uses: [{ item: "descaler", qty: 1 }] });
const bleachNext = doing("chlorine", { uses: [{ item: "bleach", qty: 1 }] });

/** Each rule with a procedure that trips it and one that is just as like it and does not. */
const CASES: [rule: string, name: string, trips: Partial<Procedure>, clean: Partial<Procedure>][] = [
  [
    "make-safe-first",
    "taken apart before the gate",
    { steps: [doing("off", { removes: ["cover"] }), GATE, doing("on", { refits: ["cover"] }), PROOF] },
    steps(doing("off", { removes: ["cover"] }), doing("on", { refits: ["cover"] })),
  ],
  [
    "make-safe-first",
    "the gate is there only with an option",
    {
      options: [{ id: "gas", name: "Gas" }],
      parts: [{ item: "filter", name: "Filter", slots: [{ id: "f", name: "Filter" }] }],
      steps: [
        { ...GATE, when: [{ option: "gas", fitted: true }] },
        { id: "new", kind: "replace", title: "New", item: "filter", slots: ["f"] },
        PROOF,
      ],
    },
    {
      options: [{ id: "gas", name: "Gas" }],
      parts: [{ item: "filter", name: "Filter", slots: [{ id: "f", name: "Filter" }] }],
      steps: [
        { ...GATE, when: [{ option: "gas", fitted: true }] },
        {
          id: "new",
          kind: "replace",
          title: "New",
          item: "filter",
          slots: ["f"],
          when: [{ option: "gas", fitted: true }],
        },
        PROOF,
      ],
    },
  ],
  [
    "cool-down",
    "hot and no cool-down",
    { hazards: [{ kind: "hot", text: "Hot" }] },
    { hazards: [{ kind: "hot", text: "Hot" }], steps: [{ ...GATE, coolDown: { belowC: 40 } }, PROOF] },
  ],
  [
    "cool-down",
    "cooled after it is taken apart",
    {
      hazards: [{ kind: "hot", text: "Hot" }],
      steps: [
        GATE,
        doing("off", { removes: ["lid"] }),
        { ...GATE, id: "cool", gates: ["cool-down"] },
        doing("on", { refits: ["lid"] }),
        PROOF,
      ],
    },
    {
      hazards: [{ kind: "hot", text: "Hot" }],
      steps: [
        GATE,
        { ...GATE, id: "cool", gates: ["cool-down"] },
        doing("off", { removes: ["lid"] }),
        doing("on", { refits: ["lid"] }),
        PROOF,
      ],
    },
  ],
  [
    "wait-clock",
    "told to wait in the words of a step",
    steps(doing("soak", { text: "Let it soak for 20 minutes." })),
    steps({ id: "soak", kind: "wait", title: "Soak", minMinutes: 20 }),
  ],
  [
    "wait-clock",
    "a wait without a time",
    steps({ id: "w", kind: "wait", title: "Soak", minMinutes: 0 }),
    steps(doing("w", { text: "Cut short, it stays dirty." })),
  ],
  [
    "wait-clock",
    "a maximum and no alarm",
    steps({ id: "w", kind: "wait", title: "Soak", minMinutes: 5, maxMinutes: 9, silent: true }),
    steps({ id: "w", kind: "wait", title: "Soak", minMinutes: 5, maxMinutes: 9 }),
  ],
  [
    "rinse-between",
    "chlorine after acid",
    { materials: [acid, bleach], ...steps(acidFirst, bleachNext) },
    { materials: [acid, bleach], ...steps(acidFirst, doing("rinse", { rinses: true }), bleachNext) },
  ],
  [
    "rinse-between",
    "acid after chlorine",
    { materials: [acid, bleach], ...steps(bleachNext, acidFirst) },
    { materials: [acid, bleach], ...steps(bleachNext, doing("rinse", { rinses: true }), acidFirst) },
  ],
  [
    "rinse-between",
    "a rinse that is not always there",
    {
      materials: [acid, bleach],
      options: [{ id: "hose", name: "Hose" }],
      ...steps(acidFirst, doing("rinse", { rinses: true, when: [{ option: "hose", fitted: true }] }), bleachNext),
    },
    {
      materials: [acid, bleach],
      ...steps(
        {
          id: "way",
          kind: "decide",
          title: "Way",
          question: "?",
          branches: [
            { id: "a", name: "A" },
            { id: "b", name: "B" },
          ],
        },
        { ...acidFirst, when: [{ step: "way", is: "a" }] },
        { ...bleachNext, when: [{ step: "way", is: "b" }] },
      ),
    },
  ],
  [
    "rinse-between",
    "both in one mixture",
    {
      materials: [acid, bleach],
      ...steps({
        id: "m",
        kind: "mix",
        title: "Mix",
        recipe: {
          by: "parts",
          parts: [
            { item: "descaler", parts: 1 },
            { item: "bleach", parts: 1 },
          ],
          finalMl: 10,
        },
      }),
    },
    {
      materials: [acid],
      ...steps({
        id: "m",
        kind: "mix",
        title: "Mix",
        recipe: {
          by: "parts",
          parts: [
            { item: "descaler", parts: 1 },
            { item: "water", parts: 1 },
          ],
          finalMl: 10,
        },
      }),
    },
  ],
  [
    "refit",
    "a part stays off",
    steps(doing("off", { removes: ["cover", "screen"] }), doing("on", { refits: ["cover"] })),
    steps(doing("off", { removes: ["cover", "screen"] }), doing("on", { refits: ["cover", "screen"] })),
  ],
  [
    "pair",
    "one of a pair",
    { parts: [blade], ...steps({ id: "b", kind: "replace", title: "New", item: "blade", slots: ["l"] }) },
    { parts: [blade], ...steps({ id: "b", kind: "replace", title: "New", item: "blade", slots: ["l", "r"] }) },
  ],
  [
    "counter-reset",
    "a counter that stays",
    { meters: [counter] },
    { meters: [counter], ...steps({ id: "r", kind: "reset", title: "Reset", meter: "counter", expect: 0 }) },
  ],
  [
    "counter-reset",
    "of two counters one",
    {
      meters: [counter, { ...counter, id: "other" }],
      ...steps({ id: "r", kind: "reset", title: "Reset", meter: "counter", expect: 0 }),
    },
    { meters: [{ id: "hours", name: "Hours", unit: "h" }] },
  ],
  ["proof-last", "no proof", { steps: [GATE] }, {}],
  [
    "proof-last",
    "work after the proof",
    { steps: [GATE, PROOF, doing("on", { refits: ["lid"], removes: ["lid"] })] },
    { steps: [GATE, doing("on", { refits: ["lid"], removes: ["lid"] }), PROOF, doing("give-back")] },
  ],
  [
    "limit-unit",
    "a limit without a unit",
    steps({ id: "m", kind: "measure", title: "Gap", reading: "gap", unit: " ", limits: { max: 2 } }),
    steps({ id: "m", kind: "measure", title: "Gap", reading: "gap", unit: "mm", limits: { max: 2 } }),
  ],
  ["material-listed", "used and not listed", steps(acidFirst), { materials: [acid], ...steps(acidFirst) }],
  ["material-used", "listed and not used", { materials: [acid] }, { materials: [acid], ...steps(acidFirst) }],
  [
    "nested-covered",
    "worked here, and still due",
    steps({ id: "n", kind: "nested", title: "Daily", procedure: "daily", version: 1 }),
    {
      plan: { ...base.plan, covers: ["daily"] },
      ...steps({ id: "n", kind: "nested", title: "Daily", procedure: "daily", version: 1 }),
    },
  ],
  [
    "typical",
    "figures as if they were law",
    { summary: "Ten minutes.", ...steps({ id: "w", kind: "wait", title: "Soak", minMinutes: 5 }) },
    { ...steps({ id: "w", kind: "wait", title: "Soak", minMinutes: 5 }) },
  ],
];

describe("rules", () => {
  it.each(CASES)("%s: %s", (rule, _name, trips, clean) => {
    expect(lintProcedure({ ...base, ...trips }).map((one) => one.rule)).toContain(rule);
    expect(lintProcedure({ ...base, ...clean }).map((one) => one.rule)).not.toContain(rule);
  });
  it("each have a case that trips them", () => {
    expect([...new Set(CASES.map(([rule]) => rule))].sort()).toEqual(
      lintRules()
        .map((one) => one.rule)
        .sort(),
    );
  });
  it("leave a sound procedure alone", () => expect(lintProcedure(base)).toEqual([]));
  it("say which step, and how bad it is", () => {
    expect(lintProcedure({ ...base, ...steps(doing("off", { removes: ["cover"] })) })).toEqual([
      { rule: "refit", step: "off", severity: "error", message: expect.stringContaining("cover") as string },
    ]);
  });
});
