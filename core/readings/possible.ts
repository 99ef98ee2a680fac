import { requireText } from "../inputs";

/** The lowest and the highest that a value can be; null where there is no end. */
export type Span = [low: number | null, high: number | null];

const FROM_ZERO: Span = [0, null];
const UNITS: readonly [Span, string][] = [
  // Lengths, areas, volumes, masses, times, counts and shares are none of them below nothing.
  [FROM_ZERO, "nm um µm μm mm cm dm m km in inch inches ft mil thou"],
  [FROM_ZERO, "mm² cm² m² mm2 cm2 m2"],
  [FROM_ZERO, "µL μL uL mL ml cL L l gal us-gal imp-gal qt cup m³ m3"],
  [FROM_ZERO, "µg μg ug mg g kg t lb lbs oz"],
  [FROM_ZERO, "ms s sec min h hr hrs hour hours d day days"],
  [FROM_ZERO, "pc pcs piece pieces count counts cps kcps uses times"],
  [FROM_ZERO, "runs cycles prints slides cards pages plates tests shots batches nozzles dots drops errors"],
  [FROM_ZERO, "ppm ppb mg/L g/L mmol/L µmol/L kg/L g/mL"],
  [FROM_ZERO, "L/min mL/min l/min rpm 1/min Hz"],
  [[0, 100], "% percent %RH vol% wt%"],
  [[0, 1000], "‰"],
  // Nothing is colder than this.
  [[-273.15, null], "°C degC ℃ C"],
  [[-459.67, null], "°F degF ℉ F"],
  [[0, null], "K"],
];
const BY_UNIT = new Map(UNITS.flatMap(([span, units]) => units.split(" ").map((unit) => [unit, span] as const)));
const HOURS = new Set(["h", "hr", "hrs", "hour", "hours"]);

/**
 * What physics lets a value of a unit be, whatever is measured: no negative lengths, masses, counts or shares, no more than
 * 100 %, nothing below absolute zero (−273.15 °C by definition of the kelvin, SI brochure).
 *
 * @param unit as written; words behind it are left aside (`% full`)
 * @returns [null, null] for units that are not known, and for such as may be below nothing: pressures, voltages, pH
 */
export function possibleOf(unit: string): Span {
  const trimmed = requireText(unit, "unit").trim();
  return [...(BY_UNIT.get(trimmed) ?? BY_UNIT.get(trimmed.split(" ")[0] ?? "") ?? [null, null])] as Span;
}

export const isHours = (unit: string): boolean => HOURS.has(unit.trim());
