import { foldRun, type Procedure, type RunEvent, type RunEventBody } from "@core";

import { takenBy } from "./taken-by";

const PROCEDURE = {
  id: "p",
  version: 1,
  steps: [
    {
      id: "mix",
      kind: "mix",
      title: "Mix",
      recipe: { by: "dilution", stock: "bleach", target: { ppm: 200 }, finalMl: 5000 },
    },
    { id: "wipe", kind: "do", title: "Wipe" },
    { id: "blade", kind: "turn", title: "Blade", item: "blade", slots: ["left"] },
    { id: "filter", kind: "replace", title: "Filter", item: "filter", slots: ["top"] },
  ],
  parts: [],
  materials: [],
  options: [],
  meters: [],
  tools: [],
} as unknown as Procedure;

let n = 0;
const entry = (body: RunEventBody): RunEvent => ({
  id: `0190a000-0000-7000-8000-${String(++n).padStart(12, "0")}`,
  runId: "s",
  at: new Date(Date.UTC(2026, 5, 10, 8, n)).toISOString(),
  by: "mo",
  device: "phone",
  ...body,
});
const taken = (...entries: RunEvent[]) =>
  takenBy(foldRun(PROCEDURE, entries), entries).map((one) => [one.item, one.qty, one.lot, one.entryId]);
const on = { step: "mix", round: 1 };
const mixed = (more: object = {}): RunEvent =>
  entry({
    type: "mixed",
    ...on,
    amounts: [
      { item: "bleach", ml: 20 },
      { item: "water", ml: 4980 },
    ],
    finalMl: 5000,
    ...more,
  });

describe("what a sheet has taken from the stores", () => {
  it("is what a solution was made of, water apart, by its batch", () => {
    const one = mixed({ batch: "B7" });
    expect(taken(one)).toEqual([["bleach", 20, "B7", one.id]]);
  });

  it("is taken once though the step logs the product as a material too", () => {
    const one = mixed();
    const also = entry({
      type: "consumable-used",
      ...on,
      item: "bleach",
      qty: 25,
      unit: "mL",
      lot: "L1",
    });
    expect(taken(one, also)).toEqual([["bleach", 25, "L1", also.id]]);
    // On another step, or of another product, it is something else.
    const elsewhere = entry({
      type: "consumable-used",
      step: "wipe",
      round: 1,
      item: "bleach",
      qty: 5,
      unit: "mL",
    });
    expect(taken(one, elsewhere).map(([, qty]) => qty)).toEqual([20, 5]);
  });

  it("is nothing of a mixture that was taken back", () => {
    const one = mixed();
    expect(taken(one, entry({ type: "undone", ref: one.id }))).toEqual([]);
  });

  it("is a new piece, not one that was turned", () => {
    const turned = entry({
      type: "part-turned",
      step: "blade",
      round: 1,
      item: "blade",
      slot: "left",
      usesLeft: 2,
    });
    const fitted = entry({
      type: "part-fitted",
      step: "filter",
      round: 1,
      item: "filter",
      slot: "top",
      qty: 1,
      lot: "F1",
    });
    expect(taken(turned, fitted)).toEqual([["filter", 1, "F1", fitted.id]]);
  });

  it("goes by what was corrected, and nothing counts as nothing", () => {
    const used = entry({
      type: "consumable-used",
      step: "wipe",
      round: 1,
      item: "wipes",
      qty: 4,
      unit: "pc",
    });
    const less = entry({ type: "corrected", ref: used.id, set: { qty: 1 }, why: "miscounted" });
    const none = entry({ type: "corrected", ref: used.id, set: { qty: 0 }, why: "unopened" });
    expect(taken(used, less)).toEqual([["wipes", 1, null, used.id]]);
    expect(taken(used, less, none)).toEqual([]);
  });
});
