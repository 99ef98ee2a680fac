import { must, type Procedure, type Step } from "@core";

import { doing } from "../../../core/sheet/testing/sample";
import { allShipped, earlier, whole } from "../../../core/sheet/testing/shipped";
import { onlyWords, partsOnPaper, stepsOnPaper, wantsOnPaper } from "./paper-words";

const all = allShipped().map((one, _, written) => whole(one, written));
const find = (id: string): Procedure => must(all.find((one) => one.id === id));
const stepOf = (procedure: Procedure, id: string): Step => must(procedure.steps.find((one) => one.id === id));
const numberOf = (procedure: Procedure, id: string): number => procedure.steps.findIndex((one) => one.id === id) + 1;

describe("what a step wants", () => {
  it("of a choice: each way with its reason", () => {
    const carbon = find("icp-spectrometer-carbon");
    expect(wantsOnPaper(stepOf(carbon, "school"), carbon)).toEqual([
      expect.stringMatching(/^Burn-out, muffle furnace: Heat takes carbon off far better than acid/),
      expect.stringMatching(/^Burn-out, gas flame: The same at once/),
      expect.stringMatching(/^Acid soak: Where neither furnace nor flame is allowed/),
    ]);
  });
  it("of parts: how many, which way round, where they are put, and that they go back on", () => {
    const analyser = find("chemistry-analyser-weekly");
    expect(wantsOnPaper(stepOf(analyser, "rings-out"), analyser)).toEqual([
      "Comes off (as they were; lint-free cloth): 3 × well ring",
    ]);
    expect(wantsOnPaper(stepOf(analyser, "rings-in"), analyser)).toEqual(["Goes back on: 3 × well ring"]);
  });
  it("of a block: the question, and from which number it is done again", () => {
    const carbon = find("icp-spectrometer-carbon");
    const [question, again] = wantsOnPaper(must(carbon.steps.find((one) => one.kind === "repeat")), carbon);
    expect(question).toBe("Still black?");
    expect(again).toMatch(/^Still black: again, burnt out: once more from no\. \d+, at most 3 times in all$/);
  });
  it.each<[object, string[]]>([
    // 1 % of 8.25 % stock in 1 L: 1000 × 1 ÷ 8.25 = 121.2 mL, as a jug shows it.
    [
      { kind: "mix", recipe: { by: "dilution", stock: "bleach", target: { percent: 1 }, finalMl: 1000 } },
      ["Wanted: 1 %", "121 mL Bleach + 879 mL water, if the stock has 8.25 %"],
    ],
    [
      { kind: "mix", recipe: { by: "dilution", stock: "own", target: { ppm: 200 }, finalMl: 1000 } },
      ["Wanted: 200 ppm"],
    ],
    [
      { kind: "mix", recipe: { by: "dilution", stock: "bleach", target: { percent: 20 }, finalMl: 1000 } },
      ["Wanted: 20 %", expect.stringMatching(/weaker|strength|stock/i) as string],
    ],
    [
      { kind: "mix", recipe: { by: "additive", item: "bleach", additiveMl: 50, tankMl: 2000 } },
      ["50 mL Bleach + 1.95 L water"],
    ],
    [
      { kind: "measure", reading: "x", unit: "mm", limits: { min: 2 }, judge: "mean" },
      ["Allowed: at least 2 mm (the mean of all)"],
    ],
    [
      { kind: "wait", minMinutes: 3, maxMinutes: 5, attended: true, ifLong: "The part is swollen." },
      ["3 to 5 min, stay by it", "Longer: The part is swollen."],
    ],
    [
      { kind: "measure", reading: "x", unit: "mm", advice: { low: "Move it.", high: "Higher than it was: look." } },
      ["Too low: Move it.", "Higher than it was: look."],
    ],
    [
      { kind: "measure", reading: "x", unit: "mm", advice: { low: "Dry it.", high: "Dry it." } },
      ["Out of limits: Dry it."],
    ],
    [{ kind: "count", times: 4, each: "25 mL of hot water" }, ["Each: 25 mL of hot water"]],
    [{ kind: "hand-off", to: "Service" }, ["To Service"]],
    [{ kind: "decide", question: "it", branches: [] }, []],
    [{ kind: "do" }, []],
  ])("of %j", (fields, lines) => {
    const procedure = {
      options: [],
      steps: [],
      parts: [],
      materials: [
        { item: "bleach", name: "Bleach", qty: 1, unit: "mL", stockPercent: 8.25 },
        { item: "own", name: "Own", qty: 1, unit: "mL" },
      ],
    };
    expect(wantsOnPaper({ ...doing("it"), ...fields }, procedure)).toEqual(lines);
  });
  it.each(all.map((one) => [one.id, one] as const))(
    "of %s: everything that comes off and goes back on",
    (_id, procedure) => {
      for (const step of procedure.steps) {
        const said = wantsOnPaper(step, procedure).join("\n");
        for (const { item } of [...(step.takesOff ?? []), ...(step.putsBack ?? [])]) expect(said).toContain(item);
      }
    },
  );
});

describe("when a step is there", () => {
  const faults = whole(earlier("conveyor-oven-faults"));
  it("by the numbers on the paper, in the words beside the boxes", () => {
    const burnt = must(faults.steps.find((one) => one.title === "Meanwhile less heat or a faster belt"));
    expect(onlyWords(burnt, faults)).toMatch(/^if no\. \d+ is as it should be$/);
    const plates = must(faults.steps.find((one) => one.title === "Plates, covers, return-air baffles"));
    expect(onlyWords(plates, faults)).toBe('if no. 1 is "Burnt"');
  });
  it("once: what a step that it asks about is itself there under is not said again", () => {
    const bearings = find("flake-ice-maker-bearings");
    const auger = must(bearings.steps.find((one) => one.title === "New auger"));
    expect(auger.when).toHaveLength(3);
    expect(onlyWords(auger, bearings)).toMatch(/^if no\. \d+ is not so$/);
  });
  it("a gate that every step it is there for asks about goes by their numbers", () => {
    const gates = faults.steps.filter(
      (one) => one.kind === "safety" && one.gate?.way === "in" && one.gate.state === "isolated",
    );
    expect(gates.length).toBeGreaterThan(2);
    for (const gate of gates) {
      const said = onlyWords(gate, faults);
      expect(said).toMatch(/^for no\. \d/);
      const served = gate.kind === "safety" ? must(gate.serves) : [];
      const numbers = [...said.matchAll(/(\d+)(?: to (\d+))?/g)].flatMap(([, from, to]) =>
        Array.from({ length: Number(to ?? from) - Number(from) + 1 }, (_, i) => Number(from) + i),
      );
      expect(numbers).toEqual(served.map((id) => numberOf(faults, id)).sort((a, b) => a - b));
    }
  });
  it("a gate at the head of a block that is passed already: when the block is done again", () => {
    const printer = find("wide-format-printer-periodic");
    const film = must(printer.steps.find((one) => one.kind === "repeat" && one.title === "Film of oil"));
    const head = stepOf(printer, film.kind === "repeat" ? film.from : "");
    expect(head.kind).toBe("safety");
    expect(onlyWords(head, printer)).toBe(`when it is done again, no. ${numberOf(printer, film.id)}`);
  });
  it("a gate that work without a question needs is always there", () => {
    const carbon = find("icp-spectrometer-carbon");
    expect(onlyWords(must(carbon.steps[0]), carbon)).toBe("");
  });
});

describe("on a machine's own paper", () => {
  it("what it does not have is gone, and the gate that was there for nothing else", () => {
    const steps: Step[] = [
      { ...doing("in"), kind: "safety", checks: ["Off"], serves: ["fan"] },
      doing("fan", { when: [{ option: "fan", fitted: true }] }),
      doing("plain", { when: [{ option: "fan", fitted: false }] }),
    ];
    const ids = (options: string[] | null): string[] => stepsOnPaper({ steps }, options).map((one) => one.id);
    expect(ids(["fan"])).toEqual(["in", "fan"]);
    expect(ids([])).toEqual(["plain"]);
    expect(ids(null)).toEqual(["in", "fan", "plain"]);
  });
  it("answers stay: they are given on the paper", () => {
    const carbon = find("icp-spectrometer-carbon");
    expect(stepsOnPaper(carbon, []).some((one) => one.id === "flame")).toBe(true);
  });
});

describe("parts to bring", () => {
  it("those that go in for certain, and those that a finding asks for", () => {
    expect(partsOnPaper(find("ride-on-sweeper-main-broom"))).toEqual({ sure: ["Main broom"], perhaps: [] });
    expect(partsOnPaper(find("icp-spectrometer-carbon"))).toEqual({ sure: [], perhaps: ["Plasma torch"] });
  });
  it("counts places, not steps, and leaves what is turned to what is found", () => {
    const { perhaps } = partsOnPaper(find("ride-on-scrubber-brushes"));
    expect(perhaps.some((one) => one.includes("blade"))).toBe(true);
  });
});
