import { dayInZone, isTimeZone, latestDay } from "./site-day";

it("gives each zone its own day, over a change of clocks too", () => {
  const evening = new Date("2026-03-28T23:30:00Z");
  expect(dayInZone(evening, "UTC")).toBe("2026-03-28");
  expect(dayInZone(evening, "Europe/Berlin")).toBe("2026-03-29");
  expect(dayInZone(evening, "Pacific/Kiritimati")).toBe("2026-03-29");
  expect(dayInZone(new Date("2026-03-29T22:30:00Z"), "Europe/Berlin")).toBe("2026-03-30"); // summer time began at 01:00 UTC
  expect(dayInZone(new Date("2026-10-25T22:30:00Z"), "Europe/Berlin")).toBe("2026-10-25"); // and ended
  expect(latestDay(evening)).toBe("2026-03-29");
});

it("knows a time zone from a guess", () => {
  expect(isTimeZone("Europe/Lisbon")).toBe(true);
  expect(isTimeZone("Harbour/Time")).toBe(false);
});
