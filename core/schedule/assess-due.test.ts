import { CoreError } from "../errors";
import { assessDue } from "./assess-due";
import { creditCovered } from "./credit-covered";
import { done, dueInput, every, hours, read } from "./testing/inputs";
import type { Trigger } from "./types";

const assess = (...args: Parameters<typeof dueInput>) => assessDue(dueInput(...args));

describe("events and conditions", () => {
  const event: Trigger = { kind: "event", event: "after-run" };

  it("is due on the earliest event after the last completion, planned ones included", () => {
    const events = ["2026-02-12", "2026-02-03", "2026-02-08"].map((on) => ({ event: "after-run", on }));
    expect(assess({ triggers: [event] }, { events }).dueOn).toBe("2026-02-03");
    expect(assess({ triggers: [event] }, { events, completions: [done("2026-02-03")] }).dueOn).toBe("2026-02-08");
    expect(assess({ triggers: [event] }, { events, completions: [done("2026-02-08")] })).toMatchObject({
      dueOn: "2026-02-12",
      state: "warning",
      usedFraction: null,
    });
    expect(assess({ triggers: [event] }, { events, completions: [done("2026-02-12")] }).dueOn).toBeNull();
    expect(assess({ triggers: [event] }, { events: [{ event: "other", on: "2026-02-03" }] }).dueOn).toBeNull();
  });

  it("is due on the first day of the current unbroken run strictly beyond the limit", () => {
    const condition: Trigger = { kind: "condition", reading: "gap", above: 0.02 };
    const readings = {
      gap: read(["2026-02-01", 0.03], ["2026-02-02", 0.02], ["2026-02-05", 0.021], ["2026-02-07", 0.05]),
    };
    expect(assess({ triggers: [condition] }, { readings }).dueOn).toBe("2026-02-05");
    expect(assess({ triggers: [condition] }, { readings, completions: [done("2026-02-05")] }).dueOn).toBe("2026-02-07"); // same-day readings are as found
    expect(assess({ triggers: [condition] }, { readings, completions: [done("2026-02-07")] }).dueOn).toBeNull();
    expect(assess({ triggers: [{ kind: "condition", reading: "gap", below: 0.02 }] }, { readings }).dueOn).toBeNull();
  });

  it("takes either side of a band", () => {
    const band: Trigger = { kind: "condition", reading: "t", below: -20, above: -15 };
    expect(
      assess({ triggers: [band] }, { readings: { t: read(["2026-02-01", -21], ["2026-02-02", -12]) } }).dueOn,
    ).toBe("2026-02-01");
    expect(
      assess({ triggers: [band] }, { readings: { t: read(["2026-02-01", -20], ["2026-02-02", -15]) } }).dueOn,
    ).toBeNull();
  });
});

describe("several triggers", () => {
  it("lets the earliest win and names it", () => {
    const triggers = [every(1, "year"), hours(500)];
    const meters = { hours: read(["2026-01-01", 1000], ["2026-02-10", 1400]) };
    const result = assess({ triggers }, { meters });
    expect(result.driver).toBe(triggers[1]);
    expect(result.dueOn).toBe("2026-02-20");
    expect(result.perTrigger.map((one) => one.dueOn)).toEqual(["2027-01-01", "2026-02-20"]);
    expect(result.because.join(" ")).toContain("The earliest of 2 rules counts: 2026-02-20.");
  });
  it("takes the first listed on a tie", () => {
    const triggers = [every(2, "week"), every(14, "day")];
    expect(assess({ triggers }).driver).toBe(triggers[0]);
  });
});

describe("alerts and state", () => {
  it("defaults to 2 days or 10 %, and 7 days or 25 %, whichever is later", () => {
    // A year: 2 and 7 days. Ten days: 1 and 2 days. One day: none.
    expect(assess({ triggers: [every(365, "day")] })).toMatchObject({
      dueOn: "2027-01-01",
      warningFrom: "2026-12-30",
      noticeFrom: "2026-12-25",
    });
    expect(assess({ triggers: [every(10, "day")] })).toMatchObject({
      dueOn: "2026-01-11",
      warningFrom: "2026-01-10",
      noticeFrom: "2026-01-09",
    });
    expect(assess({ triggers: [every(1, "day")] })).toMatchObject({
      dueOn: "2026-01-02",
      warningFrom: "2026-01-02",
      noticeFrom: "2026-01-02",
    });
  });
  it("lets a given lead replace its default", () => {
    const plan = { triggers: [every(100, "day")], notice: { days: 30 }, warning: { fraction: 0.29 } };
    expect(assess(plan)).toMatchObject({ dueOn: "2026-04-11", warningFrom: "2026-03-13", noticeFrom: "2026-03-12" });
    expect(assess({ triggers: [every(100, "day")], notice: { days: 30, fraction: 0.1 } }).noticeFrom).toBe(
      "2026-04-01",
    );
  });
  it("gives events days only", () => {
    const result = assess(
      { triggers: [{ kind: "event", event: "e" }], warning: { fraction: 0.5 } },
      { events: [{ event: "e", on: "2026-02-20" }] },
    );
    expect(result).toMatchObject({ warningFrom: "2026-02-20", noticeFrom: "2026-02-13" });
  });
  it.each([
    ["2026-03-22", "later"],
    ["2026-03-25", "notice"],
    ["2026-03-30", "warning"],
    ["2026-04-01", "due"],
    ["2026-04-02", "overdue"],
  ])("on %s is %s", (today, state) => {
    expect(assess({ triggers: [every(90, "day")] }, { today }).state).toBe(state);
  });
  it("stops the machine with a hard stop, but only past the day", () => {
    expect(assess({ triggers: [every(14, "day")], hardStop: true }, { today: "2026-01-15" }).state).toBe("due");
    expect(assess({ triggers: [every(14, "day")], hardStop: true }, { today: "2026-01-16" }).state).toBe("stopped");
  });
  it("measures the used share of the interval", () => {
    expect(assess({ triggers: [every(10, "day")] }, { today: "2026-01-06" }).usedFraction).toBe(0.5);
    expect(assess({ triggers: [every(10, "day")] }, { today: "2026-01-21" }).usedFraction).toBe(2);
  });
});

describe("creditCovered", () => {
  it("copies completions to covered plans transitively, once, meters included, also in a circle", () => {
    const plans = [
      { id: "year", covers: ["month"] },
      { id: "month", covers: ["week", "year"] },
      { id: "week", covers: [] },
    ];
    const credited = creditCovered(plans, [
      { planId: "year", on: "2026-02-01", meters: { hours: 5 } },
      { planId: "week", on: "2026-02-09" },
    ]);
    expect(credited.map((one) => `${one.planId} ${one.on} ${one.meters?.hours ?? "-"}`).sort()).toEqual([
      "month 2026-02-01 5",
      "week 2026-02-01 5",
      "week 2026-02-09 -",
      "year 2026-02-01 5",
    ]);
  });
});

describe("bad input", () => {
  const bad: [string, Parameters<typeof dueInput>, string][] = [
    ["zero interval", [{ triggers: [every(0, "day")] }], "plan.triggers[0].every"],
    ["negative interval", [{ triggers: [every(-3, "day")] }], "plan.triggers[0].every"],
    ["half a month", [{ triggers: [every(0.5, "month")] }], "plan.triggers[0].every"],
    ["not a number", [{ triggers: [hours(NaN)] }], "plan.triggers[0].every"],
    ["infinite", [{ triggers: [hours(Infinity)] }], "plan.triggers[0].every"],
    ["zero first", [{ triggers: [hours(5, { first: 0 })] }], "plan.triggers[0].first"],
    ["weekday without weeks", [{ triggers: [every(1, "month", { weekday: 1 })] }], "plan.triggers[0].weekday"],
    ["weekday 8", [{ triggers: [every(1, "week", { weekday: 8 as 7 })] }], "plan.triggers[0].weekday"],
    ["impossible start", [{ startOn: "2026-02-30", triggers: [every(1, "day")] }], "plan.startOn"],
    ["sloppy date", [{ triggers: [every(1, "day")] }, { today: "2026-2-1" }], "today"],
    [
      "impossible completion",
      [{ triggers: [every(1, "day")] }, { completions: [{ planId: "x", on: "2025-02-29" }] }],
      "completions[0].on",
    ],
    [
      "negative meter",
      [{ triggers: [hours(5)] }, { meters: { hours: read(["2026-01-01", -1]) } }],
      "meters.hours[0].value",
    ],
    [
      "reading not a number",
      [{ triggers: [hours(5)] }, { readings: { gap: read(["2026-01-01", NaN]) } }],
      "readings.gap[0].value",
    ],
    ["condition without limit", [{ triggers: [{ kind: "condition", reading: "gap" }] }], "plan.triggers[0]"],
    ["no trigger", [{ triggers: [] }], "plan.triggers"],
    ["negative lead", [{ triggers: [every(1, "day")], notice: { days: -1 } }], "plan.notice.days"],
    ["lead beyond the interval", [{ triggers: [every(1, "day")], notice: { fraction: 25 } }], "plan.notice.fraction"],
    ["zero factor", [{ triggers: [every(1, "day")], intervalFactor: 0 }], "plan.intervalFactor"],
    ["unknown kind", [{ triggers: [{ kind: "moon" } as unknown as Trigger] }], "plan.triggers[0].kind"],
    ["beyond the calendar", [{ triggers: [every(9000, "year")] }], "every"],
    ["an unknown unit", [{ triggers: [every(1, "fortnight" as "week")] }], "plan.triggers[0].unit"],
    [
      "an unknown unit of the first interval",
      [{ triggers: [every(1, "week"), every(1, "week", { first: { every: 1, unit: "moon" as "week" } })] }],
      "plan.triggers[1].first.unit",
    ],
    [
      "a first interval of nothing",
      [{ triggers: [every(1, "week", { first: { every: 0, unit: "day" } })] }],
      "plan.triggers[0].first.every",
    ],
    ["an unknown basis", [{ triggers: [every(1, "day", { basis: "moon" as "grid" })] }], "plan.triggers[0].basis"],
    ["a meter's unknown basis", [{ triggers: [hours(5, { basis: "x" as "grid" })] }], "plan.triggers[0].basis"],
    ["a meter without a name", [{ triggers: [hours(5, { meter: "" })] }], "plan.triggers[0].meter"],
    ["an event without a name", [{ triggers: [{ kind: "event", event: "" }] }], "plan.triggers[0].event"],
    [
      "a condition without a reading",
      [{ triggers: [{ kind: "condition", reading: "", above: 1 }] }],
      "plan.triggers[0].reading",
    ],
    [
      "a limit above that is no number",
      [{ triggers: [{ kind: "condition", reading: "gap", above: NaN }] }],
      "plan.triggers[0].above",
    ],
    [
      "a limit below that is no number",
      [{ triggers: [{ kind: "condition", reading: "gap", above: 1, below: Infinity }] }],
      "plan.triggers[0].below",
    ],
    ["half a weekday", [{ triggers: [every(1, "week", { weekday: 1.5 as 1 })] }], "plan.triggers[0].weekday"],
    ["weekday 0", [{ triggers: [every(1, "week", { weekday: 0 as 1 })] }], "plan.triggers[0].weekday"],
    [
      "a warning of less than nothing",
      [{ triggers: [every(1, "day")], warning: { fraction: -0.1 } }],
      "plan.warning.fraction",
    ],
    [
      "a completion's meter below nothing",
      [{ triggers: [hours(5)] }, { completions: [{ planId: "p", on: "2026-01-02", meters: { hours: -1 } }] }],
      "completions[0].meters.hours",
    ],
    [
      "an event on no day",
      [{ triggers: [every(1, "day")] }, { events: [{ event: "moved", on: "2026-04-31" }] }],
      "events[0].on",
    ],
    ["a pause from no day", [{ triggers: [every(1, "day")] }, { pauses: [{ from: "yesterday" }] }], "pauses[0].from"],
    [
      "a pause to no day",
      [{ triggers: [every(1, "day")] }, { pauses: [{ from: "2026-01-01", to: "2026-1-2" }] }],
      "pauses[0].to",
    ],
  ];
  it.each(bad)("%s is refused and named", (_name, args, path) => {
    let caught: unknown;
    try {
      assess(...args);
    } catch (error) {
      caught = error;
    }
    expect(caught).toBeInstanceOf(CoreError);
    expect((caught as CoreError).path).toBe(path);
    expect((caught as CoreError).message.length).toBeGreaterThan(20);
  });
  it("says what it wants instead", () => {
    const says = (...args: Parameters<typeof dueInput>): string => {
      try {
        assess(...args);
        return "";
      } catch (error) {
        return (error as CoreError).message;
      }
    };
    expect(says({ triggers: [every(1, "moon" as "day")] })).toBe(
      'plan.triggers[0].unit must be day, week, month or year, not "moon".',
    );
    expect(says({ triggers: [every(1, "day", { basis: "x" as "grid" })] })).toBe(
      'plan.triggers[0].basis must be "completion" or "grid", not "x".',
    );
    expect(says({ triggers: [hours(5, { meter: "" })] })).toBe("plan.triggers[0].meter needs a name.");
    expect(says({ triggers: [{ kind: "condition", reading: "gap" }] })).toBe(
      "plan.triggers[0] needs a limit: above, below or both.",
    );
    expect(says({ triggers: [every(1, "month", { weekday: 2 })] })).toBe(
      'plan.triggers[0].weekday goes only with the unit "week", not with "month".',
    );
    expect(says({ triggers: [every(1, "day")], notice: { fraction: 25 } })).toBe(
      "plan.notice.fraction is a share of the interval, 0 to 1, not 25.",
    );
    expect(says({ triggers: [every(1, "day")] }, { pauses: [{ from: "2026-02-01", to: "2026-01-31" }] })).toBe(
      "A pause cannot end on 2026-01-31, before it begins on 2026-02-01.",
    );
    // A share of everything is still one.
    expect(says({ triggers: [every(1, "day")], notice: { fraction: 1 }, warning: { fraction: 0, days: 0 } })).toBe("");
  });
});
