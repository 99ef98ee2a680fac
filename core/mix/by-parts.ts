import { CoreError } from "../errors";
import { requireRecord } from "../inputs";
import { requireNotNegative, requirePositive } from "../numbers";

/**
 * Splits a volume by parts: 1:1 acetonitrile to water, 1:3 cleaner to water.
 *
 * @param input.parts parts of each component, zero or more, at least one above zero
 * @param input.finalMl volume of the finished mixture in mL, above 0 (volumes taken as additive)
 * @returns mL of each component; their sum is `finalMl`
 * @throws CoreError `bad-number`, or `missing` when no part is above zero
 * @example byParts({ parts: { cleaner: 1, water: 3 }, finalMl: 1000 }) // => { cleaner: 250, water: 750 }
 */
export function byParts(input: { parts: Record<string, number>; finalMl: number }): Record<string, number> {
  const finalMl = requirePositive(requireRecord(input, "input").finalMl, "finalMl");
  const entries = Object.entries(requireRecord(input.parts, "parts")).map(
    ([name, parts]) => [name, requireNotNegative(parts, `parts.${name}`)] as const,
  );
  const whole = entries.reduce((sum, [, parts]) => sum + parts, 0);
  if (whole <= 0) throw new CoreError("missing", "parts", "Give at least one component with a part above zero.");
  return Object.fromEntries(entries.map(([name, parts]) => [name, (finalMl * parts) / whole]));
}
