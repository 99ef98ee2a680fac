import { toNumber } from "./to-number";

it.each([
  ["12", 12],
  [" 0,021 ", 0.021],
  ["0.021", 0.021],
  [".5", 0.5],
  ["-3", -3],
  ["+3", 3],
])("%j is %d", (text, value) => expect(toNumber(text)).toBe(value));

it.each(["", " ", "12x", "1.2.3", "1,2,3", "1e5", "--1", "Infinity", "NaN", "12 00"])("%j is no figure", (text) =>
  expect(toNumber(text)).toBeNull(),
);
