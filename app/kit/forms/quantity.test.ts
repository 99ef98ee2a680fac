import { money, quantity } from "./quantity";

it("writes quantities as people read them", () => {
  expect(quantity(3, "pc")).toBe("3 pc");
  expect(quantity(470, "mL")).toBe("470 mL");
  expect(quantity(20_000, "mL")).toBe("20 L");
  expect(quantity(-8_220.4, "mL")).toBe("-8.22 L");
  expect(quantity(1_200, "g")).toBe("1.2 kg");
  expect(quantity(0.1 + 0.2, "mL")).toBe("0.3 mL");
  expect(quantity(1_403, "pc")).toBe("1,403 pc");
});

it("writes money from minor units, and says when there is none", () => {
  expect(money(1290)).toBe("€12.90");
  expect(money(null)).toBe("no price");
});
