import { must } from "../must";
import { dayLegs } from "./legs";
import { planDay } from "./plan-day";
import { dayRisk } from "./risk";
import type { DayProblem } from "./types";

const site = (id: string, minutes: number): DayProblem["sites"][number] => ({
  id,
  arriving: 5,
  leaving: 5,
  resources: [],
  jobs: [{ id: `${id} work`, phases: [{ kind: "hands", minutes }] }],
});
// The depot and the yard are on one island, the school on another.
const problem: DayProblem = {
  startAt: 480,
  endBy: 1080,
  technicians: 1,
  sites: [site("yard", 30), site("school", 60)],
  travel: [
    [0, 10, 99],
    [10, 0, 99],
    [99, 99, 0],
  ],
  timetables: [
    { from: 1, to: 2, departures: [540, 600, 900], minutes: 20 },
    { from: 0, to: 2, departures: [495, 600, 900], minutes: 25 },
    { from: 2, to: 1, departures: [560, 700, 1050], minutes: 20 },
    { from: 2, to: 0, departures: [560, 700, 1050], minutes: 25 },
  ],
  order: ["yard", "school"],
};

it("names the ferries of a round, the next one, and the last one back", () => {
  const plan = planDay(problem);
  expect(dayLegs(problem, plan)).toEqual([
    { from: null, to: "yard", leave: 480, arrive: 490, ferry: null },
    {
      from: "yard",
      to: "school",
      leave: 530,
      arrive: 560,
      ferry: { departs: 540, lands: 560, next: 600, lastBack: 1050 },
    },
    {
      from: "school",
      to: null,
      leave: 630,
      arrive: 725,
      ferry: { departs: 700, lands: 725, next: 1050, lastBack: 900 },
    },
  ]);
});

it("says when there is none after it, nor any way back that is known", () => {
  const tables = [{ from: 1, to: 2, departures: [540], minutes: 20 }];
  const [, over] = dayLegs({ ...problem, timetables: tables }, planDay({ ...problem, timetables: tables }));
  expect(over?.ferry).toEqual({ departs: 540, lands: 560, next: null, lastBack: null });
});

it("has no way to where one stands, nor to what is behind and gone from the day", () => {
  const here = { ...problem, first: "yard", startAt: 500 };
  const plan = planDay(here);
  expect(dayLegs(here, plan).map((leg) => leg.to)).toEqual(["school", null]);
  const gone = {
    site: "gone",
    arrive: 480,
    begin: 485,
    leave: 490,
    late: 0,
    oneByOne: 0,
    schedule: must(plan.stops[0]).schedule,
  };
  expect(dayLegs(here, { ...plan, stops: [gone, ...plan.stops] }).map((leg) => leg.to)).toEqual(["school", null]);
  expect(dayLegs(here, { stops: [], endAt: 480 })).toEqual([]);
});

it("a ferry has left on as many days as the work before it takes longer than there is", () => {
  // From the yard one leaves at 530 when its 30 minutes take 30; the ferry goes at 540: at up to 40 minutes it is reached.
  const plan = planDay(problem);
  const { ferries } = dayRisk(problem, plan, () => 0.25);
  expect(ferries.map(({ to, departs, next }) => [to, departs, next])).toEqual([
    ["school", 540, 600],
    [null, 700, 1050],
  ]);
  // Lognormal with median 30: P(more than 40) = 1 − Φ(ln(40/30) / 0.25) = 1 − Φ(1.1507) = 0.1249 (standard normal table).
  expect(must(ferries[0]).missed).toBeCloseTo(0.125, 2);
});
