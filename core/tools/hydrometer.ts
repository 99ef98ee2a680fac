import { CoreError } from "../errors";
import { requireList, requireRecord } from "../inputs";
import { requireFinite, requirePositive } from "../numbers";

/** Reference temperature of hydrometers for flooded lead-acid cells, 80 °F. */
const referenceC = 26.7;
const correctionPerStep = 0.004;
const stepC = 5.56;
/** Typical (common practice): a cell that far below the best one is suspect. */
export const suspectSpread = 0.05;
/** Typical (common practice): below this at rest a cell wants charging. */
export const chargeBelow = 1.225;

export interface HydrometerVerdict {
  /** Specific gravity of each cell referred to 26.7 °C, in the order given. */
  corrected: number[];
  /** Highest less lowest corrected value. */
  spread: number;
  verdict: string;
}

/**
 * Specific gravity of flooded lead-acid cells, corrected for temperature: + 0.004 for each 5.56 °C (10 °F) above 26.7 °C
 * (80 °F), − below.
 *
 * @param input.readings one per cell: `sg` as read (kg/kg, about 1.1 to 1.3), electrolyte temperature in °C
 * @throws CoreError `missing` without a reading, `bad-number`
 * @example hydrometer({ readings: [{ sg: 1.25, tempC: 32.26 }] }).corrected // => [1.254]
 */
export function hydrometer(input: { readings: { sg: number; tempC: number }[] }): HydrometerVerdict {
  if (requireList(requireRecord(input, "input").readings, "readings").length === 0)
    throw new CoreError("missing", "readings", "Read at least one cell.");
  const corrected = input.readings.map(
    (reading, i) =>
      requirePositive(requireRecord(reading, `readings[${i}]`).sg, `readings[${i}].sg`) +
      ((requireFinite(reading.tempC, `readings[${i}].tempC`) - referenceC) / stepC) * correctionPerStep,
  );
  const lowest = Math.min(...corrected);
  const spread = Math.max(...corrected) - lowest;
  return { corrected, spread, verdict: verdict(corrected, lowest, spread) };
}

function verdict(corrected: number[], lowest: number, spread: number): string {
  const cell = corrected.indexOf(lowest) + 1;
  if (spread >= suspectSpread - 1e-9) {
    return `Cell ${cell} is ${spread.toFixed(3)} below the best: equalise by the maker's manual, read again; still apart, the cell is failing.`;
  }
  if (lowest < chargeBelow) return `Lowest cell ${lowest.toFixed(3)}: charge fully, let it rest, read again.`;
  return `Even (spread ${spread.toFixed(3)}), lowest ${lowest.toFixed(3)}: as it should be.`;
}
