import { byUrgency } from "./clock-lines";
import type { ClockShown } from "./sheet-clocks";

const NOW = Date.parse("2026-06-10T09:00:00Z");
/** A clock that has run for so many minutes. */
const clock = (key: string, ran: number, minMinutes: number, maxMinutes?: number): ClockShown => ({
  key,
  title: key,
  bounds: { minMinutes, ...(maxMinutes === undefined ? {} : { maxMinutes }) },
  startedAt: new Date(NOW - ran * 60_000).toISOString(),
});

it("the clock that needs somebody most comes first", () => {
  const all = [
    clock("in twelve minutes", 8, 20),
    clock("over", 31, 20, 30),
    clock("long enough", 21, 20),
    clock("in two minutes", 18, 20, 60),
    clock("soon over", 29.5, 20, 30),
  ];
  expect(byUrgency(all, NOW).map((one) => one.key)).toEqual([
    "over",
    "soon over",
    "long enough",
    "in two minutes",
    "in twelve minutes",
  ]);
});

it("practice's clocks are judged by its own time", () => {
  const ahead = { ...clock("practice", 1, 20), aheadMs: 30 * 60_000 };
  expect(byUrgency([clock("real", 15, 20), ahead], NOW).map((one) => one.key)).toEqual(["practice", "real"]);
});
