import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { uniform } from "../../core/random";
import { wearYear } from "./wear-year";

it("now or next costs less than renewing at the limit and than renewing at every yearly", () => {
  const years = Array.from({ length: 20 }, (_, seed) => wearYear(() => uniform(xoroshiro128plus(1000 + seed))));
  const sum = (of: keyof ReturnType<typeof wearYear>): number => years.reduce((all, one) => all + one[of], 0);
  expect(sum("nowOrNext")).toBeLessThan(0.8 * sum("atTheLimit"));
  expect(sum("nowOrNext")).toBeLessThan(0.9 * sum("everyYearly"));
  // Year by year as well, but for chance.
  expect(years.filter((one) => one.nowOrNext < Math.min(one.atTheLimit, one.everyYearly)).length).toBeGreaterThan(17);
});

it("is the same for the same seed", () => {
  const year = () => wearYear(() => uniform(xoroshiro128plus(7)));
  expect(year()).toEqual(year());
});
