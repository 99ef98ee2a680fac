import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { uniform } from "../random";
import { carryFor } from "./index";

/** The chance that more than so many are needed, by every way in which it can come out. */
function shortBy(needs: readonly { qty: number; chance: number }[], carried: number): number {
  let short = 0;
  for (let ways = 0; ways < 2 ** needs.length; ways++) {
    const isNeeded = (i: number): boolean => ((ways >> i) & 1) === 1;
    const chance = needs.reduce((all, one, i) => all * (isNeeded(i) ? one.chance : 1 - one.chance), 1);
    const qty = needs.reduce((all, one, i) => all + (isNeeded(i) ? one.qty : 0), 0);
    if (qty > carried) short += chance;
  }
  return short;
}

describe("how many to carry", () => {
  it("is the fewest with which a second trip is unlikely enough, by every way it can come out", () => {
    const random = uniform(xoroshiro128plus(42));
    for (let n = 0; n < 200; n++) {
      const needs = Array.from({ length: Math.floor(random() * 8) }, () => ({
        qty: 1 + Math.floor(random() * 3),
        chance: random() < 0.1 ? Math.round(random()) : random(),
      }));
      const level = random() * 0.3;
      const { carry, secondTrip, expected } = carryFor({ needs, level });
      expect(secondTrip).toBeCloseTo(shortBy(needs, carry), 12);
      expect(secondTrip).toBeLessThanOrEqual(level + 1e-12);
      if (carry > 0) expect(shortBy(needs, carry - 1)).toBeGreaterThan(level - 1e-12);
      expect(expected).toBeCloseTo(
        needs.reduce((all, one) => all + one.qty * one.chance, 0),
        12,
      );
    }
  });

  it("of ten machines with a chance of a tenth each is what tables of the binomial distribution have", () => {
    const needs = Array.from({ length: 10 }, () => ({ qty: 1, chance: 0.1 }));
    // P(more than 2) = 0.0702, P(more than 3) = 0.0128 (n = 10, p = 0.1; any table of it).
    expect(carryFor({ needs, level: 0.1 })).toMatchObject({
      carry: 2,
      secondTrip: expect.closeTo(0.0702, 4) as number,
    });
    expect(carryFor({ needs, level: 0.05 })).toMatchObject({
      carry: 3,
      secondTrip: expect.closeTo(0.0128, 4) as number,
    });
  });

  it("nothing needed is nothing carried; a level of nothing carries all; what is none is refused", () => {
    expect(carryFor({ needs: [], level: 0.1 })).toEqual({ carry: 0, secondTrip: 0, expected: 0 });
    expect(carryFor({ needs: [{ qty: 2, chance: 0.01 }], level: 0 })).toMatchObject({ carry: 2, secondTrip: 0 });
    expect(carryFor({ needs: [{ qty: 2, chance: 0 }], level: 0 })).toMatchObject({ carry: 0 });
    expect(() => carryFor({ needs: [{ qty: 1.5, chance: 0.1 }], level: 0.1 })).toThrow(/needs\[0\].qty/);
    expect(() => carryFor({ needs: [{ qty: 1, chance: 1.1 }], level: 0.1 })).toThrow(/needs\[0\].chance/);
    expect(() => carryFor({ needs: [], level: -1 })).toThrow(/level/);
    expect(() => carryFor({ needs: [{ qty: 20_000, chance: 0.1 }], level: 0.1 })).toThrow(/whole pieces/);
  });
});
