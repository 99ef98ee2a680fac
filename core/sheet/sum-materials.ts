import { CoreError } from "../errors";
import { requireList, requireRecord, requireText } from "../inputs";
import type { UsedConsumable } from "./run-state";

/** What was used of one material over a sheet or several, in one unit. */
export interface SummedMaterial {
  item: string;
  unit: string;
  qty: number;
  /** Lots it came from, each once; none where none was logged. */
  lots: string[];
}

/**
 * Sums materials by item and unit, in the order of their first use. Units are not converted into each other: what was poured by
 * the litre and by the pack stays two lines.
 *
 * @throws CoreError for an amount that is no number
 */
export function sumMaterials(
  used: readonly (Pick<UsedConsumable, "item" | "qty" | "unit"> & { lot?: string | null })[],
): SummedMaterial[] {
  const sums = new Map<string, SummedMaterial>();
  for (const [i, one] of requireList(used, "used").entries()) {
    const { item, unit, qty, lot } = requireRecord(one, `used[${i}]`);
    if (!Number.isFinite(qty)) throw new CoreError("bad-value", `used[${i}].qty`, `used[${i}].qty must be a number.`);
    const key = `${requireText(item, `used[${i}].item`)}\n${requireText(unit, `used[${i}].unit`)}`;
    const sum = sums.get(key) ?? { item, unit, qty: 0, lots: [] };
    // Without the rounding errors of sums such as 0.1 + 0.2.
    sum.qty = Number((sum.qty + qty).toPrecision(12));
    if (lot && !sum.lots.includes(requireText(lot, `used[${i}].lot`))) sum.lots.push(lot);
    sums.set(key, sum);
  }
  return [...sums.values()];
}
