import type { SheetStep } from "@core";

import { askedWords } from "./asked-words";

const step = (...readings: object[]) => ({ state: { readings } }) as unknown as Pick<SheetStep, "state">;

it("says of each value what was asked and answered, and what cannot be", () => {
  const value = (figure: number, more: object) => ({ value: figure, unit: "h", ...more });
  expect(askedWords({ state: null })).toEqual([]);
  expect(
    askedWords(
      step(
        value(1250, {}),
        value(1300, { asked: { answer: "right" } }),
        value(3, { asked: { answer: "replaced", oldValue: 1301 } }),
        value(4, { asked: { answer: "replaced" } }),
        value(-7, { impossible: true, asked: { answer: "right" } }),
      ),
    ),
  ).toEqual([
    "1300 h is unusual here: asked about, and right",
    "3 h on a new meter, the old one showed 1301 h at last",
    "4 h on a new meter",
    "-7 h cannot be: it counts nowhere",
  ]);
});
