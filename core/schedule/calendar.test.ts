import { assessDue } from "./assess-due";
import { done, dueInput, every } from "./testing/inputs";

/** Hand-worked cases; the calendar arithmetic itself is checked against a reference library in calendar-grid.test.ts. */
const dueOn = (...args: Parameters<typeof dueInput>) => assessDue(dueInput(...args)).dueOn;

describe("from the last completion", () => {
  it("counts from the start before the first completion, and from the last one after it", () => {
    const plan = { startOn: "2026-01-10", triggers: [every(14, "day")] };
    expect(dueOn(plan)).toBe("2026-01-24");
    expect(dueOn(plan, { completions: [done("2026-02-01"), done("2026-01-20")] })).toBe("2026-02-15");
  });

  it("adds months in one addition, clamped to the month's end", () => {
    const plan = { triggers: [every(1, "month")] };
    expect(dueOn(plan, { completions: [done("2026-01-31")] })).toBe("2026-02-28");
    expect(dueOn(plan, { completions: [done("2026-02-28")] })).toBe("2026-03-28");
    expect(dueOn({ triggers: [every(1, "year")] }, { completions: [done("2024-02-29")] })).toBe("2025-02-28");
  });

  it("uses the first interval only until something was done", () => {
    const plan = { startOn: "2026-01-15", triggers: [every(6, "month", { first: { every: 3, unit: "month" } })] };
    expect(dueOn(plan)).toBe("2026-04-15");
    expect(dueOn(plan, { completions: [done("2026-04-15")] })).toBe("2026-10-15");
  });

  it("moves the due day forward to the weekday", () => {
    // 2026-02-10 is a Tuesday; a week later is Tuesday 17, moved to Friday 20.
    const plan = { triggers: [every(1, "week", { weekday: 5 })] };
    expect(dueOn(plan, { completions: [done("2026-02-10")] })).toBe("2026-02-20");
    expect(dueOn(plan, { completions: [done("2026-02-13")] })).toBe("2026-02-20");
  });

  it("ignores completions of other plans", () => {
    expect(dueOn({ triggers: [every(7, "day")] }, { completions: [{ planId: "other", on: "2026-02-01" }] })).toBe(
      "2026-01-08",
    );
  });
});

describe("on a fixed grid", () => {
  const monthly = { startOn: "2026-01-31", triggers: [every(1, "month", { basis: "grid" as const })] };

  it("lays every grid day out from the start in one addition", () => {
    expect(dueOn(monthly)).toBe("2026-02-28");
    expect(dueOn(monthly, { completions: [done("2026-02-28")] })).toBe("2026-03-31");
    expect(dueOn(monthly, { completions: [done("2026-03-31")] })).toBe("2026-04-30");
  });

  it("lets a completion satisfy the nearest grid day and all before, the earlier on a tie", () => {
    const tenDays = { startOn: "2026-01-01", triggers: [every(10, "day", { basis: "grid" as const })] }; // 11, 21, 31 Jan
    expect(dueOn(tenDays, { completions: [done("2026-01-06")] })).toBe("2026-01-11"); // as near to the start: the start
    expect(dueOn(tenDays, { completions: [done("2026-01-07")] })).toBe("2026-01-21");
    expect(dueOn(tenDays, { completions: [done("2026-01-16")] })).toBe("2026-01-21"); // tie: the earlier one
    expect(dueOn(tenDays, { completions: [done("2026-01-17")] })).toBe("2026-01-31");
    expect(dueOn(tenDays, { completions: [done("2026-03-30")] })).toBe("2026-04-11"); // 1 April is the nearest
    expect(dueOn(tenDays, { completions: [done("2025-06-01")] })).toBe("2026-01-11");
  });

  it("starts a grid with a first interval, then steps from there", () => {
    const plan = {
      startOn: "2026-01-01",
      triggers: [every(6, "month", { basis: "grid" as const, first: { every: 3, unit: "month" as const } })],
    };
    expect(dueOn(plan)).toBe("2026-04-01");
    expect(dueOn(plan, { completions: [done("2026-04-03")] })).toBe("2026-10-01");
    expect(dueOn(plan, { completions: [done("2026-10-03")] })).toBe("2027-04-01");
  });

  it("judges nearness by the days that the weekday moved", () => {
    // Start Thursday 1 Jan. Grid Thursdays 8, 15, 22 Jan … moved to Mondays 12, 19, 26 Jan; the start to Monday 5.
    const plan = {
      startOn: "2026-01-01",
      triggers: [every(1, "week", { basis: "grid" as const, weekday: 1 as const })],
    };
    expect(dueOn(plan)).toBe("2026-01-12");
    expect(dueOn(plan, { completions: [done("2026-01-15")] })).toBe("2026-01-19"); // 3 days after 12, 4 before 19
    expect(dueOn(plan, { completions: [done("2026-01-16")] })).toBe("2026-01-26");
  });

  it("stays due on the first grid day that was missed", () => {
    const result = assessDue(dueInput(monthly, { today: "2026-06-15" }));
    expect(result).toMatchObject({ dueOn: "2026-02-28", state: "overdue", daysLeft: -107 });
  });
});

describe("site factor", () => {
  it("scales the length in days laid out from the anchor, rounded down", () => {
    expect(dueOn({ intervalFactor: 0.5, triggers: [every(1, "year")] }, { completions: [done("2026-01-15")] })).toBe(
      "2026-07-16",
    ); // 182
    expect(dueOn({ intervalFactor: 0.5, startOn: "2024-01-15", triggers: [every(1, "year")] })).toBe("2024-07-16"); // 366 → 183
    expect(dueOn({ intervalFactor: 0.7, startOn: "2026-01-01", triggers: [every(90, "day")] })).toBe("2026-03-05"); // 63, not 62
  });

  it("never goes below one day, and scales the first interval too", () => {
    expect(dueOn({ intervalFactor: 0.1, startOn: "2026-01-01", triggers: [every(1, "day")] })).toBe("2026-01-02");
    const first = every(6, "month", { first: { every: 3, unit: "month" } });
    expect(dueOn({ intervalFactor: 0.5, startOn: "2026-01-01", triggers: [first] })).toBe("2026-02-15"); // 90 → 45
  });

  it("computes a grid's step once, from the start", () => {
    const plan = {
      intervalFactor: 0.5,
      startOn: "2026-01-01",
      triggers: [every(1, "month", { basis: "grid" as const })],
    }; // 31 → 15
    expect(dueOn(plan)).toBe("2026-01-16");
    expect(dueOn(plan, { completions: [done("2026-01-16")] })).toBe("2026-01-31");
    expect(dueOn(plan, { completions: [done("2026-01-31")] })).toBe("2026-02-15");
  });

  it("changes nothing at 1", () => {
    const plan = { startOn: "2026-01-31", triggers: [every(1, "month", { basis: "grid" as const })] };
    expect(dueOn({ ...plan, intervalFactor: 1 }, { completions: [done("2026-02-28")] })).toBe("2026-03-31");
  });
});
