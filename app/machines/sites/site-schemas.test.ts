import fc from "fast-check";

import { faultOf, sent } from "~/testing/sent";

import { closureSchema, parseContacts, parseSharedPlaces, sharedPlacesText, siteSchema } from "./site-schemas";

const right = { seen: "0123456789abcdef", name: "Harbour clinic", timeZone: "Atlantic/Azores" };

it("a site needs a name and a time zone, all else may come later", () => {
  expect(sent(siteSchema, right).faults).toEqual({});
  expect(sent(siteSchema, { seen: "0123456789abcdef" }).faults).toEqual({
    name: "Give the site a name.",
    timeZone: "Give the time zone.",
  });
  // What it was filled from is always told: nobody's change is undone unseen.
  for (const seen of ["", "0123456789ABCDEF", "0123456789abcde"])
    expect(faultOf(siteSchema, right, "seen", seen)).toBe("This choice is not valid any more. Load the page again.");
});

it.each([
  ["timeZone", "Azores", "Use a name such as Europe/Lisbon."],
  ["latitude", "90.01", "Latitude is −90 to 90."],
  ["latitude", "-90.01", "Latitude is −90 to 90."],
  ["latitude", "38° 32'", "Type degrees, such as 38.53."],
  ["longitude", "180.5", "Longitude is −180 to 180."],
  ["longitude", "-181", "Longitude is −180 to 180."],
  ["waterHardness", "-1", "Hardness is zero or more."],
  ["waterHardness", "2001", "That is more than any water has."],
  ["waterHardness", "hard", "Type mg/L as calcium carbonate."],
  ["holidayRegion", "Portugal", "Write a country's two letters, such as PT, or with a part of it, PT-30."],
  ["drainRules", "x".repeat(2001), "Keep it under 2,000 characters."],
])("%s %j is not taken: %s", (field, value, words) => {
  expect(faultOf(siteSchema, right, field, value)).toBe(words);
});

it.each([
  ["latitude", "-90", -90],
  ["latitude", "\u221238,5", -38.5],
  ["longitude", "180", 180],
  ["waterHardness", "320", 320],
  ["holidayRegion", "pt-30", "PT-30"],
  ["accessHours", "05:30-09:00", "05:30-09:00"],
])("%s %j is taken as %j", (field, value, as) => {
  expect(sent(siteSchema, { ...right, [field]: value }).value[field]).toBe(as);
});

it("hours and shared places that are not understood are named", () => {
  expect(faultOf(siteSchema, right, "accessHours", "when open")).toContain("when open");
  expect(faultOf(siteSchema, right, "sharedPlaces", "sink 2; 3 hoods")).toBe(
    '"3 hoods" is not understood. Write for example: sink 2; hood 1.',
  );
});

it("shared places are read as people write them, and written so that they read alike", () => {
  expect(parseSharedPlaces(" Sink 2;hood ; ;drying-rack 10")).toEqual({ sink: 2, hood: 1, "drying-rack": 10 });
  expect(parseSharedPlaces("")).toEqual({});
  for (const wrong of ["sink 100", "sink two", "2 sinks", "sink, hood"])
    expect(() => parseSharedPlaces(wrong)).toThrow(/is not understood/);
  const name = fc.stringMatching(/^[a-z][a-z-]{0,20}$/);
  fc.assert(
    fc.property(fc.dictionary(name, fc.integer({ min: 0, max: 99 })), (places) => {
      expect(parseSharedPlaces(sharedPlacesText(places))).toEqual({ ...places });
    }),
  );
});

it("contacts are a line each, parts from left to right, empty lines none", () => {
  expect(parseContacts("Kim Quay; keys; +351 000 000 101; kim@clinic.example\n\n ; ; \nDesk\n")).toEqual([
    { name: "Kim Quay", role: "keys", phone: "+351 000 000 101", email: "kim@clinic.example" },
    { name: "Desk", role: "", phone: "", email: "" },
  ]);
});

it("a closure has two days and a reason", () => {
  expect(sent(closureSchema, { fromOn: "2026-12-20", toOn: "2027-01-06", reason: "Winter break" }).faults).toEqual({});
  expect(sent(closureSchema, { fromOn: "2026-02-30" }).faults).toEqual({
    fromOn: "Choose a day.",
    toOn: "Choose a day.",
    reason: "Say why, such as winter break.",
  });
});
