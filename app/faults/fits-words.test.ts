import { fitsWords } from "./fits-words";

const called = ["Water is not cold enough", "too warm"];
it.each([
  ["", true],
  ["  ", true],
  ["COLD", true],
  ["warm water", true],
  ["cold  enough", true],
  ["côld", true],
  ["hot", false],
  ["cold hot", false],
])("%j", (typed, fits) => expect(fitsWords(typed, called)).toBe(fits));
