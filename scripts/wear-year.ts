/** `npm run wear-year`: what the demo's worn parts cost in a year by three ways of renewing them. */
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { uniform } from "../core/random";
import { wearYear } from "../db/demo/wear-year";

const SEED = 2026;
const YEARS = 200;
const years = Array.from({ length: YEARS }, (_, i) => wearYear(() => uniform(xoroshiro128plus(SEED + i))));
const line = (name: string, of: keyof (typeof years)[number]): void => {
  const mean = years.reduce((sum, one) => sum + one[of], 0) / YEARS;
  process.stdout.write(
    `${name.padEnd(28)} €${(years[0]?.[of] ?? 0).toFixed(2).padStart(9)}   over ${YEARS} years, a year €${mean.toFixed(2).padStart(9)}\n`,
  );
};
line("Now or next", "nowOrNext");
line("Renewed at the limit", "atTheLimit");
line("Renewed at every yearly", "everyYearly");
