import { carryOf, carryWords } from "./carry-view";

const FIGURES = { failure: { low: 0, usual: 0, high: 0 }, visit: 9000, secondTrip: 0.1 };
const BROOM = { packPriceCents: 23_800, packSize: 2 };

it("takes what keeps second trips rare, with what that ties up and saves", () => {
  const needs = [
    { qty: 1, chance: 0.5 },
    { qty: 1, chance: 0.1 },
  ];
  // Any: 1 − 0.5·0.9 = 0.55; both: 0.05. One piece is 119.00; it saves half a trip of 90.00.
  const one = carryOf(needs, BROOM, FIGURES);
  expect(one).toMatchObject({ carry: 1, tiesUp: 11_900, saves: 4500 });
  expect(carryWords(one)).toBe(
    "Take 1: by 5 % somebody comes a second time for it. That ties up €119.00 and saves about €45.00 of second trips.",
  );
  expect(carryWords(carryOf(needs, BROOM, { ...FIGURES, secondTrip: 0 }))).toMatch(
    /^Take 2: nobody comes a second time/,
  );
  expect(carryWords(carryOf([{ qty: 1, chance: 0.04 }], BROOM, FIGURES))).toBe(
    "Take none: by 4 % somebody comes a second time for it.",
  );
  expect(carryWords(carryOf(needs, undefined, FIGURES))).toBe("Take 1: by 5 % somebody comes a second time for it.");
});
