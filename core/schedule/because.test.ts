/**
 * Why a duty is due, word for word: the sentences are what a technician checks a day against. Days are hand-worked.
 */
import { assessDue } from "./assess-due";
import { done, dueInput, every, hours, read } from "./testing/inputs";
import type { Trigger } from "./types";

type Rest = Parameters<typeof dueInput>[1];
type More = Omit<Parameters<typeof dueInput>[0], "triggers">;
const because = (triggers: Trigger[], rest: Rest = {}, more: More = {}): string[] =>
  assessDue(dueInput({ triggers, ...more }, rest)).because;
/** The rule's own sentence. */
const rule = (trigger: Trigger, rest: Rest = {}, more: More = {}): string | undefined =>
  because([trigger], rest, more)[0];

describe("an interval by the calendar", () => {
  it("says what it counts from and how long it is", () => {
    expect(rule(every(14, "day"), { completions: [done("2026-02-01")] })).toBe(
      "Every 14 days from the last completion: the last completion on 2026-02-01 + 14 days = 2026-02-15.",
    );
    expect(rule(every(1, "month"))).toBe(
      "Every month from the last completion: the start on 2026-01-01 (never done yet) + 1 month = 2026-02-01.",
    );
  });

  it("counts its first interval only before the first completion", () => {
    const trigger = every(6, "month", { first: { every: 2, unit: "week" } });
    expect(rule(trigger)).toBe(
      "Every 6 months from the last completion: the start on 2026-01-01 (never done yet) + 2 weeks = 2026-01-15.",
    );
    expect(rule(trigger, { completions: [done("2026-01-15")] })).toBe(
      "Every 6 months from the last completion: the last completion on 2026-01-15 + 6 months = 2026-07-15.",
    );
  });

  it("shows what the site makes of it, rounded down to whole days", () => {
    // 31 days of January × 0.5 = 15.5.
    expect(rule(every(1, "month"), {}, { intervalFactor: 0.5 })).toBe(
      "Every month from the last completion: the start on 2026-01-01 (never done yet) + 1 month (31 days) × site factor 0.5 = 15 days = 2026-01-16.",
    );
    expect(rule(every(1, "day"), {}, { intervalFactor: 0.5 })).toMatch(
      /\(1 day\) × site factor 0\.5 = 1 day = 2026-01-02\.$/,
    );
  });

  it("names the weekday, moved to or already there", () => {
    // 2026-01-01 is a Thursday; two weeks on as well.
    expect(rule(every(2, "week", { weekday: 4 }))).toMatch(/\+ 2 weeks = 2026-01-15, a Thursday\.$/);
    expect(rule(every(2, "week", { weekday: 1 }))).toMatch(/= 2026-01-15, moved forward to Monday 2026-01-19\.$/);
    expect(rule(every(2, "week", { weekday: 7 }))).toMatch(/moved forward to Sunday 2026-01-18\.$/);
  });

  it("shows the day without the paused days, and tells the pause", () => {
    const pauses = [{ from: "2026-01-10", to: "2026-01-20", reason: "in store" }];
    expect(because([every(4, "week")], { pauses })).toEqual([
      "Every 4 weeks from the last completion: the start on 2026-01-01 (never done yet) + 4 weeks = 2026-01-29, 2026-02-08 without the paused days.",
      "Paused from 2026-01-10 to 2026-01-20 (in store): those days do not count, and what was open waits for the day after.",
      "Notice from 2026-02-01 (7 days or 25 % of 28 days before, whichever is later), warning from 2026-02-06 (2 days or 10 % of 28 days before, whichever is later).",
      "Today, 2026-02-10, is 2 days past the due day.",
    ]);
  });

  it("gives no day in a pause that nobody has ended", () => {
    expect(because([every(4, "week")], { pauses: [{ from: "2026-01-10" }] })).toEqual([
      "Every 4 weeks from the last completion: the start on 2026-01-01 (never done yet) + 4 weeks = 2026-01-29.",
      "Paused since 2026-01-10: no due day until it is resumed.",
      "No rule sets a day yet, so it is not due.",
    ]);
  });
});

describe("fixed dates", () => {
  const quarterly = every(3, "month", { basis: "grid" });

  it("say which of them the last completion stands for", () => {
    expect(rule(quarterly)).toBe(
      "Fixed dates every 3 months from 2026-01-01: no completion yet; next grid day 2026-04-01.",
    );
    expect(rule(quarterly, { completions: [done("2026-01-20")] })).toBe(
      "Fixed dates every 3 months from 2026-01-01: the completion on 2026-01-20 is nearest to the start, so no grid day is done yet; next grid day 2026-04-01.",
    );
    expect(rule(quarterly, { completions: [done("2026-03-20")] })).toBe(
      "Fixed dates every 3 months from 2026-01-01: the completion on 2026-03-20 counts for 2026-04-01, the nearest grid day; next grid day 2026-07-01.",
    );
  });

  it("count the very first of them as done by a completion on it", () => {
    expect(rule(quarterly, { completions: [done("2026-04-01")] })).toMatch(/counts for 2026-04-01, .* 2026-07-01\.$/);
  });

  it("tell their first, their weekday and their even steps", () => {
    expect(rule(every(1, "year", { basis: "grid", first: { every: 6, unit: "month" } }))).toBe(
      "Fixed dates every year from 2026-01-01, the first after 6 months: no completion yet; next grid day 2026-07-01.",
    );
    expect(rule(every(2, "week", { basis: "grid", weekday: 3 }))).toBe(
      "Fixed dates every 2 weeks from 2026-01-01, moved forward to Wednesday: no completion yet; next grid day 2026-01-21.",
    );
    // 90 days × 0.7 = 63.
    expect(rule(quarterly, {}, { intervalFactor: 0.7 })).toBe(
      "Fixed dates every 3 months from 2026-01-01 (site factor 0.7: steps of 63 days): no completion yet; next grid day 2026-03-05.",
    );
  });
});

describe("a meter", () => {
  const meters = { hours: read(["2026-01-01", 100], ["2026-01-31", 160]) };

  it("says what is left, the rate and the day it comes to", () => {
    // 60 hours in 30 days: 2 a day. 100 + 100 = 200, 40 left, 20 days after 31 January.
    expect(rule(hours(100), { meters })).toBe(
      "Every 100 on hours: 100 from the 100 read at the start on 2026-01-01; 40 left at the last value of 160 on 2026-01-31; at 2 a day about 2026-02-20.",
    );
  });

  it("due on the very day of its forecast is no stale one; a day later it is", () => {
    expect(rule(hours(80), { meters })).toMatch(/at 2 a day about 2026-02-10\.$/);
    expect(rule(hours(78), { meters })).toMatch(
      /about 2026-02-09, which has passed without a reading that says so: due today at the earliest\.$/,
    );
  });

  it("says which reading reached it", () => {
    expect(rule(hours(60), { meters })).toBe(
      "Every 60 on hours: 60 from the 100 read at the start on 2026-01-01; reached by the reading of 160 on 2026-01-31.",
    );
  });

  it("says where it counts from after a completion", () => {
    expect(rule(hours(100), { meters, completions: [done("2026-01-15", { hours: 130 })] })).toMatch(
      /: 100 from the 130 noted at the completion on 2026-01-15; 70 left/,
    );
    expect(rule(hours(100), { meters, completions: [done("2026-01-15")] })).toMatch(
      /: 100 from the 100 read on 2026-01-01, the last before the completion on 2026-01-15; 40 left/,
    );
    const late = { hours: read(["2026-01-20", 50], ["2026-01-30", 70]) };
    expect(rule(hours(100), { meters: late, completions: [done("2026-01-15")] })).toMatch(
      /: 100 from the 50 first read on 2026-01-20; 80 left/,
    );
    expect(rule(hours(100), { meters: late })).toMatch(/: 100 from the 50 first read on 2026-01-20; 80 left/);
  });

  it("says why there is no forecast", () => {
    expect(rule(hours(100))).toBe(
      "Every 100 on hours: 100 from 0 (no reading from the start on 2026-01-01); no reading yet, so no day can be forecast.",
    );
    expect(rule(hours(100), { completions: [done("2026-01-15")] })).toMatch(
      /0 \(no reading near the completion on 2026-01-15\); no reading yet/,
    );
    expect(rule(hours(100), { meters: { hours: read(["2026-02-01", 7]) } })).toMatch(
      /; 100 left at the last value of 7 on 2026-02-01; fewer than two reading days, so no day can be forecast\.$/,
    );
    expect(rule(hours(100), { meters: { hours: read(["2026-01-05", 7], ["2026-02-01", 7]) } })).toMatch(
      /; no use in that time, so no day can be forecast\.$/,
    );
    expect(rule(hours(1e12), { meters })).toMatch(/; at 2 a day that is never in practice\.$/);
  });

  it("shows the site factor, and the first interval", () => {
    expect(rule(hours(100, { first: 30 }), { meters }, { intervalFactor: 0.5 })).toMatch(
      /^Every 100 on hours × site factor 0\.5: 15 from the 100 read at the start on 2026-01-01; reached/,
    );
    expect(rule(hours(100, { basis: "grid" }), { meters, completions: [done("2026-01-31")] })).toMatch(
      /^Every 100 on hours: fixed points from the 100 read at the start on 2026-01-01, 1 of them done, the next 200 after it; 140 left/,
    );
  });
});

describe("events and conditions", () => {
  it("say since when they look, and what they found", () => {
    const install: Trigger = { kind: "event", event: "moved" };
    const events = [{ event: "moved", on: "2026-02-03" }];
    expect(rule(install)).toBe('At each "moved": none.');
    expect(rule(install, { events })).toBe('At each "moved": the earliest is on 2026-02-03.');
    expect(rule(install, { completions: [done("2026-02-05")], events })).toBe(
      'At each "moved": none after the last completion on 2026-02-05.',
    );
    expect(rule(install, { completions: [done("2026-02-01")], events })).toBe(
      'At each "moved": the earliest after the last completion on 2026-02-01 is on 2026-02-03.',
    );
  });

  it("name the limits that they have", () => {
    const readings = { gap: read(["2026-01-05", 0.03]) };
    expect(rule({ kind: "condition", reading: "gap", above: 0.02 }, { readings })).toBe(
      "When gap is above 0.02: beyond it since 2026-01-05 (0.03).",
    );
    expect(rule({ kind: "condition", reading: "gap", above: 0.05, below: 0.01 }, { readings })).toBe(
      "When gap is above 0.05 or below 0.01: the latest reading is not beyond it, or there is none.",
    );
    expect(
      rule({ kind: "condition", reading: "gap", below: 0.01 }, { readings, completions: [done("2026-01-06")] }),
    ).toBe(
      "When gap is below 0.01: the latest reading after the last completion on 2026-01-06 is not beyond it, or there is none.",
    );
  });
});

describe("what comes of the rules", () => {
  it("is the earliest of several, and not said of one", () => {
    expect(because([every(14, "day"), every(2, "month")])).toContain("The earliest of 2 rules counts: 2026-01-15.");
    expect(because([every(14, "day")]).join(" ")).not.toContain("earliest");
  });

  it("is nothing where no rule sets a day", () => {
    expect(because([{ kind: "event", event: "moved" }])).toEqual([
      'At each "moved": none.',
      "No rule sets a day yet, so it is not due.",
    ]);
  });

  it.each([
    ["2026-03-01", "Today is 2026-03-01: 31 days left."],
    ["2026-03-31", "Today is 2026-03-31: 1 day left."],
    ["2026-04-01", "Today, 2026-04-01, is the due day."],
    ["2026-04-02", "Today, 2026-04-02, is 1 day past the due day."],
    ["2026-04-11", "Today, 2026-04-11, is 10 days past the due day."],
  ])("is told on %s", (today, words) => {
    expect(because([every(3, "month")], { today }).at(-1)).toBe(words);
  });

  it("with a hard stop says that the machine must stand still, past the day only", () => {
    const stop = (today: string) => because([every(3, "month")], { today }, { hardStop: true }).at(-1);
    expect(stop("2026-04-01")).toBe("Today, 2026-04-01, is the due day.");
    expect(stop("2026-04-03")).toBe(
      "Today, 2026-04-03, is 2 days past the due day, and the machine must stand still until it is done.",
    );
  });

  it("has leads as they were given", () => {
    const leads = (more: More) => because([every(100, "day")], {}, more).at(-2);
    expect(leads({ notice: { days: 1 }, warning: {} })).toBe(
      "Notice from 2026-04-10 (1 day before), warning from 2026-04-11 (no lead).",
    );
    expect(leads({ notice: { fraction: 0.125 }, warning: { days: 3, fraction: 0.01 } })).toBe(
      "Notice from 2026-03-30 (12.5 % of 100 days before), warning from 2026-04-10 (3 days or 1 % of 100 days before, whichever is later).",
    );
    const event = because([{ kind: "event", event: "e" }], { events: [{ event: "e", on: "2026-02-20" }] }).at(-2);
    expect(event).toBe("Notice from 2026-02-13 (7 days before), warning from 2026-02-18 (2 days before).");
  });
});

describe("a limit that is foretold", () => {
  const below: Trigger = { kind: "condition", reading: "bristle", below: 2 };
  const readings = { bristle: read(["2026-02-01", 2.4]) };
  const today = "2026-02-10";

  it("says the day and between which days it lies", () => {
    const forecasts = { bristle: { on: "2026-02-20", low: "2026-02-16", high: "2026-02-28" } };
    expect(rule(below, { readings, today, forecasts })).toMatch(
      /It is expected about 2026-02-20, between 2026-02-16 and 2026-02-28\.$/,
    );
    expect(rule(below, { readings, today: "2026-02-22", forecasts })).toMatch(
      /about 2026-02-20, between 2026-02-16 and 2026-02-28, which has passed without a reading/,
    );
    expect(rule(below, { readings, today, forecasts: { bristle: { ...forecasts.bristle, high: null } } })).toMatch(
      /It is expected about 2026-02-20\.$/,
    );
  });
});
