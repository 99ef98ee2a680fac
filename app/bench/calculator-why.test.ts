import { bothVolumes, figure, volumeWords, whyDilution } from "./calculator-why";

it.each([
  [0, "0"],
  [0.3381, "0.338"],
  [99.96, "100"],
  [1234.5, "1,230"],
  [0.000123, "0.000123"],
])("%d reads %s", (value, words) => expect(figure(value)).toBe(words));

it("uses the largest unit that is filled, and shows both systems", () => {
  expect([
    volumeWords(999, "metric"),
    volumeWords(1000, "metric"),
    volumeWords(29.6, "us"),
    volumeWords(3786, "us"),
  ]).toEqual(["999 mL", "1 L", "1 US fl oz", "1 US gal"]);
  expect(volumeWords(2925, "metric")).toBe("2.93 L");
  expect(volumeWords(48.780488, "metric")).toBe("49 mL");
  expect(bothVolumes(100, "us")).toBe("3.38 US fl oz (100 mL)");
});

it("shows rule, inputs and arithmetic", () => {
  const why = whyDilution({ stockPercent: 5, targetPpm: 100, finalMl: 5000 }).join(" ");
  for (const part of ["10,000 ppm", "100 ppm", "5,000 mL", "= 10 mL"]) expect(why).toContain(part);
});
