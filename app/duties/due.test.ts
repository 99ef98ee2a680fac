import { assessDue } from "@core";

import { type StoredDue, storedDue } from "./assess.server";
import { dueNow } from "./due.server";
import { dueInput } from "./machine-facts.server";

const stored = (over: Partial<StoredDue> = {}): StoredDue & { hardStop: boolean } => ({
  dueOn: "2026-06-20",
  warningFrom: "2026-06-18",
  noticeFrom: "2026-06-13",
  projected: false,
  firmDueOn: "2026-06-20",
  anchorOn: "2026-05-20",
  rivals: [],
  foretoldFrom: null,
  foretoldTo: null,
  hardStop: false,
  ...over,
});
const state = (today: string, over: Partial<StoredDue> & { hardStop?: boolean } = {}) =>
  dueNow({ ...stored(over), hardStop: over.hardStop ?? false }, today);

describe("the state of a stored duty", () => {
  it.each([
    ["2026-06-12", "later", 8],
    ["2026-06-13", "notice", 7],
    ["2026-06-18", "warning", 2],
    ["2026-06-20", "due", 0],
    ["2026-06-21", "overdue", -1],
  ])("on %s is %s", (today, name, daysLeft) => expect(state(today)).toMatchObject({ state: name, daysLeft }));

  it("is stopped past a hard stop", () => expect(state("2026-06-21", { hardStop: true }).state).toBe("stopped"));

  it("makes a forecast that has passed due today, not overdue", () => {
    expect(state("2026-07-15", { projected: true, firmDueOn: null })).toEqual({
      state: "due",
      dueOn: "2026-07-15",
      daysLeft: 0,
    });
    expect(state("2026-06-19", { projected: true, firmDueOn: null })).toMatchObject({
      state: "warning",
      dueOn: "2026-06-20",
    });
  });

  it("lets the day that is no forecast take over when it has passed too", () => {
    const race = { projected: true, firmDueOn: "2026-07-01" };
    expect(state("2026-06-30", race)).toMatchObject({ state: "due", dueOn: "2026-06-30" });
    expect(state("2026-07-01", race)).toMatchObject({ state: "due", dueOn: "2026-07-01" });
    expect(state("2026-07-02", race)).toMatchObject({ state: "overdue", dueOn: "2026-07-01", daysLeft: -1 });
  });

  it("without a day is later for ever", () => {
    expect(state("2099-01-01", { dueOn: null, warningFrom: null, noticeFrom: null, firmDueOn: null })).toEqual({
      state: "later",
      dueOn: null,
      daysLeft: null,
    });
  });
});

describe("what is stored says the same as the engine, day after day", () => {
  const plan = {
    id: "p",
    startOn: "2026-01-01",
    hardStop: false,
    rules: {
      triggers: [
        { kind: "calendar", every: 3, unit: "month", basis: "completion" },
        { kind: "meter", meter: "hours", every: 500, basis: "completion" },
      ] as never,
    },
  };
  const facts = {
    completions: [{ planId: "p", on: "2026-02-10", meters: { hours: 300 } }],
    meters: {
      hours: [
        { on: "2026-01-01", value: 100 },
        { on: "2026-02-20", value: 350 },
      ],
    },
    readings: {},
    events: [],
    pauses: [],
    left: [],
    wear: [],
    calendar: () => ({ closedWeekdays: [], closed: [] }),
  };

  it("while the readings that the rate was taken from are in sight", () => {
    const input = dueInput(plan, facts, "2026-02-20");
    const kept = storedDue(assessDue(input), input);
    expect(kept).toMatchObject({ projected: false, anchorOn: "2026-02-10", dueOn: "2026-05-10" });
    for (let day = 0; day < 40; day++) {
      const today = new Date(Date.UTC(2026, 1, 20 + day)).toISOString().slice(0, 10);
      // The rate's window moves on with the days; within it the stored state is the live one.
      expect([today, dueNow({ ...kept, hardStop: false }, today).state]).toEqual([
        today,
        assessDue({ ...input, today }).state,
      ]);
    }
  });
});
