import fc from "fast-check";
import { Temporal } from "temporal-polyfill";

import { CoreError } from "../errors";
import { addUnits } from "./add-units";
import { civilOf, dayNumberOf, daysInMonth } from "./civil";
import { daysBetween } from "./days-between";
import { formatDay } from "./format-day";
import { isoWeekday, onOrAfterWeekday } from "./iso-weekday";
import { LAST_DAY, parseDay } from "./parse-day";

/** Against the Temporal polyfill, a general-purpose calendar, over all years that a day can be written in. */
const FIRST_DAY = dayNumberOf(0, 1, 1);
const day = fc.integer({ min: FIRST_DAY, max: LAST_DAY });
const EPOCH = Temporal.PlainDate.from("1970-01-01");
const temporal = (dayNumber: number): Temporal.PlainDate => EPOCH.add({ days: dayNumber });
const settings = { seed: 20261124, numRuns: 500 };

it("writes and reads every day like Temporal", () => {
  fc.assert(
    fc.property(day, (dayNumber) => {
      const date = temporal(dayNumber);
      expect(formatDay(dayNumber)).toBe(date.toString());
      expect(parseDay(formatDay(dayNumber), "day")).toBe(dayNumber);
      expect(civilOf(dayNumber)).toEqual({ year: date.year, month: date.month, day: date.day });
      expect(daysInMonth(date.year, date.month)).toBe(date.daysInMonth);
      expect(isoWeekday(dayNumber)).toBe(date.dayOfWeek);
    }),
    settings,
  );
});

it("adds units forwards and backwards like Temporal, clamped to the month's end", () => {
  const middle = fc.integer({ min: parseDay("1000-01-01", "d"), max: parseDay("9000-12-31", "d") });
  fc.assert(
    fc.property(
      middle,
      fc.integer({ min: -900, max: 900 }),
      fc.constantFrom("day", "week", "month", "year" as const),
      (from, count, unit) => {
        expect(formatDay(addUnits(from, count, unit))).toBe(
          temporal(from)
            .add({ [`${unit}s`]: count }, { overflow: "constrain" })
            .toString(),
        );
      },
    ),
    settings,
  );
});

it("counts the days between two days like Temporal, over changes of clocks and leap days", () => {
  fc.assert(
    fc.property(day, day, (from, to) => {
      expect(daysBetween(formatDay(from), formatDay(to))).toBe(
        temporal(from).until(temporal(to), { largestUnit: "days" }).days,
      );
    }),
    settings,
  );
  expect(() => daysBetween("2026-02-30", "2026-03-01")).toThrow(/from must be a day/);
});

it("moves forward to a weekday by less than a week, and not at all when it is there", () => {
  fc.assert(
    fc.property(day, fc.integer({ min: 1, max: 7 }), (from, weekday) => {
      const to = onOrAfterWeekday(from, weekday);
      expect(isoWeekday(to)).toBe(weekday);
      expect(to - from).toBeGreaterThanOrEqual(0);
      expect(to - from).toBeLessThan(7);
    }),
    settings,
  );
});

it.each([
  "2026-02-29",
  "2026-13-01",
  "2026-00-10",
  "2026-01-00",
  "2026-1-01",
  "26-01-01",
  "2026/01/01",
  "2026-01-01T00:00",
  " 2026-01-01",
  "",
  null,
  20260101,
  "２０２６-01-01",
])("%j is no day", (text) => {
  expect(() => parseDay(text, "on")).toThrow(CoreError);
  expect(() => parseDay(text, "on")).toThrow(/on must be a day that exists/);
});

it("knows leap years: 2000 and 2024 are, 1900 and 2026 are not", () => {
  expect([2000, 2024, 1900, 2026].map((year) => daysInMonth(year, 2))).toEqual([29, 29, 28, 28]);
});

it("refuses to leave the years that can be written", () => {
  expect(() => formatDay(LAST_DAY + 1)).toThrow(CoreError);
  expect(() => addUnits(0, 9000, "year")).toThrow(/0000 to 9999/);
});
