import { assessDue } from "./assess-due";
import { projectDue } from "./project-due";
import { done, dueInput, every, hours, read } from "./testing/inputs";
import type { PauseSpan } from "./types";

const winter: PauseSpan = { from: "2026-01-10", to: "2026-03-10", reason: "closed for the season" };
const assess = (...args: Parameters<typeof dueInput>) => assessDue(dueInput(...args));

describe("an interval from the last completion", () => {
  it("goes on after the pause with the days it had left", () => {
    // 5 of 14 days used on 10 January, 9 left from 10 March.
    const result = assess(
      { triggers: [every(14, "day")] },
      { completions: [done("2026-01-05")], pauses: [winter], today: "2026-03-12" },
    );
    expect(result).toMatchObject({ dueOn: "2026-03-19", state: "later" });
    expect(result.because.join(" ")).toContain("closed for the season");
  });
  it("is not touched by a pause before it began, nor by one after it ends", () => {
    const later = [done("2026-03-11")];
    expect(
      assess({ triggers: [every(14, "day")] }, { completions: later, pauses: [winter], today: "2026-03-12" }).dueOn,
    ).toBe("2026-03-25");
    expect(
      assess(
        { triggers: [every(14, "day")] },
        { completions: [done("2026-01-05")], pauses: [{ from: "2026-01-25" }], today: "2026-01-08" },
      ).dueOn,
    ).toBe("2026-01-19");
  });
  it("counts only the part of a pause after the completion", () => {
    expect(
      assess(
        { triggers: [every(14, "day")] },
        { completions: [done("2026-03-01")], pauses: [winter], today: "2026-03-12" },
      ).dueOn,
    ).toBe("2026-03-24");
  });
  it("moves to its weekday after the pause, not before", () => {
    const weekly = every(2, "week", { weekday: 5 });
    // 5 January + 14 days + 59 paused days = 19 March, a Thursday.
    expect(
      assess({ triggers: [weekly] }, { completions: [done("2026-01-05")], pauses: [winter], today: "2026-03-12" })
        .dueOn,
    ).toBe("2026-03-20");
  });
});

describe("what is open when the machine comes back", () => {
  it.each([
    ["a duty that was overdue before", { triggers: [every(3, "day")] }, { completions: [done("2026-01-02")] }],
    [
      "an event inside the pause",
      { triggers: [{ kind: "event" as const, event: "light" }] },
      { events: [{ event: "light", on: "2026-02-01" }] },
    ],
    [
      "a reading out of limits",
      { triggers: [{ kind: "condition" as const, reading: "gap", above: 1 }] },
      { readings: { gap: read(["2026-02-01", 2]) } },
    ],
    [
      "a meter that was reached",
      { triggers: [hours(100)] },
      { meters: { hours: read(["2026-01-01", 0], ["2026-01-09", 120]) } },
    ],
  ])("%s is due on the first day, not overdue since", (_name, plan, rest) => {
    expect(assess(plan, { ...rest, pauses: [winter], today: "2026-03-10" })).toMatchObject({
      dueOn: "2026-03-10",
      state: "due",
    });
    expect(assess(plan, { ...rest, pauses: [winter], today: "2026-03-15" })).toMatchObject({
      dueOn: "2026-03-10",
      state: "overdue",
    });
  });
});

describe("a fixed grid", () => {
  it("leaves the grid days of the pause out and keeps its days", () => {
    const weekly = { startOn: "2026-01-02", triggers: [every(1, "week", { basis: "grid" })] }; // Fridays
    expect(assess(weekly, { completions: [done("2026-01-09")], pauses: [winter], today: "2026-03-12" }).dueOn).toBe(
      "2026-03-13",
    );
  });
  it("does not let a yearly duty fall out: the time left at the beginning counts from the end", () => {
    const yearly = { startOn: "2024-02-01", triggers: [every(1, "year", { basis: "grid" })] };
    // Due on 1 February 2026, 22 days after the pause began.
    expect(assess(yearly, { completions: [done("2025-02-01")], pauses: [winter], today: "2026-03-12" }).dueOn).toBe(
      "2026-04-01",
    );
  });
});

describe("a pause without an end", () => {
  it("has no due day, and says why", () => {
    const result = assess(
      { triggers: [every(3, "day")] },
      { completions: [done("2026-01-02")], pauses: [{ from: "2026-01-10" }] },
    );
    expect(result).toMatchObject({ dueOn: null, state: "later" });
    expect(result.because.join(" ")).toContain("Paused since 2026-01-10");
  });
  it("leaves what comes before it", () => {
    expect(
      projectDue(dueInput({ triggers: [every(2, "day")] }, { pauses: [{ from: "2026-02-15" }] }), "2026-03-01").map(
        (one) => one.on,
      ),
    ).toEqual(["2026-02-10", "2026-02-12", "2026-02-14"]);
  });
});

it("joins pauses that touch, ignores empty ones and refuses one that ends before it begins", () => {
  const split: PauseSpan[] = [
    { from: "2026-02-01", to: "2026-03-10" },
    { from: "2026-01-10", to: "2026-02-01" },
    { from: "2026-03-20", to: "2026-03-20" },
  ];
  const plan = { triggers: [every(14, "day")] };
  const rest = { completions: [done("2026-01-05")], today: "2026-03-12" };
  expect(assess(plan, { ...rest, pauses: split }).dueOn).toBe(assess(plan, { ...rest, pauses: [winter] }).dueOn);
  expect(() => assess(plan, { ...rest, pauses: [{ from: "2026-02-01", to: "2026-01-01" }] })).toThrow("cannot end");
});

describe("several pauses", () => {
  const words = (pauses: PauseSpan[]): string[] =>
    assess({ triggers: [every(1, "year")] }, { pauses, today: "2026-03-12" }).because.filter((one) =>
      one.startsWith("Paused"),
    );

  it("that overlap are one, as long as the longest, for both reasons", () => {
    const long = { from: "2026-01-10", to: "2026-03-10", reason: "winter" };
    const within = { from: "2026-01-20", to: "2026-02-01", reason: "flood" };
    expect(words([within, long])).toEqual([
      "Paused from 2026-01-10 to 2026-03-10 (winter; flood): those days do not count, and what was open waits for the day after.",
    ]);
    expect(words([long, { ...within, reason: "winter" }])).toHaveLength(1);
    expect(words([long, { ...within, reason: "winter" }])[0]).toContain("(winter):");
    expect(
      words([
        { from: "2026-01-10", to: "2026-02-01" },
        { ...within, to: "2026-02-20" },
      ])[0],
    ).toContain("Paused from 2026-01-10 to 2026-02-20 (flood)");
  });

  it("with a day between them stay two", () => {
    const two = [
      { from: "2026-01-10", to: "2026-01-20" },
      { from: "2026-01-21", to: "2026-02-01" },
    ];
    expect(words(two)).toHaveLength(2);
    // 10 and 11 days.
    expect(assess({ triggers: [every(30, "day")] }, { pauses: two, today: "2026-02-02" }).dueOn).toBe("2026-02-21");
  });

  it("of which one has no end have none, whether the end is absent or null", () => {
    const open = [
      { from: "2026-01-10", to: "2026-02-01" },
      { from: "2026-01-15", to: null },
    ];
    for (const pauses of [
      open,
      [...open].reverse(),
      [{ from: "2026-01-10" }, { from: "2026-01-12", to: "2026-01-13" }],
    ])
      expect(words(pauses)).toEqual(["Paused since 2026-01-10: no due day until it is resumed."]);
  });

  it("tells only those that touch the interval", () => {
    const told = (pauses: PauseSpan[]) =>
      assess(
        { triggers: [every(10, "day")] },
        { completions: [done("2026-02-01")], pauses, today: "2026-02-02" },
      ).because.filter((one) => one.startsWith("Paused")).length;
    expect(told([{ from: "2026-01-10", to: "2026-02-01" }])).toBe(0);
    expect(told([{ from: "2026-01-10", to: "2026-02-02" }])).toBe(1);
    expect(told([{ from: "2026-02-11", to: "2026-02-12" }])).toBe(1);
    expect(told([{ from: "2026-02-12", to: "2026-02-13" }])).toBe(0);
  });
});

describe("the edges of a pause", () => {
  const grid = (on: string, pause: PauseSpan, today: string) =>
    assess({ startOn: on, triggers: [every(1, "week", { basis: "grid" })] }, { pauses: [pause], today }).dueOn;

  it("its first day does not count, the day it ends does", () => {
    // Grid days 8, 15, 22 January.
    expect(grid("2026-01-01", { from: "2026-01-08", to: "2026-01-15" }, "2026-01-02")).toBe("2026-01-15");
    expect(grid("2026-01-01", { from: "2026-01-08", to: "2026-01-16" }, "2026-01-02")).toBe("2026-01-22");
    expect(grid("2026-01-01", { from: "2026-01-09", to: "2026-01-16" }, "2026-01-02")).toBe("2026-01-08");
    expect(grid("2026-01-01", { from: "2026-01-01", to: "2026-01-08" }, "2026-01-02")).toBe("2026-01-08");
  });

  it("what was due before waits from its first day on, and only then", () => {
    const overdue = (today: string) =>
      assess(
        { triggers: [{ kind: "event", event: "moved" }] },
        {
          events: [{ event: "moved", on: "2026-01-05" }],
          pauses: [{ from: "2026-01-10", to: "2026-02-01" }],
          today,
        },
      ).dueOn;
    expect(["2026-01-09", "2026-01-10", "2026-03-01"].map(overdue)).toEqual(["2026-01-05", "2026-02-01", "2026-02-01"]);
  });

  it("leave the time that was left to long steps alone: a month is short, a quarter long", () => {
    const pause = { from: "2026-01-20", to: "2026-03-10" };
    const due = (count: number, unit: "month" | "day", last = "2026-01-01") =>
      assess(
        { startOn: "2025-11-01", triggers: [every(count, unit, { basis: "grid" })] },
        { completions: [done(last)], pauses: [pause], today: "2026-03-12" },
      ).dueOn;
    // Monthly: 1 February and 1 March fall out, next is 1 April.
    expect(due(1, "month")).toBe("2026-04-01");
    // Every three months from 1 November: 1 February was 12 days off when the pause began; 12 days from its end.
    expect(due(3, "month", "2025-11-02")).toBe("2026-03-22");
    // 31 days are no longer than a month: 2 January is done, 2 February and 5 March fall out, 5 April is next.
    expect(due(31, "day")).toBe("2026-04-05");
  });
});
