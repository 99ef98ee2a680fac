import type { OpenItem, Procedure } from "@core";

import { itemMinutes, itemTitle, wantedBy, workTitle } from "./left-words";

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

it("is wanted by how bad it is, as bad as it was found", () => {
  const on = "2026-11-28";
  expect(wantedBy(item({ severity: "unsafe" }), on)).toBe(on);
  expect(wantedBy(item({ severity: "major" }), on)).toBe("2026-12-05");
  expect(wantedBy(item({}), on)).toBe("2026-12-28");
  const worse = { sheetId: "t", at: "2026-11-28T10:00:00Z", severity: "major", because: "x" } as const;
  expect(wantedBy(item({ again: [worse] }), on)).toBe("2026-12-05");
});

it("takes as long as its step, where that says so", () => {
  expect(itemMinutes(item({ kind: "incomplete", step: "wipe" }), PROCEDURE)).toBe(4);
  expect(itemMinutes(item({ kind: "fit-part", item: "broom" }), PROCEDURE)).toBe(15);
  expect(itemMinutes(item({}), PROCEDURE)).toBe(30);
});

it("is one duty for all of it", () => {
  expect(workTitle(["Fit Main broom"])).toBe("Fit Main broom");
  expect(workTitle(["A", "B"])).toBe("2 left open: A; B");
});
