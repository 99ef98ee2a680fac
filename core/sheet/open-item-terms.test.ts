import { itemMinutes, type OpenItem, type Procedure, wantedBy } from "./index";

const PROCEDURE = {
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
  because: "Loose",
  again: [],
  closed: null,
  ...more,
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
