import { faultOf, sent } from "~/testing/sent";

import { signSchema } from "./sheet-schemas";

describe("signing", () => {
  const typed = { customer: "typed", customerName: "Kim Quay", password: "harbour" };
  const drawn = { ...typed, customer: "drawn", drawing: "M 1,2 L 3.5,4 C 1,1 2,2 3,3" };

  it("takes a typed name, a drawing, or a reason why nobody signs", () => {
    expect(sent(signSchema, typed).faults).toEqual({});
    expect(sent(signSchema, drawn).faults).toEqual({});
    expect(sent(signSchema, { customer: "not-present", absentReason: "Closed", password: "x" }).faults).toEqual({});
  });

  it("asks for what the way of signing needs, and for nothing else", () => {
    expect(sent(signSchema, { customer: "typed" }).faults).toEqual({
      customerName: "Type the customer's name.",
      password: "Type your password to sign.",
    });
    expect(sent(signSchema, { ...drawn, drawing: "" }).faults).toEqual({
      drawing: "Draw the signature in the box, or choose a typed name.",
    });
    expect(sent(signSchema, { customer: "not-present", password: "x" }).faults.absentReason).toMatch(
      /why nobody signs/,
    );
    expect(sent(signSchema, { customer: "by-phone", password: "x" }).faults).toEqual({
      customer: "Choose how the customer signs.",
    });
  });

  it.each(["<script>", "M 1,2 url(#x)", 'M1" onload="x'])("takes no drawing that is more than lines: %s", (drawing) => {
    expect(faultOf(signSchema, drawn, "drawing", drawing)).toBe("Clear the box and sign again.");
  });

  it("takes no drawing that never ends", () => {
    expect(faultOf(signSchema, drawn, "drawing", "M1 ".repeat(20_001))).toMatch(/too long/);
  });
});
