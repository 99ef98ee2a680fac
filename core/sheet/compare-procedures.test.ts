import fc from "fast-check";

import { must } from "../must";
import { compareProcedures } from "./compare-procedures";
import type { Step } from "./procedure";
import { doing, sample } from "./testing/sample";

const list = (ids: readonly string[]): Step[] => ids.map((id) => doing(id));
const compare = (before: readonly Step[], after: readonly Step[]) => compareProcedures(sample(before), sample(after));

it("shows fields with both values as a person reads them", () => {
  const before = sample([], { version: 3, title: "Clean", who: "operator", tools: ["Torch"] });
  const { tools: _, ...rest } = before;
  expect(compareProcedures(before, { ...rest, version: 4, title: "Deep clean", tools: ["Torch", "Brush"] })).toEqual({
    fields: [
      { field: "title", before: "Clean", after: "Deep clean" },
      { field: "tools", before: '["Torch"]', after: '["Torch","Brush"]' },
    ],
    steps: [],
  });
});

it("shows a field that came or went as nothing on the other side", () => {
  const change = compare([doing("a", { text: "Wipe" })], [doing("a", { uses: [] })]);
  expect(change.steps).toEqual([
    {
      kind: "changed",
      step: "a",
      title: "a",
      fields: [
        { field: "text", before: "Wipe", after: "" },
        { field: "uses", before: "", after: "[]" },
      ],
    },
  ]);
});

it("names steps that were added, and removed ones by their old titles", () => {
  expect(compare(list(["a", "b"]), list(["a", "c"])).steps).toEqual([
    { kind: "added", step: "c", title: "c", fields: [] },
    { kind: "removed", step: "b", title: "b", fields: [] },
  ]);
});

it("says of a step that moved and changed that it changed", () => {
  const change = compare(list(["a", "b", "c"]), [doing("b"), doing("c"), doing("a", { text: "New" })]);
  expect(change.steps).toMatchObject([{ kind: "changed", step: "a" }]);
});

it("calls as few steps moved as can be, and they explain the new order", () => {
  const names = ["a", "b", "c", "d", "e", "f", "g"];
  fc.assert(
    fc.property(fc.shuffledSubarray(names, { minLength: names.length }), (after) => {
      const { steps } = compare(list(names), list(after));
      const moved = steps.map((one) => one.step);
      expect(steps.every((one) => one.kind === "moved" && one.fields.length === 0)).toBe(true);
      // What has not moved stands in the old order.
      const stayed = after.filter((name) => !moved.includes(name));
      expect(stayed).toEqual([...stayed].sort());
      // The longest run in order, found by looking at every choice of steps.
      let longest = 0;
      for (let choice = 0; choice < 2 ** after.length; choice++) {
        const kept = after.filter((_, i) => (choice >> i) % 2 === 1);
        if (kept.every((name, i) => i === 0 || must(kept[i - 1]) < name)) longest = Math.max(longest, kept.length);
      }
      expect(stayed.length).toBe(longest);
    }),
    { numRuns: 60 },
  );
});
