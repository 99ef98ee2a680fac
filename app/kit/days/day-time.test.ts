import { dayInWords, inHours, minuteOfDay, minutesOf } from "./day-time";

describe("the time of a day", () => {
  it("is the zone's own, over changes of the clocks", () => {
    // Lisbon: +1 in summer; the clocks change on 25 October 2026 at 02:00 to 01:00.
    expect(minuteOfDay(new Date("2026-06-10T07:30:00Z"), "Europe/Lisbon")).toBe(8 * 60 + 30);
    expect(minuteOfDay(new Date("2026-10-25T00:30:00Z"), "Europe/Lisbon")).toBe(90);
    expect(minuteOfDay(new Date("2026-10-25T01:30:00Z"), "Europe/Lisbon")).toBe(90);
    expect(minuteOfDay(new Date("2026-10-25T02:30:00Z"), "Europe/Lisbon")).toBe(150);
  });

  it("begins at 0, not at 24 hours", () => {
    expect(minuteOfDay(new Date("2026-12-31T23:00:00Z"), "Europe/Berlin")).toBe(0);
    expect(minuteOfDay(new Date("2026-12-31T22:59:59Z"), "Europe/Berlin")).toBe(1439);
  });

  it("is read as it is typed", () => {
    expect(minutesOf("00:00")).toBe(0);
    expect(minutesOf("07:05")).toBe(425);
    expect(minutesOf("23:59")).toBe(1439);
  });
});

describe("minutes in words", () => {
  it.each([
    [0, "0 min"],
    [59.4, "59 min"],
    [59.5, "1 h 00 min"],
    [65, "1 h 05 min"],
    [600, "10 h 00 min"],
  ])("%p are %p", (minutes, words) => {
    expect(inHours(minutes)).toBe(words);
  });
});

it("a day in words is that day, wherever it is read", () => {
  expect(dayInWords("2026-11-26")).toBe("Thursday 26 November");
  expect(dayInWords("2026-01-01")).toBe("Thursday 1 January");
});
