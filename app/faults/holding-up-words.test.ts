import { holdingUpBecause, hoursWords, shareWords } from "./holding-up-words";

it.each([
  [0.1, "6 min"],
  [0, "1 min"],
  [5.25, "5.3 h"],
  [47.9, "47.9 h"],
  [72, "3 days"],
])("%d hours are %s", (hours, words) => expect(hoursWords(hours)).toBe(words));

it.each([
  [1, "100 %"],
  [0.99999, "99.99 %"],
  [0.9, "90.0 %"],
  [0.5555, "55.5 %"],
])("%d is %s", (share, words) => expect(shareWords(share)).toBe(words));

it("says what the figures rest on", () => {
  const [span, between, back] = holdingUpBecause({
    ...{ days: 365, failures: 2, availability: 0.9, mtbfHours: 3942, mttrHours: null },
  });
  expect(span).toMatch(/^The last 365 days/);
  expect(between).toBe("Between failures (MTBF): 329 days of use by 2 failures that began in them.");
  expect(back).toMatch(/nothing did\.$/);
});
