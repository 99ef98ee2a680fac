import fc from "fast-check";

import { addDays } from "../days/add-days";
import { daysBetween } from "../days/days-between";
import { must } from "../must";
import { assessDue } from "./assess-due";
import { firstDays, startingOn } from "./first-days";
import type { Plan, Trigger } from "./types";

const START = "2026-06-01";
const every = (n: number, unit: "day" | "week" | "month" | "year", more: Partial<Trigger> = {}): Trigger =>
  ({ kind: "calendar", every: n, unit, basis: "completion", ...more }) as Trigger;
const plan = (id: string, ...triggers: Trigger[]): Plan => ({ id, startOn: START, triggers });
const duty = (one: Plan, minutes = 30) => ({ plan: one, minutes });
const days = (found: ReturnType<typeof firstDays>): (string | null)[] => found.map((one) => one.on);
/** When a plan with such triggers is due: asked of the engine, not of what is tested. */
const dueOn = (one: Plan, triggers: Trigger[]): string | null =>
  assessDue({
    plan: { ...one, triggers: triggers.filter((trigger) => trigger.kind === "calendar") },
    completions: [],
    meters: {},
    readings: {},
    events: [],
    today: START,
  }).dueOn;

it("leaves a single duty on its day, and puts three of a month on three days, none late", () => {
  expect(days(firstDays([duty(plan("a", every(1, "month")))]))).toEqual(["2026-07-01"]);
  const three = ["a", "b", "c"].map((id) => duty(plan(id, every(1, "month"))));
  expect(days(firstDays(three))).toEqual(["2026-07-01", "2026-06-30", "2026-06-29"]);
});

it("has nothing to choose for what is daily, fixed or by no calendar", () => {
  const found = firstDays([
    duty(plan("daily", every(1, "day"))),
    duty(plan("other", every(1, "day"))),
    duty(plan("grid", every(1, "month", { basis: "grid" }))),
    duty(plan("monday", every(4, "week", { weekday: 1 }))),
    duty(plan("meter", { kind: "meter", meter: "hours", every: 100, basis: "completion" })),
  ]);
  expect(days(found)).toEqual(["2026-06-02", "2026-06-02", "2026-07-01", "2026-06-29", null]);
  expect(must(found[4]).triggers).toEqual([{ kind: "meter", meter: "hours", every: 100, basis: "completion" }]);
});

it("keeps clear of other work and of closed days where it can", () => {
  const monthly = duty(plan("a", every(1, "month")));
  expect(days(firstDays([monthly], { load: { "2026-07-01": 60, "2026-06-30": 20 } }))).toEqual(["2026-06-29"]);
  const calendar = { closedWeekdays: [6, 7], closed: [{ from: "2026-06-29", to: "2026-07-05" }] };
  expect(days(firstDays([monthly], { calendar }))).toEqual(["2026-06-26"]);
  const always = { closedWeekdays: [], closed: [{ from: "2026-01-01", to: "2027-01-01" }] };
  expect(days(firstDays([monthly], { calendar: always }))).toEqual(["2026-07-01"]);
});

it("is due by the meter as before, whichever comes first", () => {
  const meter: Trigger = { kind: "meter", meter: "hours", every: 100, basis: "completion" };
  const [, second] = firstDays([duty(plan("a", every(1, "month"))), duty(plan("b", meter, every(1, "month")))]);
  expect(must(second).triggers[0]).toEqual(meter);
  expect(must(second).on).toBe("2026-06-30");
});

it("begins on a day that a person chose, earlier or later than it would, and says why not on others", () => {
  const monthly = plan("a", every(1, "month"));
  for (const on of ["2026-06-02", "2026-06-20", "2026-09-30"]) expect(dueOn(monthly, startingOn(monthly, on))).toBe(on);
  expect(() => startingOn(monthly, START)).toThrow(/must come after 2026-06-01/);
  expect(() => startingOn(plan("e", { kind: "event", event: "moved" }), "2026-07-01")).toThrow(/No calendar/);
});

it("refuses minutes that cannot be", () => {
  expect(() => firstDays([duty(plan("a", every(1, "day")), -1)])).toThrow(/duties\[0\].minutes/);
});

const drawn = fc.array(
  fc.record({
    n: fc.integer({ min: 1, max: 60 }),
    unit: fc.constantFrom("day" as const, "week" as const, "month" as const),
    factor: fc.constantFrom(undefined, 0.5, 0.75, 0.9, 1.25),
    minutes: fc.integer({ min: 0, max: 200 }),
  }),
  { minLength: 1, maxLength: 12 },
);

it("keeps its promises for any duties: at most a quarter early, never late, as its triggers say, no day fuller than before", () => {
  fc.assert(
    fc.property(drawn, (list) => {
      const duties = list.map(({ n, unit, factor, minutes }, i) => ({
        plan: { ...plan(`p${i}`, every(n, unit)), ...(factor === undefined ? {} : { intervalFactor: factor }) },
        minutes,
      }));
      const found = firstDays(duties);
      const fullest = (key: "on" | "latest"): number => {
        const sums = new Map<string, number>();
        found.forEach((one, i) => {
          const day = must(one[key]);
          sums.set(day, (sums.get(day) ?? 0) + must(duties[i]).minutes);
        });
        return Math.max(...sums.values());
      };
      found.forEach((one, i) => {
        const { plan: of } = must(duties[i]);
        const latest = must(dueOn(of, of.triggers));
        const on = must(one.on);
        expect(one.latest).toBe(latest);
        expect(on <= latest).toBe(true);
        expect(on >= addDays(latest, -Math.floor(daysBetween(START, latest) * 0.25))).toBe(true);
        const due = must(dueOn(of, one.triggers));
        expect(due <= on && due >= addDays(on, -1)).toBe(true);
      });
      expect(fullest("on")).toBeLessThanOrEqual(fullest("latest"));
    }),
  );
});
