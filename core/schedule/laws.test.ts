import fc from "fast-check";

import { addDays } from "../days/add-days";
import { must } from "../must";
import { draws } from "../testing/draws";
import { assessDue } from "./assess-due";
import type { DueInput, DueState, Trigger } from "./types";

/** What holds for every duty, whatever its rules: said by the rules themselves, not read off the code. */
const FIRST = "2026-01-01";
const TODAY = "2026-07-01";
const onDay = fc.integer({ min: -40, max: 181 }).map((n) => addDays(FIRST, n));
const calendar: fc.Arbitrary<Trigger> = fc
  .record({
    every: fc.integer({ min: 1, max: 9 }),
    unit: fc.constantFrom("day" as const, "week" as const, "month" as const),
    basis: fc.constantFrom("completion" as const, "grid" as const),
    weekday: fc.option(fc.integer({ min: 1, max: 7 }), { nil: undefined }),
  })
  .map(({ weekday, ...rest }) => ({
    kind: "calendar",
    ...rest,
    ...(rest.unit === "week" && weekday ? { weekday: weekday as 1 } : {}),
  }));
const meter: fc.Arbitrary<Trigger> = fc
  .record({ every: fc.integer({ min: 1, max: 400 }), basis: fc.constantFrom("completion" as const, "grid" as const) })
  .map((rest) => ({ kind: "meter", meter: "h", ...rest }));
const value = fc.record({ on: onDay, value: fc.integer({ min: 0, max: 900 }) });
const input = (triggers: fc.Arbitrary<Trigger[]>): fc.Arbitrary<DueInput> =>
  fc
    .record({
      triggers,
      factor: fc.constantFrom(1, 0.5, 0.7, 1.5),
      readings: fc.array(value, { maxLength: 6 }),
      temperatures: fc.array(value, { maxLength: 5 }),
      completions: fc.array(
        fc.record({ on: onDay, h: fc.option(fc.integer({ min: 0, max: 900 }), { nil: undefined }) }),
        { maxLength: 4 },
      ),
      events: fc.array(onDay, { maxLength: 3 }),
    })
    .map((drawn) => ({
      plan: { id: "p", startOn: FIRST, triggers: drawn.triggers, intervalFactor: drawn.factor },
      completions: drawn.completions.map(({ on, h }) => ({
        planId: "p",
        on,
        ...(h === undefined ? {} : { meters: { h } }),
      })),
      meters: { h: drawn.readings },
      readings: { t: drawn.temperatures },
      events: drawn.events.map((on) => ({ event: "e", on })),
      today: TODAY,
    }));
const some = fc.array(
  fc.oneof(
    calendar,
    meter,
    fc.constant<Trigger>({ kind: "event", event: "e" }),
    fc.constant<Trigger>({ kind: "condition", reading: "t", above: 500 }),
  ),
  { minLength: 1, maxLength: 3 },
);
const runs = { numRuns: draws(300, 10_000) };

it("nothing is due before it was last done, nor before it began", () => {
  fc.assert(
    fc.property(input(fc.array(fc.oneof(calendar, meter), { minLength: 1, maxLength: 3 })), (drawn) => {
      const { dueOn } = assessDue(drawn);
      const [first, ...rest] = drawn.completions.map((one) => one.on);
      const since = first === undefined ? FIRST : rest.reduce((a, b) => (a > b ? a : b), first);
      if (dueOn !== null) expect(dueOn >= since).toBe(true);
    }),
    runs,
  );
});

it("the order of lists never matters", () => {
  fc.assert(
    fc.property(input(some), fc.infiniteStream(fc.nat(1000)), (drawn, stream) => {
      const key = (): number => must(stream.next().value as number | undefined);
      const shuffled = <One>(list: readonly One[]): One[] =>
        list
          .map((one) => ({ one, at: key() }))
          .sort((a, b) => a.at - b.at)
          .map(({ one }) => one);
      const other: DueInput = {
        ...drawn,
        completions: shuffled(drawn.completions),
        meters: { h: shuffled(must(drawn.meters["h"])) },
        readings: { t: shuffled(must(drawn.readings["t"])) },
        events: shuffled(drawn.events),
      };
      const { because: _, ...first } = assessDue(drawn);
      const { because: __, ...second } = assessDue(other);
      expect(second).toEqual(first);
    }),
    runs,
  );
});

const URGENCY: DueState[] = ["later", "notice", "warning", "due", "overdue", "stopped"];

it("waiting alone makes nothing less urgent", () => {
  fc.assert(
    fc.property(input(some), fc.integer({ min: 1, max: 200 }), (drawn, days) => {
      const before = assessDue(drawn);
      const after = assessDue({ ...drawn, today: addDays(TODAY, days) });
      expect(URGENCY.indexOf(after.state)).toBeGreaterThanOrEqual(URGENCY.indexOf(before.state));
    }),
    runs,
  );
});

it("null where something is optional is nothing, and a list or record that is none is told by its name", () => {
  const plain: DueInput = {
    plan: { id: "p", startOn: FIRST, triggers: [{ kind: "calendar", every: 2, unit: "week", basis: "grid" }] },
    completions: [],
    meters: {},
    readings: {},
    events: [],
    today: TODAY,
  };
  const nulls = JSON.parse(
    JSON.stringify({
      ...plain,
      plan: {
        ...plain.plan,
        notice: null,
        warning: null,
        intervalFactor: null,
        hardStop: null,
        triggers: [{ ...must(plain.plan.triggers[0]), first: null, weekday: null }],
      },
      forecasts: null,
    }),
  ) as DueInput;
  expect(assessDue(nulls).dueOn).toBe(assessDue(plain).dueOn);
  const wrong: [Partial<Record<keyof DueInput, unknown>>, string][] = [
    [{ plan: null }, "plan"],
    [{ completions: null }, "completions"],
    [{ completions: 7 }, "completions"],
    [{ completions: [null] }, "completions[0]"],
    [{ meters: [] }, "meters"],
    [{ meters: { h: 3 } }, "meters.h"],
    [{ meters: { h: [null] } }, "meters.h[0]"],
    [{ readings: null }, "readings"],
    [{ events: {} }, "events"],
    [{ events: [null] }, "events[0]"],
    [{ completions: [{ planId: "p", on: "2026-07-02" }] }, "completions[0].on"],
  ];
  for (const [part, path] of wrong)
    expect(() => assessDue({ ...plain, ...part } as DueInput)).toThrow(
      expect.objectContaining({ name: "CoreError", path }) as Error,
    );
});
