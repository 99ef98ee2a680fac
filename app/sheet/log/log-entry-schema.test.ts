import { must } from "@core";

import { parseLogEntry } from "./log-entry-schema";

const base = {
  id: "0190a000-0000-7000-8000-000000000001",
  runId: "0190a000-0000-7000-8000-000000000000",
  at: "2026-11-24T09:30:00.000Z",
  by: "ada",
  device: "phone",
};
const on = { step: "rinse", round: 1 };

it.each([
  { type: "safety-confirmed", ...on },
  { type: "step-done", ...on, answer: "ok" },
  { type: "reading", ...on, value: -0.5, unit: "mm", point: 2 },
  { type: "part-fitted", ...on, item: "a", slot: "b", qty: 1, lot: "L", expires: "2027-01-31" },
  { type: "consumable-used", item: "a", qty: 0.5, unit: "mL" },
  { type: "corrected", ref: base.id, set: { value: 2 }, why: "slip" },
  { type: "signed", role: "customer", method: "drawn", name: "Kim", drawing: "M1 2L3.5 4" },
  { type: "outcome", outcome: "no-access", reason: "locked" },
])("takes $type", (body) => {
  expect(parseLogEntry({ ...base, ...body })).toEqual({ entry: { ...base, ...body } });
});

it.each<[string, object]>([
  ["an unknown type", { type: "deleted" }],
  ["a field it does not have", { type: "counted", ...on, by2: "x" }],
  ["a missing reason", { type: "step-skipped", ...on }],
  ["a number as text", { type: "reading", ...on, value: "5", unit: "mm" }],
  ["a reading that is no number", { type: "reading", ...on, value: NaN, unit: "mm" }],
  ["an endless reading", { type: "reading", ...on, value: Infinity, unit: "mm" }],
  ["a negative quantity", { type: "consumable-used", item: "a", qty: -1, unit: "mL" }],
  ["an unknown outcome", { type: "outcome", outcome: "bored", reason: "x" }],
  [
    "a drawing that is more than a path",
    { type: "signed", role: "customer", method: "drawn", name: "Kim", drawing: 'M1 2"/><script>' },
  ],
  ["a signature without a name", { type: "signed", role: "customer", method: "typed" }],
  ["a correction of something else", { type: "corrected", ref: base.id, set: { by: "bo" }, why: "x" }],
  ["an id of another version", { type: "resumed", id: "0190a000-0000-4000-8000-000000000001" }],
  ["a time without an offset", { type: "resumed", at: "2026-11-24T09:30:00" }],
  ["a note without an end", { type: "note", text: "x".repeat(5000) }],
])("refuses %s", (_name, body) => {
  const { entry, fault } = parseLogEntry({ ...base, ...body });
  expect(entry).toBeUndefined();
  expect(must(fault).length).toBeGreaterThan(8);
});

it.each([null, undefined, 5, "x", [], {}])("refuses %j", (raw) => {
  expect(parseLogEntry(raw).fault).toContain("not known");
});
