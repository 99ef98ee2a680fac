import type { DayEventRow } from "@db";

import { nextActs, type TodayDuty, todayStops } from "./today-stops";

type Happened = [DayEventRow["type"], string | null];

const stop = (site: string, arrive: number, jobs: string[]) => ({
  site,
  arrive,
  begin: arrive + 5,
  leave: arrive + 60,
  late: 0,
  oneByOne: 50,
  schedule: {
    status: "optimal" as const,
    makespan: 50,
    lowerBound: 50,
    phases: jobs.map((job, i) => ({
      job,
      index: 0,
      start: arrive + 10 * (jobs.length - i),
      end: arrive + 10 * (jobs.length - i) + 5,
    })),
  },
});
const duty = (dutyId: string, siteId: string, more: Partial<TodayDuty> = {}): TodayDuty => ({
  dutyId,
  title: `Clean ${dutyId}`,
  machineName: `Machine ${dutyId}`,
  siteId,
  sheetId: null,
  done: false,
  ...more,
});
const plan = { stops: [stop("a", 480, ["1", "2/pan"]), stop("b", 560, ["3"]), stop("c", 640, ["4"])] };
const duties = [duty("1", "a"), duty("2", "a"), duty("3", "b"), duty("4", "c")];
const at = (events: Happened[], own = duties) =>
  todayStops(
    plan,
    events.map(([type, siteId]) => ({ type, siteId })),
    own,
    (id) => `Site ${id}`,
  );
const states = (events: Happened[]): string[] => at(events).map((one) => one.state);

it("says what is behind, where one is, and what comes next", () => {
  expect(states([])).toEqual(["next", "later", "later"]);
  expect(states([["arrived", "a"]])).toEqual(["here", "next", "later"]);
  expect(
    states([
      ["arrived", "a"],
      ["left", "a"],
    ]),
  ).toEqual(["done", "next", "later"]);
  // Out of turn, left out, and come to again.
  expect(
    states([
      ["arrived", "b"],
      ["left", "b"],
      ["skipped", "a"],
    ]),
  ).toEqual(["skipped", "done", "next"]);
  expect(
    states([
      ["arrived", "a"],
      ["left", "a"],
      ["arrived", "a"],
    ]),
  ).toEqual(["here", "next", "later"]);
});

it("lists duties in the order in which they are begun, what came on since last", () => {
  const [first] = at([], [...duties, duty("5", "a")]);
  expect(first?.duties.map((one) => one.dutyId)).toEqual(["2", "1", "5"]);
});

it("has the next sheet one tap away from everywhere, and the day's next step beside it", () => {
  const acts = (status: "open" | "started" | "ended", events: Happened[], own = duties) => {
    const { main, sheet } = nextActs(status, at(events, own));
    return [main.kind, main.kind === "sheet" ? main.to : null, sheet?.to ?? null];
  };
  expect(acts("open", [])).toEqual(["start", null, "/duties/2"]);
  expect(acts("started", [])).toEqual(["arrive", null, "/duties/2"]);
  expect(acts("started", [["arrived", "a"]])).toEqual(["sheet", "/duties/2", null]);
  const open = duties.map((one) => (one.dutyId === "1" ? { ...one, sheetId: "s1" } : one));
  expect(acts("started", [["arrived", "a"]], open)).toEqual(["sheet", "/sheet/s1", null]);
  const done = duties.map((one) => (one.siteId === "a" ? { ...one, sheetId: null, done: true } : one));
  expect(acts("started", [["arrived", "a"]], done)).toEqual(["leave", null, null]);
  const all: Happened[] = ["a", "b", "c"].flatMap((one): Happened[] => [
    ["arrived", one],
    ["left", one],
  ]);
  expect(acts("started", all)).toEqual(["end", null, null]);
  expect(acts("ended", all)).toEqual(["evening", null, null]);
  expect(nextActs("open", []).main.kind).toBe("plan");
});
