import { readdirSync } from "node:fs";
import { join } from "node:path";

import { checkProcedure } from "./check-procedure";
import { expandNested } from "./expand-nested";
import { lintProcedure, lintRules } from "./lint-procedure";
import type { Procedure, Step } from "./procedure";
import { shipped } from "./testing/runs";
import { BLADES, doing, GATE, PROOF, sample } from "./testing/sample";

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

const base = sample();
const steps = (...inner: Step[]): Partial<Procedure> => ({ steps: [GATE, ...inner, PROOF] });
const acid = { item: "descaler", name: "Descaler", qty: 1, unit: "mL", chemical: "acid" } as const;
const bleach = { item: "bleach", name: "Bleach", qty: 1, unit: "mL", chemical: "hypochlorite" } as const;
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
    { parts: [BLADES], ...steps({ id: "b", kind: "replace", title: "New", item: "blade", slots: ["l"] }) },
    { parts: [BLADES], ...steps({ id: "b", kind: "replace", title: "New", item: "blade", slots: ["l", "r"] }) },
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

describe("what is found says the step and what to do", () => {
  const found = (more: Partial<Procedure>): [string | undefined, string][] =>
    lintProcedure({ ...base, ...more }).map((one) => [one.step, one.message]);

  it("for chemicals that meet, one after the other or in one step, with what happens", () => {
    expect(found({ ...steps(acidFirst, bleachNext), materials: [acid, bleach] })).toEqual([
      [
        "chlorine",
        '"chlorine" brings hypochlorite after acid of "acid" without a rinse. Chlorine gas is set free: burns eyes and lungs, deadly in a closed room.',
      ],
    ]);
    const both = doing("both", {
      uses: [
        { item: "descaler", qty: 1 },
        { item: "bleach", qty: 1 },
      ],
    });
    expect(found({ ...steps(both), materials: [acid, bleach] })[0]?.[1]).toMatch(
      /^"both" brings acid and hypochlorite together without a rinse\. Chlorine gas/,
    );
  });

  it("not for chemicals on branches that exclude each other, by option or by answer", () => {
    const on = (step: Step, when: Step["when"]): Step => ({ ...step, ...(when && { when }) });
    const lid = (fitted: boolean) => [{ option: "lid", fitted }];
    const materials = [acid, bleach];
    const options = [
      { id: "lid", name: "Lid" },
      { id: "tap", name: "Tap" },
    ];
    const clash = (a: Step["when"], b: Step["when"]) =>
      found({ ...steps(on(acidFirst, a), on(bleachNext, b)), materials, options }).length > 0;
    expect(clash(lid(true), lid(false))).toBe(false);
    expect(clash(lid(true), lid(true))).toBe(true);
    expect(clash(lid(true), [{ option: "tap", fitted: false }])).toBe(true);
    expect(clash([{ step: "gate", is: "a" }], [{ step: "gate", is: "b" }])).toBe(false);
    expect(clash([{ step: "gate", is: "a" }], [{ step: "other", is: "b" }])).toBe(true);
    expect(clash([{ step: "gate", is: "a" }], lid(true))).toBe(true);
  });

  it("for a rinse that may not happen when the acid did", () => {
    const rinse = (when?: Step["when"]) => doing("rinse", { rinses: true, ...(when && { when }) });
    const materials = [acid, bleach];
    const options = [{ id: "lid", name: "Lid" }];
    expect(found({ ...steps(acidFirst, rinse(), bleachNext), materials })).toEqual([]);
    const maybe = rinse([{ option: "lid", fitted: true }]);
    expect(found({ ...steps(acidFirst, maybe, bleachNext), materials, options })).toHaveLength(1);
    const acidThere: Step = { ...acidFirst, when: [{ option: "lid", fitted: true }] };
    expect(found({ ...steps(acidThere, maybe, bleachNext), materials, options })).toEqual([]);
  });

  it("for a proof that comes too early, only sometimes, or not at all", () => {
    const soak = doing("soak", { kind: "wait", minMinutes: 5 });
    expect(found({ steps: [GATE, PROOF, soak] })).toEqual([["soak", 'Nothing proves the work after "soak".']]);
    expect(found({ steps: [GATE, soak, PROOF] })).toEqual([]);
    const sometimes: Step = { ...PROOF, when: [{ step: "soak", is: "ok" }] };
    expect(found({ steps: [GATE, soak, sometimes] })).toHaveLength(1);
    expect(found({ steps: [GATE] })).toEqual([[undefined, "Nothing proves that the machine works: end with a proof."]]);
    for (const work of [
      doing("w", { kind: "count", times: 3 }),
      doing("w", { kind: "repeat", from: "gate", question: "?", clean: "y", again: "n" }),
      doing("w", { refits: ["cover"] }),
    ])
      expect(found({ steps: [GATE, PROOF, work] }).map(([step]) => step)).toEqual(["w"]);
  });

  it("for a nested procedure whose own duty stays due", () => {
    const nested = doing("daily", { kind: "nested", procedure: "sample-daily", version: 1 });
    expect(found(steps(nested))).toEqual([
      ["daily", '"sample-daily" is worked here, but its own duty would stay due: add it to what this one covers.'],
    ]);
    expect(found({ ...steps(nested), plan: { ...base.plan, covers: ["sample-daily"] } })).toEqual([]);
    expect(found({ ...steps(nested), plan: { ...base.plan, covers: ["sample-weekly"] } })).toHaveLength(1);
  });

  it.each<[string, Step, boolean]>([
    ["a reading with limits", doing("m", { kind: "measure", reading: "x", unit: "h", limits: { min: 1 } }), true],
    ["a reading without limits", doing("m", { kind: "measure", reading: "x", unit: "h" }), false],
    ["a wait", doing("m", { kind: "wait", minMinutes: 1 }), true],
    ["plain work", doing("m"), false],
  ])("for figures of %s that are not called typical", (_name, step, expected) => {
    const rules = lintProcedure({ ...base, ...steps(step), summary: "As the maker says." }).map((one) => one.rule);
    expect(rules.includes("typical")).toBe(expected);
  });

  it("for a wait in the words of a step, unless it has a clock", () => {
    const text = (words: string, more: object = {}) => found(steps(doing("s", { text: words, ...more })));
    expect(text("Let it stand for 20 minutes.")).toEqual([
      ["s", '"s" tells to wait without a clock. Make it a wait of its own.'],
    ]);
    for (const words of ["Soak 1.5 h", "leave the lid open: at least 10 min, then close", "Dry it for 2 hours"])
      expect([words, text(words).length]).toEqual([words, words.includes(":") ? 0 : 1]);
    expect(text("Turn it by hand 20 times.")).toEqual([]);
    expect(text("Stand clear. 20 minutes later it starts.")).toEqual([]);
  });
});
