import { leftInWords } from "./left-in-words";

const duties = [{ dutyId: "d", title: "Clean", machineName: "Oven" }];

it.each([
  [{ because: "closed", endAt: null, holds: null }, "“Clean” (Oven): its site is closed"],
  [{ because: "hours", endAt: null, holds: null }, "“Clean” (Oven): its hours, or its site's, have no room for it"],
  [{ because: "room", endAt: 1030, holds: null }, "“Clean” (Oven): back at 17:10 with it"],
  [{ because: "chance", endAt: 950, holds: 0.614 }, "“Clean” (Oven): the day would hold in 61 % of cases"],
] as const)("%j", (why, words) => {
  expect(leftInWords({ site: "s", job: "d", ...why }, duties)).toBe(words);
  expect(leftInWords({ site: "s", job: "other", ...why }, duties)).toMatch(/^a duty: /);
});

it("cuts a long title short", () => {
  const long = [{ dutyId: "d", title: `3 left open: ${"found ".repeat(20)}`, machineName: "Chiller" }];
  const words = leftInWords({ site: "s", job: "d", because: "closed", endAt: null, holds: null }, long);
  expect(words).toMatch(/^“3 left open: found [found ]+…” \(Chiller\): its site is closed$/);
  expect(words.length).toBeLessThan(100);
});
