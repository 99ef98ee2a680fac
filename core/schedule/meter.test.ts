import { must } from "../must";
import { assessDue } from "./assess-due";
import { done, dueInput, hours, read } from "./testing/inputs";
import { usageRate } from "./usage-rate";

const assess = (...args: Parameters<typeof dueInput>) => assessDue(dueInput(...args));
const tenADay = read(["2026-01-01", 1000], ["2026-01-11", 1100], ["2026-02-10", 1400]);

describe("usageRate", () => {
  it("is the sum of increases over the days between the first and last reading", () => {
    expect(usageRate(tenADay, "2026-02-10")).toBe(10);
  });
  it("counts the value after a replaced meter as increase", () => {
    expect(usageRate(read(["2026-01-01", 900], ["2026-01-06", 950], ["2026-01-11", 30]), "2026-02-10")).toBe(8);
  });
  it("sorts by day and looks only into the window", () => {
    const readings = read(["2026-02-10", 1400], ["2025-01-01", 0], ["2026-02-01", 1310], ["2026-03-01", 9999]);
    expect(usageRate(readings, "2026-02-10")).toBe(10);
    expect(usageRate(readings, "2026-02-10", 9)).toBe(10);
    expect(usageRate(readings, "2026-02-10", 8)).toBeNull();
  });
  it("is null with fewer than two different days, zero for a machine that stands", () => {
    expect(usageRate([], "2026-02-10")).toBeNull();
    expect(usageRate(read(["2026-02-01", 1], ["2026-02-01", 5]), "2026-02-10")).toBeNull();
    expect(usageRate(read(["2026-02-01", 5], ["2026-02-05", 5]), "2026-02-10")).toBe(0);
  });
});

describe("meter from the last completion", () => {
  it("forecasts from the last reading's day and the rate", () => {
    const result = assess({ triggers: [hours(500)] }, { meters: { hours: tenADay } });
    // 400 used since the start's 1,000; 100 left at 10 a day.
    expect(result).toMatchObject({ dueOn: "2026-02-20", state: "later", usedFraction: 0.8 });
    expect(result.perTrigger[0]).toMatchObject({ dueAt: 1500, left: 100, projected: true });
  });

  it("is due on the day of the reading that reached the interval", () => {
    const result = assess({ triggers: [hours(100)] }, { meters: { hours: tenADay } });
    expect(result).toMatchObject({ dueOn: "2026-01-11", state: "overdue" });
    expect(result.perTrigger[0]).toMatchObject({ dueAt: 1100, left: -300, projected: false });
  });

  it("starts at the value noted at the completion, else at the last reading on or before it", () => {
    expect(
      assess(
        { triggers: [hours(500)] },
        { meters: { hours: tenADay }, completions: [done("2026-01-20", { hours: 1190 })] },
      ).perTrigger[0],
    ).toMatchObject({
      left: 290,
      dueAt: 1690,
    });
    expect(
      assess({ triggers: [hours(500)] }, { meters: { hours: tenADay }, completions: [done("2026-01-20")] })
        .perTrigger[0],
    ).toMatchObject({
      left: 200,
      dueAt: 1600,
    });
  });

  it("starts without a completion at the reading at the start, else the first after it, the last before it, 0", () => {
    const from = (startOn: string) =>
      must(assess({ startOn, triggers: [hours(500)] }, { meters: { hours: tenADay } }).perTrigger[0]).dueAt;
    expect(from("2026-01-11")).toBe(1600);
    expect(from("2026-01-05")).toBe(1600);
    expect(from("2026-02-11")).toBe(1900);
    expect(assess({ triggers: [hours(500)] }).perTrigger[0]).toMatchObject({ dueOn: null, left: 500, dueAt: 500 });
  });

  it("counts cumulative use over a replaced meter", () => {
    const meters = { hours: read(["2026-01-01", 900], ["2026-01-11", 980], ["2026-01-21", 20], ["2026-01-31", 120]) };
    // 80 + 20 + 100 = 200 used.
    const result = assess({ triggers: [hours(300)] }, { meters, today: "2026-01-31" });
    expect(result.perTrigger[0]).toMatchObject({ left: 100, dueAt: 220, projected: true });
    expect(result.dueOn).toBe("2026-02-15"); // 200 in 30 days: 15 more days
  });

  it("sees a replacement between a completion's value and the next reading", () => {
    const meters = { hours: read(["2026-01-01", 900], ["2026-01-21", 40]) };
    const result = assess({ triggers: [hours(300)] }, { meters, completions: [done("2026-01-10", { hours: 950 })] });
    expect(must(result.perTrigger[0]).left).toBe(260);
  });

  it("places a value noted on a reading's own day where nothing is counted twice", () => {
    const meters = { hours: read(["2026-01-01", 900], ["2026-01-10", 960], ["2026-01-21", 990]) };
    const early = assess({ triggers: [hours(300)] }, { meters, completions: [done("2026-01-10", { hours: 950 })] });
    expect(must(early.perTrigger[0]).left).toBe(260);
    const late = assess({ triggers: [hours(300)] }, { meters, completions: [done("2026-01-10", { hours: 970 })] });
    expect(must(late.perTrigger[0]).left).toBe(280);
  });

  it("uses the first interval before the first completion, and multiplies both by the site factor unrounded", () => {
    const meters = { hours: tenADay };
    expect(assess({ triggers: [hours(500, { first: 450 })] }, { meters }).dueOn).toBe("2026-02-15");
    expect(
      must(assess({ intervalFactor: 0.9, triggers: [hours(500, { first: 450 })] }, { meters }).perTrigger[0]).left,
    ).toBe(5);
    expect(
      must(
        assess({ intervalFactor: 0.333, triggers: [hours(500)] }, { meters, completions: [done("2026-02-10")] })
          .perTrigger[0],
      ).left,
    ).toBeCloseTo(166.5, 9);
  });

  it("never makes a plan overdue by a stale meter alone", () => {
    const result = assess({ triggers: [hours(500)] }, { meters: { hours: tenADay }, today: "2026-03-20" });
    expect(result).toMatchObject({ dueOn: "2026-03-20", state: "due" });
  });

  it("gives no day when the rate is unknown or zero", () => {
    expect(assess({ triggers: [hours(500)] }, { meters: { hours: read(["2026-01-01", 10]) } })).toMatchObject({
      dueOn: null,
      state: "later",
      driver: null,
    });
    expect(
      assess({ triggers: [hours(500)] }, { meters: { hours: read(["2026-01-01", 10], ["2026-01-09", 10]) } }).dueOn,
    ).toBeNull();
    expect(assess({ triggers: [hours(5e9)] }, { meters: { hours: tenADay } }).dueOn).toBeNull(); // beyond the calendar
  });
});

describe("meter on a grid", () => {
  const meters = { hours: read(["2026-01-01", 0], ["2026-01-31", 300]) };
  const grid = { triggers: [hours(250, { basis: "grid" as const })] };
  const dueAt = (completions: ReturnType<typeof done>[]) =>
    must(assess(grid, { meters, completions, today: "2026-01-31" }).perTrigger[0]).dueAt;

  it("satisfies the nearest point in cumulative use and all before, the start included", () => {
    expect(dueAt([])).toBe(250);
    expect(dueAt([done("2026-01-10", { hours: 90 })])).toBe(250);
    expect(dueAt([done("2026-01-20", { hours: 190 })])).toBe(500);
    expect(dueAt([done("2026-01-31", { hours: 300 })])).toBe(500);
    expect(dueAt([done("2026-01-31", { hours: 400 })])).toBe(750);
  });

  it("has its first point at `first`", () => {
    const plan = { triggers: [hours(250, { basis: "grid" as const, first: 100 })] };
    expect(must(assess(plan, { meters }).perTrigger[0]).dueAt).toBe(100);
    expect(must(assess(plan, { meters, completions: [done("2026-01-12", { hours: 110 })] }).perTrigger[0]).dueAt).toBe(
      350,
    );
  });
});

describe("what the line of use says after a completion", () => {
  const at = (today: string) => ({ today });

  it("a completion without a value counts from the last value on the line, one noted before among them", () => {
    const result = assess(
      { startOn: "2026-01-01", triggers: [hours(21)] },
      {
        meters: { hours: read(["2026-02-24", 1111]) },
        completions: [done("2026-03-25", { hours: 1139 }), done("2026-06-14")],
        ...at("2026-07-10"),
      },
    );
    expect(result).toMatchObject({ state: "later", dueOn: null });
    expect(result.perTrigger[0]).toMatchObject({ dueAt: 1160, left: 21 });
  });

  it("two completions of one day say the same in either order", () => {
    const both = [done("2026-02-21", { hours: 405 }), done("2026-02-21")];
    for (const completions of [both, [...both].reverse()])
      expect(assess({ hardStop: true, triggers: [hours(202)] }, { completions, ...at("2026-03-01") })).toMatchObject({
        state: "later",
        dueOn: null,
        perTrigger: [{ dueAt: 607, left: 202 }],
      });
  });

  it("waiting alone makes nothing less urgent: the rate is that of the last readings", () => {
    const meters = { hours: read(["2026-02-24", 0], ["2026-03-24", 120]) };
    const plan = { startOn: "2026-02-12", triggers: [hours(244)] };
    expect(assess(plan, { meters, ...at("2026-03-24") }).dueOn).toBe("2026-04-22");
    expect(assess(plan, { meters, ...at("2026-08-29") })).toMatchObject({ dueOn: "2026-08-29", state: "due" });
    // 450 days between the readings: no two of them in any ninety.
    const rare = { hours: read(["2025-01-01", 0], ["2026-03-27", 450]) };
    const found = assess({ startOn: "2026-03-27", triggers: [hours(100)] }, { meters: rare, ...at("2026-04-01") });
    expect(found.dueOn).toBe("2026-07-05");
    expect(found.because.join(" ")).toContain(
      "over the whole history (fewer than two reading days in its last 90 days)",
    );
  });

  it("what was read before the start, or before the last completion, reaches no target", () => {
    const before = { hours: read(["2025-06-01", 0], ["2025-12-01", 900]) };
    const result = assess({ triggers: [hours(100)] }, { meters: before });
    expect(result.state).not.toBe("overdue");
    expect(result.perTrigger[0]).toMatchObject({ dueAt: 1000, left: 100, projected: true });
  });

  it("a reading of the future is not known yet", () => {
    const meters = { hours: read(["2026-01-01", 0], ["2026-02-01", 90], ["2026-05-01", 20]) };
    const without = { hours: meters.hours.slice(0, 2) };
    expect(assess({ triggers: [hours(100)] }, { meters })).toEqual(
      assess({ triggers: [hours(100)] }, { meters: without }),
    );
  });

  it("an hour meter counts at most twenty-four a day", () => {
    const meters = { hours: read(["2026-02-01", 0], ["2026-02-10", 900]) };
    const result = assess({ startOn: "2026-02-10", triggers: [hours(240, { hours: true })] }, { meters });
    expect(result.dueOn).toBe("2026-02-20");
    expect(assess({ startOn: "2026-02-10", triggers: [hours(240)] }, { meters }).dueOn).toBe("2026-02-13");
  });

  it("a counter that was read and reset on the day of the work counts from the reset", () => {
    const counter = { hours: read(["2026-01-10", 12_110], ["2026-01-20", 6810]) };
    for (const meters of [counter, { hours: [...read(["2026-01-01", 9000]), ...counter.hours] }]) {
      const result = assess(
        { triggers: [hours(12_000)] },
        { meters, completions: [done("2026-01-10", { hours: 0 })], ...at("2026-01-20") },
      );
      expect(result.perTrigger[0]).toMatchObject({ left: 5190, projected: true });
    }
  });

  it("values of one day count by their instants, else in the order of least use", () => {
    const day = "2026-01-05";
    const first = { on: "2026-01-01", value: 100 };
    const use = (...values: { on: string; value: number; at?: string }[]) =>
      500 -
      must(must(assess({ triggers: [hours(500)] }, { meters: { hours: [first, ...values] } }).perTrigger[0]).left);
    const [high, low] = [
      { on: day, value: 130 },
      { on: day, value: 120 },
    ];
    expect([use(high, low), use(low, high)]).toEqual([30, 30]);
    // Read in this order it was a new meter.
    expect(use({ ...low, at: "2026-01-05T18:00:00Z" }, { ...high, at: "2026-01-05T08:00:00Z" })).toBe(150);
    expect(use({ on: day, value: 5 }, high)).toBe(35);
  });
});
