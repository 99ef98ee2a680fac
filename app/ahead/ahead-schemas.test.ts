import { undoSchema } from "~/round/day/places-schema";
import { sent } from "~/testing/sent";

import { aheadFilter, dropViewSchema, putOnDaySchema, saveViewSchema, takeOffSchema } from "./ahead-schemas";

const A = "0198f0aa-1111-7222-8333-444455556666";
const B = "0198f0aa-1111-7222-8333-444455557777";
const GONE = "This choice is not valid any more. Load the page again.";

const placed = [
  { dutyId: A, on: "2026-11-30", personId: B },
  { dutyId: B, on: null, personId: null },
];

describe("duties put on a day", () => {
  it("come as one text, so that two hundred of them are one field", () => {
    expect(sent(putOnDaySchema, { duties: JSON.stringify(placed), on: "2026-11-30" }).value).toEqual({
      duties: placed,
      on: "2026-11-30",
    });
    expect(sent(putOnDaySchema, { duties: "[]", on: "" }).faults).toEqual({
      duties: "Choose at least one duty.",
      on: "Choose a day.",
    });
    const many = JSON.stringify(Array.from({ length: 100_000 }, () => placed[1]));
    expect(sent(takeOffSchema, { duties: many }).faults.duties).toMatch(/at most 200/);
    const odd = JSON.stringify([placed[0], { ...placed[1], dutyId: "1" }]);
    expect(sent(takeOffSchema, { duties: odd }).faults).toEqual({ "duties[1].dutyId": GONE });
  });
});

describe("what is taken back", () => {
  it("goes where it was before, no day and nobody included", () => {
    const text = JSON.stringify(placed);
    expect(sent(undoSchema, { duties: text, before: text }).value).toEqual({ duties: placed, before: placed });
  });

  it.each([
    "nothing",
    "{}",
    "7",
    "null",
    JSON.stringify([{ ...placed[0], on: "2026-02-30" }]),
    JSON.stringify([{ ...placed[0], personId: "kim" }]),
    JSON.stringify([{ ...placed[0], dutyId: "x" }]),
    JSON.stringify([{ dutyId: A }]),
    JSON.stringify(Array.from({ length: 201 }, () => placed[1])),
  ])("is not made of %s", (text) => {
    expect(
      Object.keys(sent(undoSchema, { duties: JSON.stringify(placed), before: text }).faults).length,
    ).toBeGreaterThan(0);
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
