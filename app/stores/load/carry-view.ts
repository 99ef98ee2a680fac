import { type Carry, carryFor } from "@core";

import { chanceWords } from "~/kit/chance-words";
import { money } from "~/kit/forms/quantity";
import type { FailureFigures } from "~/stores/costs/failure-figures.server";
import type { Item } from "~/stores/items/catalogue.server";

/** How many of a likely part to take. */
export interface CarryView extends Carry {
  /** What they tie up, and what a second trip would cost without them, cents. */
  tiesUp: number | null;
  saves: number;
}

/** How many are enough for the firm, and the money on both sides. */
export function carryOf(
  needs: readonly { qty: number; chance: number }[],
  item: Pick<Item, "packPriceCents" | "packSize"> | undefined,
  { secondTrip, visit }: FailureFigures,
): CarryView {
  const whole = needs.map(({ qty, chance }) => ({ qty: Math.ceil(qty), chance }));
  const found = carryFor({ needs: whole, level: secondTrip });
  const without = carryFor({ needs: whole, level: 1 }).secondTrip;
  const price = item?.packPriceCents;
  return {
    ...found,
    tiesUp: price == null ? null : Math.round((price / (item?.packSize ?? 1)) * found.carry),
    saves: Math.round((without - found.secondTrip) * visit),
  };
}

/** How many are enough for the firm, and the money on both sides. */
export function carryWords({ carry, secondTrip, tiesUp, saves }: CarryView): string {
  const trip = secondTrip === 0 ? "nobody" : `by ${chanceWords(secondTrip)} somebody`;
  const words = `Take ${carry === 0 ? "none" : carry}: ${trip} comes a second time for it.`;
  if (carry === 0 || tiesUp === null) return words;
  return `${words} That ties up ${money(tiesUp)} and saves about ${money(saves)} of second trips.`;
}

/** The firm's figure behind how many are enough. */
export const levelWords = ({ secondTrip }: Pick<FailureFigures, "secondTrip">): string =>
  `By these chances as many are enough as keep a second trip at ${Math.round(secondTrip * 100)} % or less: the firm's figure`;
