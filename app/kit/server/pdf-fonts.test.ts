import { printable } from "./pdf-fonts.server";

const printed = (words: string): [words: string, own: boolean] => {
  const { words: left, font } = printable("text", words);
  return [left, font.startsWith("@fontsource/")];
};

it("prints what the app's own typeface has in it, and the rest in one with more alphabets", () => {
  expect(printed("Søndre kai, 20 °C – “ok”")).toEqual(["Søndre kai, 20 °C – “ok”", true]);
  expect(printed("Ōsaka")).toEqual(["Ōsaka", false]);
  expect(printed("Ελλάς, Москва")).toEqual(["Ελλάς, Москва", false]);
});

it("leaves nothing out: what no typeface has is a box for each letter", () => {
  expect(printed("Kim 食堂")).toEqual(["Kim □□", false]);
  expect(printed("")).toEqual(["", true]);
});

it("takes line ends as forms send them, tabs, and accents typed apart for what they are", () => {
  expect(printed("one\r\ntwo\rthree\n\tfour")).toEqual(["one\ntwo\nthree\n four", true]);
  expect(printed("Cafe\u0301")).toEqual(["Café", true]);
});

it.each(["text", "bold", "figures"] as const)("%s has both its typefaces", (typeface) => {
  expect(printable(typeface, "Ōsaka").bytes.length).toBeGreaterThan(10_000);
  expect(printable(typeface, "Osaka").bytes.length).toBeGreaterThan(10_000);
});
