import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { CoreError } from "../errors";
import { uniform } from "../random";
import { draws } from "../testing/draws";
import { type NumberFormat, readNumber } from "./read-number";

const POINT: NumberFormat = { decimal: ".", group: "," };
const COMMA: NumberFormat = { decimal: ",", group: "." };
const FRENCH: NumberFormat = { decimal: ",", group: "\u202f" };
const SWISS: NumberFormat = { decimal: ".", group: "'" };
const PLAIN: NumberFormat = { decimal: ".", group: null };
const ALL = [POINT, COMMA, FRENCH, SWISS, PLAIN];

it.each<[string, number]>([
  ["0", 0],
  ["7", 7],
  ["  42 ", 42],
  ["0,500", 0.5],
  ["0.500", 0.5],
  [".5", 0.5],
  [",25", 0.25],
  [".500", 0.5],
  ["1.234,56", 1234.56],
  ["1,234.56", 1234.56],
  ["1.234,567", 1234.567],
  ["1234,567", 1234.567],
  ["1234.567", 1234.567],
  ["12,3", 12.3],
  ["12.3456", 12.3456],
  ["1.234.567", 1_234_567],
  ["1,234,567", 1_234_567],
  ["85 000", 85_000],
  ["85\u00a0000", 85_000],
  ["85\u202f000", 85_000],
  ["85'000", 85_000],
  ["85\u2019000", 85_000],
  ["1 234 567,8", 1_234_567.8],
  ["1 234.567", 1234.567],
  ["02 927", 2927],
  ["007", 7],
  ["-5", -5],
  ["\u22125,5", -5.5],
  ["+5", 5],
  ["-1 234,5", -1234.5],
])("%j is %d, whoever types it", (text, value) => {
  for (const format of ALL) expect(readNumber(text, format)).toEqual({ kind: "number", value });
});

it.each([
  "",
  " ",
  "-",
  ",",
  "5.",
  "85 bar",
  "1e3",
  "0x10",
  "Infinity",
  "NaN",
  "1..2",
  "1.23.4",
  "12.34,5",
  "1,2,3",
  "1,234.567,8",
  "0.123.456",
  "2 5",
  "1 23",
  "1 234 5",
  "1,23 456",
  "--5",
  "5-",
  "- 5",
  "１２",
  "9".repeat(400),
])("%j is no number to anybody", (text) => {
  for (const format of ALL) expect(readNumber(text, format)).toEqual({ kind: "none" });
});

it("one mark with three digits behind it is the person's group mark, or is asked about", () => {
  expect(readNumber("85,000", POINT)).toEqual({ kind: "number", value: 85_000 });
  expect(readNumber("85.000", COMMA)).toEqual({ kind: "number", value: 85_000 });
  // Their decimal mark: three decimals are rare, and are what they would have typed.
  expect(readNumber("85.000", POINT)).toEqual({ kind: "ambiguous", values: [85, 85_000] });
  expect(readNumber("85,000", COMMA)).toEqual({ kind: "ambiguous", values: [85, 85_000] });
  expect(readNumber("-1,250", FRENCH)).toEqual({ kind: "ambiguous", values: [-1.25, -1250] });
  // Neither: copied from a display of another country.
  expect(readNumber("85.000", FRENCH)).toEqual({ kind: "ambiguous", values: [85_000, 85] });
  expect(readNumber("85,000", SWISS)).toEqual({ kind: "ambiguous", values: [85_000, 85] });
  expect(readNumber("999,999", PLAIN)).toEqual({ kind: "ambiguous", values: [999_999, 999.999] });
});

it("reads back whatever the language's own formatter writes", () => {
  const random = uniform(xoroshiro128plus(20261128));
  const locales: [string, NumberFormat][] = [
    ["en", POINT],
    ["de", COMMA],
    ["pt-PT", { decimal: ",", group: "\u202f" }],
    ["fr", FRENCH],
    ["de-CH", SWISS],
    ["sv", { decimal: ",", group: " " }],
  ];
  for (const [locale, format] of locales)
    for (let i = 0; i < draws(400, 20_000); i++) {
      const value =
        Math.round((random() - 0.3) * 10 ** (1 + Math.floor(random() * 8))) / 10 ** Math.floor(random() * 4);
      const text = new Intl.NumberFormat(locale, { maximumFractionDigits: 3 }).format(value);
      const read = readNumber(text, format);
      const values = read.kind === "number" ? [read.value] : read.kind === "ambiguous" ? read.values : [];
      expect([text, values]).toEqual([text, expect.arrayContaining([value === 0 ? 0 : value])]);
      // Their own format decides first; only three decimals are asked about.
      if (read.kind === "ambiguous") expect(read.values[0]).toBe(value);
    }
});

it.each<[string, object]>([
  ["decimal", { decimal: ";", group: null }],
  ["group", { decimal: ",", group: "," }],
  ["group", { decimal: ",", group: "_" }],
])("refuses a format whose %s mark is none", (path, format) => {
  expect(() => readNumber("1", format as never)).toThrow(CoreError);
  expect(() => readNumber("1", format as never)).toThrow(expect.objectContaining({ path: `format.${path}` }) as Error);
});
