import { faultOf, sent } from "~/testing/sent";

import {
  addMeterSchema,
  bulkSchema,
  closeReportSchema,
  machineSchema,
  meterSchema,
  occurrenceSchema,
  parseDocuments,
  pauseSchema,
  replaceMeterSchema,
} from "./machine-schemas";

const ID = "0198f0aa-1111-7222-8333-444455556666";

describe("a reading of a meter", () => {
  it.each([
    ["1234", 1234],
    ["1234,5", 1234.5],
    [" 0 ", 0],
    ["1000000000000", 1e12],
    ["1.234,5", 1234.5],
    ["85 000", 85_000],
  ])("takes %j as %d", (value, as) => {
    expect(sent(meterSchema, { meter: "hours", value }).value).toEqual({ meter: "hours", value: as, confirmed: false });
  });

  it.each([
    ["-1", "A meter shows zero or more."],
    ["1000000000001", "That is more than a meter can show."],
    ["12 h", "Type the figure the meter shows."],
    ["", "Type the figure the meter shows."],
    ["NaN", "Type the figure the meter shows."],
    ["Infinity", "Type the figure the meter shows."],
    ["1.234,5.6", "Type the figure the meter shows."],
    ["85,000", "This can be meant in two ways: type it without a mark between the thousands."],
    ["1.250", "This can be meant in two ways: type it without a mark between the thousands."],
  ])("does not take %j: %s", (value, words) => {
    expect(sent(meterSchema, { meter: "hours", value }).faults).toEqual({ value: words });
  });

  it("is of a meter with a short name", () => {
    expect(sent(meterSchema, { value: "1" }).faults).toEqual({ meter: "Choose a meter." });
    expect(faultOf(meterSchema, { value: "1" }, "meter", "Cutting hours")).toBe(
      "Use small letters, digits and hyphens, such as cutting-hours.",
    );
  });

  it("of a new meter needs what it shows, of the old one not: it may be gone", () => {
    expect(sent(replaceMeterSchema, { meter: "hours", startsAt: "0" }).value).toEqual({ meter: "hours", startsAt: 0 });
    expect(sent(replaceMeterSchema, { meter: "hours", lastValue: "10" }).faults).toEqual({
      startsAt: "Type the figure the new meter shows.",
    });
    expect(faultOf(replaceMeterSchema, { meter: "hours", startsAt: "0" }, "lastValue", "?")).toBe(
      "Type the figure the old meter showed.",
    );
  });

  it("has a meter with a name and a unit", () => {
    expect(sent(addMeterSchema, { meter: "prints", name: "Prints", unit: "prints" }).value).toEqual({
      meter: "prints",
      name: "Prints",
      unit: "prints",
      basis: "",
    });
    expect(Object.keys(sent(addMeterSchema, {}).faults).sort()).toEqual(["meter", "name", "unit"]);
  });
});

describe("what happens to a machine", () => {
  it("is one of our words, on a day that exists", () => {
    expect(sent(occurrenceSchema, { event: "moved", on: "2026-11-27" }).value).toEqual({
      event: "moved",
      on: "2026-11-27",
    });
    for (const event of ["", "Moved!", "x".repeat(61)])
      expect(sent(occurrenceSchema, { event }).faults).toHaveProperty("event");
    expect(sent(occurrenceSchema, { event: "moved", on: "2026-11-31" }).faults).toHaveProperty("on");
  });

  it("stands still for a reason, with or without an end", () => {
    expect(sent(pauseSchema, { reason: "Winter" }).value).toEqual({ reason: "Winter" });
    expect(sent(pauseSchema, { fromOn: "2026-12-01" }).faults).toEqual({
      reason: "Say why, such as in store for the winter.",
    });
  });

  it("is answered with what was done about it", () => {
    expect(sent(closeReportSchema, { report: ID }).faults).toEqual({ note: "Say what was done about it." });
    expect(sent(closeReportSchema, { report: "7", note: "Mended" }).faults.report).toMatch(/Load the page again/);
  });
});

describe("a machine's own form", () => {
  const right = {
    seen: "0123456789abcdef",
    name: "Oven",
    options: "two-lane  water-filter",
    freeHours: "05:30-08:00",
    readyBy: "10:45",
  };

  it("is taken with what is left empty as empty", () => {
    expect(sent(machineSchema, right).value).toMatchObject({ ...right, area: "", documents: "", notes: "" });
  });

  it.each([
    ["name", "", "Give the machine a name."],
    ["options", "Two Lane", "Separate short names by spaces, such as water-filter two-lane."],
    ["options", `a-${"b".repeat(60)}`, "Separate short names by spaces, such as water-filter two-lane."],
    ["readyBy", "25:00", "Write a time such as 10:45."],
    ["readyBy", "10:60", "Write a time such as 10:45."],
    ["serial", "x".repeat(121), "Keep it under 120 characters."],
  ])("%s %j: %s", (field, value, words) => {
    expect(faultOf(machineSchema, right, field, value)).toBe(words);
  });

  it("says which hours and which document are not understood", () => {
    expect(faultOf(machineSchema, right, "freeHours", "mornings")).toContain("mornings");
    expect(faultOf(machineSchema, right, "documents", "Manual manual.pdf")).toContain("Manual manual.pdf");
  });

  it("reads documents a line: a title, then an address of the web", () => {
    expect(parseDocuments("Manual https://docs.example/m.pdf\n\n  http://docs.example/x  \n")).toEqual([
      { title: "Manual", href: "https://docs.example/m.pdf" },
      { title: "http://docs.example/x", href: "http://docs.example/x" },
    ]);
    expect(() => parseDocuments("Manual javascript:alert(1)")).toThrow(/does not end with an http/);
    expect(() => parseDocuments("Manual https://[broken")).toThrow(/is no address/);
    expect(parseDocuments("")).toEqual([]);
  });
});

describe("a change of many machines", () => {
  it("wants at least one ticked, and takes one as well as many", () => {
    expect(sent(bulkSchema, { ids: ID, area: "Hall" }).value).toEqual({ ids: [ID], area: "Hall" });
    expect(sent(bulkSchema, { area: "Hall" }).faults).toEqual({ ids: "Tick at least one machine." });
    expect(sent(bulkSchema, { ids: [ID, "1"] }).faults).toHaveProperty(["ids[1]"]);
    const many = Array.from({ length: 501 }, () => ID);
    expect(sent(bulkSchema, { ids: many }).faults).toEqual({ ids: "At most 500 in one go." });
  });

  it("adds and takes away options by their short names", () => {
    expect(faultOf(bulkSchema, { ids: ID }, "addOption", "Water Filter")).toMatch(/short name of small letters/);
    expect(faultOf(bulkSchema, { ids: ID }, "dropOption", "water-filter")).toBeUndefined();
  });
});
