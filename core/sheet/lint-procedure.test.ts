import { checkProcedure } from "./check-procedure";
import { lintProcedure, lintRules } from "./lint-procedure";
import type { Procedure, Step } from "./procedure";
import { acid, acidFirst, base, bleach, bleachNext, CASES, steps } from "./testing/lint-cases";
import { base2, CASES_2 } from "./testing/lint-cases-2";
import { doing, GATE, PROOF } from "./testing/sample";
import { allShipped, whole } from "./testing/shipped";

const all = allShipped();

describe("shipped procedures", () => {
  it("are at least sixty, for nineteen families", () => {
    expect(all.length).toBeGreaterThanOrEqual(60);
    expect(new Set(all.map((one) => one.family).filter((family) => family !== "any")).size).toBe(19);
  });
  it.each(all.map((one) => [one.id, one] as const))("%s is clean, alone and with what it holds", (_id, procedure) => {
    const worked = whole(procedure, all);
    expect([...lintProcedure(procedure), ...lintProcedure(worked), ...checkProcedure(worked)]).toEqual([]);
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

describe("rules", () => {
  it.each(CASES)("%s: %s", (rule, _name, trips, clean) => {
    expect(lintProcedure({ ...base, ...trips }).map((one) => one.rule)).toContain(rule);
    expect(lintProcedure({ ...base, ...clean }).map((one) => one.rule)).not.toContain(rule);
  });
  it.each(CASES_2)("of states and paths, %s: %s", (rule, _name, trips, clean) => {
    expect(lintProcedure(trips).map((one) => one.rule)).toContain(rule);
    expect(lintProcedure(clean).map((one) => one.rule)).not.toContain(rule);
  });
  it("leave a sound procedure with states and paths alone", () => expect(lintProcedure(base2())).toEqual([]));
  it("each have a case that trips them", () => {
    expect([...new Set([...CASES, ...CASES_2].map(([rule]) => rule))].sort()).toEqual(
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
