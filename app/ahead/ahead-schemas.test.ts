import { sent } from "~/testing/sent";

import {
  aheadFilter,
  dropViewSchema,
  putOnDaySchema,
  saveViewSchema,
  takeOffSchema,
  undoSchema,
} from "./ahead-schemas";

const A = "0198f0aa-1111-7222-8333-444455556666";
const B = "0198f0aa-1111-7222-8333-444455557777";
const GONE = "This choice is not valid any more. Load the page again.";

describe("duties put on a day", () => {
  it("come as one text, so that two hundred of them are one field", () => {
    expect(sent(putOnDaySchema, { dutyIds: `${A},${B},`, on: "2026-11-30" }).value).toEqual({
      dutyIds: [A, B],
      on: "2026-11-30",
    });
    expect(sent(putOnDaySchema, { dutyIds: "", on: "" }).faults).toEqual({
      dutyIds: "Choose at least one duty.",
      on: "Choose a day.",
    });
    const many = Array.from({ length: 201 }, () => A).join(",");
    expect(sent(takeOffSchema, { dutyIds: many }).faults.dutyIds).toMatch(/at most 200/);
    expect(sent(takeOffSchema, { dutyIds: `${A},1` }).faults).toEqual({ "dutyIds[1]": GONE });
  });
});

describe("what is taken back", () => {
  const before = [
    { dutyId: A, on: "2026-11-30", personId: B },
    { dutyId: B, on: null, personId: null },
  ];

  it("goes where it was before, no day and nobody included", () => {
    expect(sent(undoSchema, { before: JSON.stringify(before) }).value).toEqual({ before });
  });

  it.each([
    "nothing",
    "{}",
    "7",
    "null",
    JSON.stringify([{ ...before[0], on: "2026-02-30" }]),
    JSON.stringify([{ ...before[0], personId: "kim" }]),
    JSON.stringify([{ ...before[0], dutyId: "x" }]),
    JSON.stringify([{ dutyId: A }]),
    JSON.stringify(Array.from({ length: 201 }, () => before[1])),
  ])("is not made of %s", (text) => {
    expect(Object.keys(sent(undoSchema, { before: text }).faults).length).toBeGreaterThan(0);
  });
});

it("a view has a name", () => {
  expect(sent(saveViewSchema, { name: " Mine ", query: "q=oven" }).value).toEqual({ name: "Mine", query: "q=oven" });
  expect(sent(saveViewSchema, { query: "q=oven" }).faults).toEqual({ name: "Give the view a name." });
  expect(sent(dropViewSchema, { view: "1" }).faults).toEqual({ view: GONE });
});

it("an old link's filter is understood as far as it can be", () => {
  const filter = (query: string) => aheadFilter(new URLSearchParams(query));
  const none = { q: null, siteId: null, family: null, who: null, personId: null, after: null };
  expect(filter("")).toEqual(none);
  expect(filter("q=+oven+&who=technician&family=toaster")).toEqual({
    ...none,
    q: "oven",
    who: "technician",
    family: "toaster",
  });
  expect(filter("who=anybody&after=2026-02-30_x&q=+")).toEqual(none);
  expect(filter(`after=2026-11-27_${A}`).after).toBe(`2026-11-27_${A}`);
  expect(filter(`after=2026-11-27-${A}`).after).toBeNull();
  expect(filter(`q=${"x".repeat(500)}`).q).toHaveLength(80);
});
