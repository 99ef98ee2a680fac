import { outcomeName, OUTCOMES } from "./outcomes";

it("every way that a visit ends without the work has its name; what an old record says stays readable", () => {
  expect(OUTCOMES.map(([outcome]) => outcomeName(outcome))).toEqual(["No access", "Refused", "Part missing"]);
  expect(outcomeName("weather")).toBe("weather");
});
