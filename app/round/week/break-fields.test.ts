import { breakRules, breakWords, typedBreak } from "./break-fields";

it("keeps breaks in their order, in minutes after the start; those of no minutes are none", () => {
  const rules = breakRules([
    { minutes: 15, from: 6, by: 7.5 },
    { minutes: 0, from: 3, by: 5 },
    { minutes: 30, from: 3, by: 5 },
  ]);
  expect(rules).toEqual([
    { minutes: 30, from: 180, by: 300 },
    { minutes: 15, from: 360, by: 450 },
  ]);
  expect(typedBreak(rules, 2)).toEqual({ minutes: 15, from: 6, by: 7.5 });
  expect(typedBreak(rules, 3)).toEqual({ minutes: 0, from: 3, by: 5 });
  expect(breakWords(rules)).toBe(
    "30 min, begun 3 to 5 hours after the start; 15 min, begun 6 to 7.5 hours after the start",
  );
  expect(breakWords([])).toBe("none");
});
