import { whereItWent } from "./where-it-went";

const DAY = { on: "2026-03-02", personId: "me", today: "2026-03-02" };
const duty = { plannedOn: null, plannedFor: null, plannedForName: null, dueOn: "2026-03-05" };

describe("where work that was not done is now", () => {
  it.each([
    [duty, "On nobody's day; due Thu 5 Mar"],
    [{ ...duty, plannedOn: DAY.on, plannedFor: "me" }, "Still on this day; due Thu 5 Mar"],
    [{ ...duty, plannedOn: "2026-03-03", plannedFor: "me" }, "On Tue 3 Mar; due Thu 5 Mar"],
    [
      { ...duty, plannedOn: DAY.on, plannedFor: "bo", plannedForName: "Bo Reed" },
      "On Mon 2 Mar with Bo Reed; due Thu 5 Mar",
    ],
    [{ ...duty, plannedOn: "2026-03-01", plannedFor: "me" }, "On nobody's day; due Thu 5 Mar"],
    [{ ...duty, dueOn: null }, "On nobody's day; without a due day"],
  ])("%j", (given, words) => {
    expect(whereItWent(given, DAY)).toBe(words);
  });
});
