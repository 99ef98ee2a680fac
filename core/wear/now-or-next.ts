import { requireRecord } from "../inputs";
import { plainNumber, requireNotNegative, requireShare } from "../numbers";

/** Costs that differ by no more than so, of the smaller, are the same. */
const ALIKE = 0.02;

export interface NowOrNext {
  advice: "now" | "next" | "either";
  /** Money, in the unit given. */
  costNow: number;
  costNext: number;
  /** Above this chance of passing the limit before the next visit, now is cheaper. */
  breakEvenChance: number;
  /** The arithmetic, in a sentence. */
  because: string;
}

/**
 * Whether a worn part is renewed now or at the next visit: what it costs on either side.
 *
 * @param input.chanceBeforeNext that it passes its limit before the next visit, 0 to 1
 * @param input.plannedCost of a planned replacement; all costs in one unit of money
 * @param input.failureCost when it fails before
 * @param input.extraVisitCost of coming for it; 0 when not given
 * @param input.lostUseCost planned cost times the share of its life that is thrown away now
 * @throws CoreError `bad-number`, `out-of-range`
 */
export function nowOrNext(input: {
  chanceBeforeNext: number;
  plannedCost: number;
  failureCost: number;
  extraVisitCost?: number;
  lostUseCost: number;
}): NowOrNext {
  const { chanceBeforeNext, plannedCost, failureCost, extraVisitCost = 0, lostUseCost } = requireRecord(input, "input");
  const chance = requireShare(chanceBeforeNext, "chanceBeforeNext");
  const planned = requireNotNegative(plannedCost, "plannedCost");
  const failed = requireNotNegative(failureCost, "failureCost") + requireNotNegative(extraVisitCost, "extraVisitCost");
  const lost = requireNotNegative(lostUseCost, "lostUseCost");
  const costNow = planned + lost;
  const costNext = chance * failed + (1 - chance) * planned;
  const more = failed - planned;
  const breakEvenChance = more <= 0 ? 1 : Math.min(1, lost / more);
  const isAlike = Math.abs(costNow - costNext) <= ALIKE * Math.min(costNow, costNext);
  const advice = isAlike ? "either" : costNow < costNext ? "now" : "next";
  const say = plainNumber;
  const because = [
    `Now: ${say(planned)} planned + ${say(lost)} of use thrown away = ${say(costNow)}.`,
    `Next visit: ${say(chance * 100)} % × ${say(failed)} failed + ${say((1 - chance) * 100)} % × ${say(planned)} planned = ${say(costNext)}.`,
    `Now pays above ${say(breakEvenChance * 100)} %.`,
  ].join(" ");
  return { advice, costNow, costNext, breakEvenChance, because };
}
