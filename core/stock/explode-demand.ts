import { parseDay } from "../days/parse-day";
import { CoreError } from "../errors";
import { requireList, requireRecord, requireText, withoutNulls } from "../inputs";
import { must } from "../must";
import { requireNotNegative } from "../numbers";
import type { ItemDemand, ItemUse } from "./types";

/**
 * What services on given days take, one line for each item of each service, in the order of the services.
 *
 * @param input.occurrences days of services, each of a plan
 * @param input.uses by plan, what one service takes; a plan without an entry takes nothing
 * @returns quantities as they stand in `uses`, not multiplied by the chance: what is sure (chance 1) and what is likely stay apart
 * @throws CoreError for days that do not exist, negative quantities and chances outside 0 to 1
 * @example explodeDemand({ occurrences: [{ on: '2026-03-01', planId: 'p' }], uses: { p: [{ item: 'filter', qty: 1 }] } })
 *   // => [{ on: '2026-03-01', item: 'filter', qty: 1, chance: 1 }]
 */
export function explodeDemand(input: {
  occurrences: readonly { on: string; planId: string }[];
  uses: Readonly<Record<string, readonly ItemUse[]>>;
}): ItemDemand[] {
  for (const [planId, uses] of Object.entries(requireRecord(requireRecord(input, "input").uses, "uses"))) {
    requireList(uses, `uses.${planId}`).forEach((use, i) => {
      const { item, qty, chance } = withoutNulls(requireRecord(use, `uses.${planId}[${i}]`));
      requireText(item, `uses.${planId}[${i}].item`);
      requireNotNegative(qty, `uses.${planId}[${i}].qty`);
      if (chance !== undefined && requireNotNegative(chance, `uses.${planId}[${i}].chance`) > 1)
        throw new CoreError(
          "out-of-range",
          `uses.${planId}[${i}].chance`,
          `A chance lies between 0 and 1, not ${chance}.`,
        );
    });
  }
  return requireList(input.occurrences, "occurrences").flatMap((occurrence, i) => {
    const { on, planId } = requireRecord(occurrence, `occurrences[${i}]`);
    parseDay(on, `occurrences[${i}].on`);
    const uses = Object.hasOwn(input.uses, planId) ? must(input.uses[planId]) : [];
    return uses.map(({ item, qty, chance }) => ({ on, item, qty, chance: chance ?? 1 }));
  });
}
