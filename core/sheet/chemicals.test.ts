import { chemicalClash, harmsOf } from "./chemicals";
import { foldRun } from "./fold-run";
import type { Procedure, Step } from "./procedure";
import type { RunEventBody } from "./run-event";
import { base2, off, on, proof } from "./testing/lint-cases-2";
import { TestLog } from "./testing/runs";
import { doing } from "./testing/sample";

const acid = { uses: [{ item: "acid", qty: 1 }] };
const bleach = { uses: [{ item: "bleach", qty: 1 }] };
const MATERIALS: Procedure["materials"] = [
  { item: "acid", name: "Descaler", qty: 1, unit: "mL", chemical: "acid" },
  { item: "bleach", name: "Bleach", qty: 1, unit: "mL", chemical: "hypochlorite" },
];
const done = (step: string): RunEventBody => ({ type: "step-done", step, round: 1 });

/** What clashes with a step after others were done in turn. */
function clash(steps: Step[], step: string, ...worked: string[]) {
  const procedure = base2(steps, { materials: MATERIALS });
  const log = new TestLog();
  for (const one of worked) log.add(done(one));
  const found = chemicalClash(procedure, foldRun(procedure, log.events), { options: [] }, { step, round: 1 });
  return found && found.after;
}

describe("what is on the machine and what is on its parts", () => {
  const onBench: Step[] = [
    off(),
    doing("descale-pan", { path: "pan", ...acid }),
    doing("bleach-machine", bleach),
    doing("bleach-pan", { path: "pan", ...bleach }),
    doing("rinse-pan", { path: "pan", rinses: true }),
    on(),
    doing("bleach-again", bleach),
    proof,
  ];

  it("do not meet while the part is on the bench", () => {
    expect(clash(onBench, "bleach-machine", "off", "descale-pan")).toBeNull();
    expect(clash(onBench, "bleach-pan", "off", "descale-pan")).toBe("descale-pan");
    expect(clash(onBench, "bleach-pan", "off", "descale-pan", "rinse-pan")).toBeNull();
  });

  it("meet when the part goes back on as it is", () => {
    expect(clash(onBench, "bleach-again", "off", "descale-pan", "on")).toBe("descale-pan");
    expect(clash(onBench, "bleach-again", "off", "descale-pan", "rinse-pan", "on")).toBeNull();
  });

  it("go along with the part that comes off", () => {
    const before = [doing("descale", acid), off(), doing("bleach-pan", { path: "pan", ...bleach }), on(), proof];
    expect(clash(before, "bleach-pan", "descale", "off")).toBe("descale");
    const rinsed = [doing("descale", acid), doing("rinse", { rinses: true }), ...before.slice(1)];
    expect(clash(rinsed, "bleach-pan", "descale", "rinse", "off")).toBeNull();
    // Rinsed at the machine when the part is off, the part is not.
    expect(clash(rinsed, "bleach-pan", "descale", "off", "rinse")).toBe("descale");
  });
});

describe("what a step must not use", () => {
  const wipe = (more: object): Step => doing("wipe", { uses: [{ item: "acid", qty: 1 }], ...more });
  it("names the material, the surface, and where that is known from", () => {
    expect(harmsOf(wipe({ surfaces: ["stone", "rubber"] }), MATERIALS)).toEqual([
      { material: "Descaler", surface: "stone", harm: "Etches it.", source: "common practice" },
    ]);
    expect(harmsOf(doing("other", { surfaces: ["stone"] }), MATERIALS)).toEqual([]);
  });
});
