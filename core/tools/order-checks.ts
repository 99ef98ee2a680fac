import { CoreError } from "../errors";
import { requireList, requireRecord, requireText } from "../inputs";
import { must } from "../must";
import { requireNotNegative } from "../numbers";

/**
 * The order of fault checks with the least expected time, when exactly one cause is present and each check is conclusive:
 * by probability per minute, highest first (the weighted-shortest-time rule of W. E. Smith, Naval Research Logistics
 * Quarterly 3 (1956) 59–66). Every check up to and including the cause's is carried out. Ties keep the order given.
 *
 * @param input.causes probabilities between 0 and 1 that sum to 1 (± 10⁻⁶); minutes zero or more
 * @throws CoreError `missing` without a cause, `bad-value` for an id twice, `out-of-range` when the sum is not 1
 * @example orderChecks({ causes: [{ id: "a", probability: 0.5, minutes: 10 }, { id: "b", probability: 0.5, minutes: 2 }] })
 * // => { order: ["b", "a"], expectedMinutes: 7 }
 */
export function orderChecks(input: { causes: { id: string; probability: number; minutes: number }[] }): {
  order: string[];
  expectedMinutes: number;
} {
  const { causes } = requireRecord(input, "input");
  requireList(causes, "causes").forEach((one, i) =>
    requireText(requireRecord(one, `causes[${i}]`).id, `causes[${i}].id`),
  );
  if (causes.length === 0) throw new CoreError("missing", "causes", "Give at least one cause.");
  if (new Set(causes.map((one) => one.id)).size < causes.length)
    throw new CoreError("bad-value", "causes", "Every cause needs an id of its own.");
  const sum = causes.reduce(
    (total, one, i) => total + requireNotNegative(one.probability, `causes[${i}].probability`),
    0,
  );
  if (Math.abs(sum - 1) > 1e-6)
    throw new CoreError("out-of-range", "causes", `The probabilities add up to ${sum}, not to 1.`);
  const worth = new Map(
    causes.map((one, i) => [
      one.id,
      requireNotNegative(one.minutes, `causes[${i}].minutes`) === 0 ? Infinity : one.probability / one.minutes,
    ]),
  );
  const ordered = causes
    .map((one, i) => ({ one, i }))
    .sort((a, b) => compare(must(worth.get(b.one.id)), must(worth.get(a.one.id))) || a.i - b.i);
  let elapsed = 0;
  let expectedMinutes = 0;
  for (const { one } of ordered) {
    elapsed += one.minutes;
    expectedMinutes += one.probability * elapsed;
  }
  return { order: ordered.map(({ one }) => one.id), expectedMinutes };
}

/** Rounding alone sets no check before another. Not by subtraction: two infinite worths are equal. */
function compare(a: number, b: number): number {
  return a === b || Math.abs(a - b) <= 1e-13 * Math.min(a, b) ? 0 : a < b ? -1 : 1;
}
