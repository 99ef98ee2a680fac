import { dayOrderOf, readDay } from "./read-day";

it.each([
  ["2026-04-03", "2026-04-03"],
  [" 2026/4/3 ", "2026-04-03"],
  ["3.4.2026", "2026-04-03"],
  ["03.04.2026", "2026-04-03"],
  ["3 April 2026", "2026-04-03"],
  ["3. Apr 2026", "2026-04-03"],
  ["3-Apr-2026", "2026-04-03"],
  ["April 3, 2026", "2026-04-03"],
  ["Sept 30 2026", "2026-09-30"],
  ["31/12/2026", "2026-12-31"],
  ["12/31/2026", "2026-12-31"],
  ["5/5/2026", "2026-05-05"],
  ["29/2/2028", "2028-02-29"],
  ["29/2/2026", null],
  ["13/13/2026", null],
  ["3/4/26", null],
  ["3 Foo 2026", null],
  ["3.4/2026", null],
  ["20260403", null],
  ["", null],
])("%s is %s", (text, day) => expect(readDay(text, null)).toEqual(day === null ? null : { day }));

it("says both days of what may be meant in two ways, until it is known which figure comes first", () => {
  expect(readDay("3/4/2026", null)).toEqual({ either: ["2026-04-03", "2026-03-04"] });
  expect(readDay("3-4-2026", null)).toEqual({ either: ["2026-04-03", "2026-03-04"] });
  expect(readDay("3/4/2026", "day-first")).toEqual({ day: "2026-04-03" });
  expect(readDay("3/4/2026", "month-first")).toEqual({ day: "2026-03-04" });
  // Points have the day first, whatever else the file has.
  expect(readDay("3.4.2026", "month-first")).toEqual({ day: "2026-04-03" });
  expect(readDay("13/4/2026", "month-first")).toBeNull();
});

it.each([
  [["3/4/2026", "13/4/2026"], "day-first"],
  [["3/4/2026", "4/13/2026", ""], "month-first"],
  [["3/4/2026", "2026-04-13", "13.4.2026"], null],
  [["13/4/2026", "4/13/2026"], null],
  [[], null],
])("%j tell: %s", (texts, order) => expect(dayOrderOf(texts)).toBe(order));
