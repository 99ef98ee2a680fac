import fc from "fast-check";
import { Temporal } from "temporal-polyfill";

import { weekdayOf } from "./day-time";
import { isDay, isInstant } from "./is-day";

/** Against the Temporal polyfill, a general-purpose calendar. */
const exists = (text: string): boolean => {
  try {
    return Temporal.PlainDate.from(text, { overflow: "reject" }).toString() === text;
  } catch {
    return false;
  }
};

it("a day is one that exists, in the years that the books hold", () => {
  const part = (most: number) => fc.integer({ min: 0, max: most }).map((one) => String(one).padStart(2, "0"));
  fc.assert(
    fc.property(fc.integer({ min: 1890, max: 2210 }), part(14), part(33), (year, month, day) => {
      const text = `${year}-${month}-${day}`;
      expect([text, isDay(text)]).toEqual([text, exists(text) && year >= 1900 && year <= 2199]);
    }),
    { numRuns: 2000 },
  );
});

it.each(["1899-12-31", "2200-01-01", "2026-2-28", " 2026-02-28", "2026-02-28 ", "2026-02-28T00:00", "", "today"])(
  "%j is none",
  (text) => {
    expect(isDay(text)).toBe(false);
  },
);

it("nothing but a text is one", () => {
  for (const value of [null, undefined, 20260228, new Date(), ["2026-02-28"]])
    expect([isDay(value), isInstant(value)]).toEqual([false, false]);
});

it.each([
  "2026-02-28T09:30:00Z",
  "2026-02-28T23:59:59.999Z",
  "2026-02-28T09:30:00.5+14:00",
  "2026-02-28T00:00:00-09:30",
  "2000-01-01T00:00:00Z",
  "2199-12-31T00:00:00Z",
])("%s is an instant", (text) => {
  expect(isInstant(text)).toBe(true);
});

it.each([
  "2026-02-29T09:30:00Z",
  "2026-02-28T24:00:00Z",
  "2026-02-28T09:60:00Z",
  "2026-02-28T09:30:60Z",
  "2026-02-28T09:30Z",
  "2026-02-28T09:30:00",
  "2026-02-28T09:30:00.1234Z",
  "2026-02-28T09:30:00+15:00",
  "2026-02-28 09:30:00Z",
  "1999-12-31T23:59:59Z",
  "2200-01-01T00:00:00Z",
  "2199-12-31T00:00:00.001Z",
  "2000-01-01T00:00:00+00:01",
])("%s is none that a log may name", (text) => {
  expect(isInstant(text)).toBe(false);
});

it("the weekday of a day is ISO's, over years and leap days", () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 100_000 }), (days) => {
      const day = Temporal.PlainDate.from("1900-01-01").add({ days });
      expect(weekdayOf(day.toString())).toBe(day.dayOfWeek);
    }),
  );
});
