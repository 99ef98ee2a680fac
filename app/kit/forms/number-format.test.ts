import { readNumber } from "@core";

import { asTyped, numberFormatOf, ownFormat } from "./number-format";

it.each([
  ["en", ".", ","],
  ["de", ",", "."],
  ["pt-PT", ",", null],
  ["fr", ",", null],
  ["de-CH", ".", null],
])("%s", (language, decimal, group) => {
  expect(numberFormatOf(language)).toEqual({ decimal, group });
});

it("without a browser there is a point and nothing else", () => {
  expect(ownFormat()).toEqual({ decimal: ".", group: null });
});

it("a value that is put into a field is read there as it was", () => {
  for (const language of ["en", "de", "fr"])
    for (const value of [85, 85_000, 4.125, -4.125, 0.5, 999.999, 0, 1234.5]) {
      const format = numberFormatOf(language);
      expect(readNumber(asTyped(value, format), format)).toEqual({ kind: "number", value });
    }
});
