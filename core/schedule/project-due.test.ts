import fc from "fast-check";
import { Temporal } from "temporal-polyfill";

import { must } from "../must";
import { assessDue } from "./assess-due";
import { projectDue } from "./project-due";
import { done, dueInput, every, hours, read } from "./testing/inputs";
import type { Trigger } from "./types";

const days = (input: ReturnType<typeof dueInput>, until: string) => projectDue(input, until).map((one) => one.on);

describe("projectDue", () => {
  it("assumes each duty done on its day", () => {
    expect(
      days(
        dueInput({ triggers: [every(1, "month")] }, { completions: [done("2026-01-31")], today: "2026-02-10" }),
        "2026-05-28",
      ),
    ).toEqual(["2026-02-28", "2026-03-28", "2026-04-28", "2026-05-28"]);
  });
  it("keeps a grid on its grid, and an overdue duty appears once, today", () => {
    const input = dueInput(
      { startOn: "2026-01-01", triggers: [every(1, "week", { basis: "grid" })] },
      { today: "2026-02-10" },
    ); // Thursdays
    expect(days(input, "2026-02-28")).toEqual(["2026-02-10", "2026-02-19", "2026-02-26"]);
  });
  it("restarts every trigger at the one that came first", () => {
    const meters = { hours: read(["2026-01-01", 0], ["2026-02-10", 400]) }; // 10 a day
    const input = dueInput(
      { triggers: [every(12, "day"), hours(150)] },
      { meters, completions: [done("2026-02-01", { hours: 310 })] },
    );
    expect(projectDue(input, "2026-03-10").map((one) => `${one.on} ${one.driver.kind}`)).toEqual([
      "2026-02-13 calendar",
      "2026-02-25 calendar",
      "2026-03-09 calendar",
    ]);
    const faster = dueInput(
      { triggers: [every(12, "day"), hours(100)] },
      { meters, completions: [done("2026-02-01", { hours: 310 })] },
    );
    expect(projectDue(faster, "2026-03-05").map((one) => `${one.on} ${one.driver.kind}`)).toEqual([
      "2026-02-11 meter",
      "2026-02-21 meter",
      "2026-03-03 meter",
    ]);
  });
  it("goes on from today after a meter was passed, by the rate of its last readings, and stops where there is none", () => {
    const meters = { hours: read(["2026-01-01", 0], ["2026-02-05", 350]) };
    expect(days(dueInput({ triggers: [hours(100)] }, { meters }), "2026-03-05")).toEqual([
      "2026-02-10",
      "2026-02-20",
      "2026-03-02",
    ]);
    expect(
      days(
        dueInput({ triggers: [hours(100)] }, { meters: { hours: read(["2025-01-01", 0], ["2025-02-05", 350]) } }),
        "2026-03-05",
      ),
    ).toEqual(["2026-02-10", "2026-02-20", "2026-03-02"]);
    const single = { hours: read(["2026-02-05", 350]) };
    expect(days(dueInput({ startOn: "2026-03-01", triggers: [hours(100)] }, { meters: single }), "2026-12-31")).toEqual(
      [],
    );
  });
  it("lists planned events, and nothing beyond the end", () => {
    const events = ["2026-02-20", "2026-03-06"].map((on) => ({ event: "idle-ahead", on }));
    const input = dueInput({ triggers: [{ kind: "event", event: "idle-ahead" }] }, { events });
    expect(days(input, "2026-03-06")).toEqual(["2026-02-20", "2026-03-06"]);
    expect(days(input, "2026-03-05")).toEqual(["2026-02-20"]);
    expect(days(input, "2026-01-01")).toEqual([]);
  });
  it("refuses an impossible end", () => {
    expect(() => projectDue(dueInput({ triggers: [every(1, "day")] }), "2026-13-01")).toThrow(/until/);
  });
});

/** A second, slow way to the same answer, with the Temporal polyfill as the calendar. */
describe("against Temporal and day-by-day reasoning", () => {
  const day = fc
    .integer({ min: 0, max: 1500 })
    .map((n) => Temporal.PlainDate.from("2023-12-01").add({ days: n }).toString());
  const unit = fc.constantFrom("day", "week", "month", "year" as const);

  it("adds calendar units like Temporal's constrained addition", () => {
    fc.assert(
      fc.property(day, fc.integer({ min: 1, max: 60 }), unit, (on, count, u) => {
        const expected = Temporal.PlainDate.from(on)
          .add({ [`${u}s`]: count }, { overflow: "constrain" })
          .toString();
        expect(assessDue(dueInput({ triggers: [every(count, u as "day")] }, { completions: [done(on)] })).dueOn).toBe(
          expected,
        );
      }),
      { seed: 20261124, numRuns: 400 },
    );
  });

  it("finds the nearest grid day by trying them all", () => {
    fc.assert(
      fc.property(
        day,
        day,
        fc.integer({ min: 1, max: 20 }),
        unit,
        fc.option(fc.integer({ min: 1, max: 7 }), { nil: undefined }),
        (startOn, on, count, u, weekday) => {
          const moved = u === "week" ? weekday : undefined;
          const trigger = { ...every(count, u, { basis: "grid" }), ...(moved ? { weekday: moved } : {}) } as Trigger;
          const start = Temporal.PlainDate.from(startOn);
          const grid: Temporal.PlainDate[] = [];
          for (let k = -1; ; k++) {
            let at = start.add({ [`${u}s`]: (k + 1) * count });
            while (moved && at.dayOfWeek !== moved) at = at.add({ days: 1 });
            grid.push(at);
            // Two grid days past the completion are enough to tell the nearest one and the one after it.
            if (grid.length > 2 && Temporal.PlainDate.compare(must(grid.at(-2)), on) > 0) break;
          }
          const distance = (at: Temporal.PlainDate) => Math.abs(at.until(on, { largestUnit: "days" }).days);
          let nearest = 0;
          grid.forEach((at, i) => {
            if (distance(at) < distance(must(grid[nearest]))) nearest = i;
          });
          expect(assessDue(dueInput({ startOn, triggers: [trigger] }, { completions: [done(on)] })).dueOn).toBe(
            must(grid[nearest + 1]).toString(),
          );
        },
      ),
      { seed: 20261124, numRuns: 300 },
    );
  });

  it("projects what assessing, doing and assessing again gives", () => {
    const trigger = fc.oneof(
      fc
        .record({ count: fc.integer({ min: 3, max: 40 }), grid: fc.boolean() })
        .map(({ count, grid }) => every(count, "day", { basis: grid ? "grid" : "completion" })),
      fc.integer({ min: 20, max: 400 }).map((count) => hours(count)),
    );
    fc.assert(
      fc.property(
        fc.array(trigger, { minLength: 1, maxLength: 3 }),
        fc.integer({ min: 1, max: 30 }),
        (triggers, perDay) => {
          const meters = { hours: read(["2026-01-01", 0], ["2026-02-10", 40 * perDay]) };
          const input = dueInput({ triggers: triggers }, { meters });
          const until = "2026-08-01";
          const expected: string[] = [];
          const completions: ReturnType<typeof done>[] = [];
          let after = Temporal.PlainDate.from(input.today);
          for (;;) {
            const { dueOn } = assessDue({ ...input, completions, today: completions.at(-1)?.on ?? input.today });
            if (dueOn === null) break;
            const on = Temporal.PlainDate.compare(dueOn, after) > 0 ? Temporal.PlainDate.from(dueOn) : after;
            if (Temporal.PlainDate.compare(on, until) > 0) break;
            expected.push(on.toString());
            const ahead = Temporal.PlainDate.from("2026-02-10").until(on, { largestUnit: "days" }).days;
            completions.push(done(on.toString(), { hours: (40 + ahead) * perDay }));
            after = on.add({ days: 1 });
          }
          expect(days(input, until)).toEqual(expected);
        },
      ),
      { seed: 20261124, numRuns: 200 },
    );
  });
});
