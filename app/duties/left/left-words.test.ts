import type { OpenItem, Procedure } from "@core";

import { itemTitle, wantedWhy, workTitle } from "./left-words";

const PROCEDURE = {
  parts: [
    { item: "broom", name: "Main broom", slots: [{ id: "front", name: "Front" }] },
    {
      item: "blade",
      name: "Blade",
      slots: [
        { id: "left", name: "left" },
        { id: "right", name: "right" },
      ],
    },
  ],
  steps: [
    { id: "wipe", kind: "do", title: "Wipe down", minutes: 4 },
    { id: "belt", kind: "measure", title: "Belt time" },
  ],
} as unknown as Procedure;
const item = (more: Partial<OpenItem>): OpenItem => ({
  id: "s k",
  key: "k",
  thing: "k",
  sheetId: "s",
  since: "2026-11-28T09:00:00Z",
  kind: "finding",
  step: null,
  severity: "minor",
  because: "Loose  lid\nat the back",
  again: [],
  closed: null,
  ...more,
});

it.each<[Partial<OpenItem>, string]>([
  [{ kind: "fit-part", item: "broom", slot: "front" }, "Fit Main broom"],
  [{ kind: "fit-part", item: "blade", slot: "right" }, "Fit Blade (right)"],
  [{ kind: "fit-part", item: "hose" }, "Fit Suction hose"],
  [{ kind: "incomplete", step: "wipe" }, "Not done: Wipe down"],
  [{ kind: "out-of-limit", step: "belt" }, "Beyond its limit: Belt time"],
  [{ kind: "interim", because: "Tied up, until: a new hose" }, "For now: Tied up, until: a new hose"],
  [{}, "Found: Loose lid at the back"],
  [{ because: "x".repeat(300) }, `Found: ${"x".repeat(192)}…`],
])("%j is called %s", (more, title) => {
  expect(itemTitle(item(more), PROCEDURE, more.item === "hose" ? "Suction hose" : null)).toBe(title);
});

it("says why it is wanted by its day, and when a person has set another", () => {
  const at = { severity: "major", wantedBy: "2026-12-05" } as const;
  const rule = "Major: wanted within 7 days of being left open (common practice).";
  const sum = "Left open on Sat 28 Nov, and 7 days is Sat 5 Dec.";
  expect(wantedWhy(at, "2026-11-28", "2026-11-29")).toEqual([rule, sum]);
  expect(wantedWhy({ ...at, wantedBy: "2026-12-01" }, "2026-11-28", "2026-11-29")).toEqual([
    rule,
    sum,
    "Tue 1 Dec was set for it since.",
  ]);
  expect(wantedWhy({ severity: "unsafe", wantedBy: "2026-11-28" }, "2026-11-28", "2026-11-29")).toEqual([
    "Unsafe: wanted on the day of being left open (common practice).",
    "Left open on Sat 28 Nov.",
  ]);
});

it("is one duty for all of it", () => {
  expect(workTitle(["Fit Main broom"])).toBe("Fit Main broom");
  expect(workTitle(["A", "B"])).toBe("2 left open: A; B");
});
