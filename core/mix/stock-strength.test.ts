import { strengthFault } from "./stock-strength";

const bleach = { chemical: "hypochlorite", labelled: 12.5 } as const;

it.each([0, -1, NaN, 17, 125, 1e9])("a bleach of %d %% does not exist", (percent) => {
  expect(strengthFault(percent, bleach)).toMatchObject({ refused: true });
});

it.each([1.25, 3, 15.7])("one of %d %% is asked about", (percent) => {
  expect(strengthFault(percent, bleach)).toMatchObject({ refused: false });
});

it.each([3.75, 5, 12.5, 15.6])("one of %d %% is taken", (percent) => {
  expect(strengthFault(percent, bleach)).toBeNull();
});

it("is judged by its class alone, or by its label alone, or by neither", () => {
  expect(strengthFault(14, { chemical: "hypochlorite" })).toBeNull();
  expect(strengthFault(90, { labelled: 4 })).toMatchObject({ refused: false });
  expect(strengthFault(100, {})).toBeNull();
  expect(strengthFault(101, { chemical: "alcohol" })).toMatchObject({ refused: true });
});
