import { whyNot } from "./why-left";

const left = { site: "s", job: "j", endAt: null, holds: null };

it("says of the day that comes nearest what it lacks", () => {
  const reasons = [
    whyNot({ ...left, because: "closed" }, "Mo", "2026-06-19"),
    whyNot({ ...left, because: "hours" }, "Mo", "2026-06-19"),
    whyNot({ ...left, because: "room", endAt: 1050 }, "Mo", "2026-06-19"),
    whyNot({ ...left, because: "room", endAt: 1030 }, "Mo", "2026-06-18"),
    whyNot({ ...left, because: "chance", endAt: 940, holds: 0.41 }, "Mo", "2026-06-19"),
    whyNot({ ...left, because: "chance", endAt: 940, holds: 0.74 }, "Kim", "2026-06-19"),
  ];
  // From the least near to the nearest.
  expect([...reasons].sort((a, b) => a.rank - b.rank)).toEqual(reasons);
  expect(reasons.map(({ words }) => words)).toEqual([
    "its site is closed on every day that somebody has room",
    "its hours, or its site's, have no room for it on any of these days",
    "Fri 19 Jun with Mo: back at 17:30",
    "Thu 18 Jun with Mo: back at 17:10",
    "Fri 19 Jun with Mo would hold in 41 % of cases",
    "Fri 19 Jun with Kim would hold in 74 % of cases",
  ]);
});
