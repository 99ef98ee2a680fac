import { holdingUpBecause, hoursWords, rowBecause, shareWords } from "./holding-up-words";

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
    ...{ days: 365, failures: 2, repairs: 0, availability: 0.9, mtbfHours: 3942, mttrHours: null },
  });
  expect(span).toMatch(/^The last 365 days/);
  expect(between).toBe("Between failures (MTBF): 329 days of use by 2 failures that began in them.");
  expect(back).toMatch(/nothing did\.$/);
});

it("says the arithmetic of machines together", () => {
  const row = { key: "k", name: "Hall", machines: 3, hours: 648, failures: 2, repairs: 2 };
  expect(rowBecause({ ...row, availability: 600 / 648, mtbfHours: 300, mttrHours: 30 })).toEqual([
    "Could be used: 25 days of the 27 days that 3 machines were there: 92.6 %.",
    "Between failures: 25 days by 2 failures: 13 days.",
    "Until it is back: the mean of 2 repairs that ended in it: 30 h.",
  ]);
  const none = rowBecause({ ...row, machines: 1, failures: 0, availability: 1, mtbfHours: null, mttrHours: null });
  expect(none[0]).toContain("that 1 machine was there: 100 %");
  expect(none.slice(1)).toEqual([
    "Between failures: none began in the span.",
    "Until it is back: nothing ended in the span.",
  ]);
});
