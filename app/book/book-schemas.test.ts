import { faultOf, sent } from "~/testing/sent";

import { correctionSchema, instrumentSchema } from "./book-schemas";

const ID = "0198f0aa-1111-7222-8333-444455556666";

describe("a correction", () => {
  it("says what, to what, and why", () => {
    expect(sent(correctionSchema, { ref: ID, field: "qty", to: "3", why: "Slip" }).faults).toEqual({});
    expect(sent(correctionSchema, { ref: ID, field: "qty" }).faults).toEqual({
      to: "Say what it should be.",
      why: "Say why: it stays beside the old value.",
    });
    for (const field of ["by", "at", "id", "__proto__"])
      expect(sent(correctionSchema, { ref: ID, field, to: "x", why: "y" }).faults).toHaveProperty("field");
  });
});

describe("an instrument", () => {
  const right = { code: "C-01", kind: "caliper", name: "Caliper 150 mm" };

  it("is added without a reason and changed with one", () => {
    expect(sent(instrumentSchema, right).faults).toEqual({});
    expect(sent(instrumentSchema, { ...right, id: ID }).faults).toEqual({ why: "Say why it changes." });
    expect(sent(instrumentSchema, { ...right, id: ID, why: "Calibrated" }).faults).toEqual({});
  });

  it.each([
    ["certificate", "certificate.pdf", "A link that begins with https://"],
    ["certificate", "javascript:alert(1)", "A link that begins with https://"],
    ["calibrationDue", "2027-13-01", "Choose a day that exists, written YYYY-MM-DD."],
    ["kind", "feeler gauge", "Use small letters, digits and hyphens, such as feeler-gauge."],
  ])("%s %j: %s", (field, value, words) => {
    expect(faultOf(instrumentSchema, right, field, value)).toBe(words);
  });
});
