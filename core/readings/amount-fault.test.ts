import { amountFault } from "@core";

const said = (qty: number, unit = "mL", usual: number | null = 240): string => {
  const fault = amountFault(qty, { usual, unit });
  return fault === null ? "taken" : fault.refused ? "refused" : "asked";
};

describe("an amount that was used", () => {
  it.each([-1, -240, -0.001, NaN, Infinity, -Infinity])("of %s mL is refused", (qty) => {
    expect(said(qty)).toBe("refused");
  });

  // The point slipped, litres typed for millilitres, a digit too many or too few.
  it.each([2400, 24, 2.4, 0.24, 24_000, 240_240, 1201, 47])("of %s mL, where 240 are usual, is asked about", (qty) => {
    expect(said(qty)).toBe("asked");
  });

  it.each([0, 48, 100, 239.5, 240, 300, 480, 1200])("of %s mL, where 240 are usual, is taken", (qty) => {
    expect(said(qty)).toBe("taken");
  });

  it("of something counted is asked about when it is no whole number", () => {
    expect(said(1.5, "pc", 1)).toBe("asked");
    expect(said(2, "pc", 1)).toBe("taken");
    expect(said(1.5, "L", 1)).toBe("taken");
  });

  it("is taken where nothing is known of it", () => {
    expect(said(24_000, "mL", null)).toBe("taken");
    expect(said(24_000, "mL", 0)).toBe("taken");
  });

  it("says how far off it is", () => {
    expect(amountFault(2400, { usual: 240, unit: "mL" })?.because).toBe("2400 mL is 10 times what this takes, 240 mL.");
    expect(amountFault(0.004, { usual: 0.04, unit: "L" })?.because).toBe(
      "0.004 L is one part in 10 of what this takes, 0.04 L.",
    );
  });
});
