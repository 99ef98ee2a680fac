import type { ChemicalClass } from "./check-mix";

/** What a step touches with what it brings, as far as something harms it. */
export const surfaces = [
  "aluminium",
  "copper-alloy",
  "carbon-steel",
  "galvanised",
  "stainless-steel",
  "acrylic",
  "rubber",
  "coated",
  "stone",
  "optics",
] as const;
export type Surface = (typeof surfaces)[number];

/** Grades of water and of solvents: another grade is another material, whatever its name. */
export const grades = [
  "tap-water",
  "distilled-water",
  "deionised-water",
  "pure-water",
  "alcohol-70",
  "alcohol-91",
  "alcohol-99",
  "solvent-grade",
] as const;
export type Grade = (typeof grades)[number];

interface Harm {
  /** A product class, or a grade. */
  agent: ChemicalClass | Grade;
  surface: Surface;
  harm: string;
  source: string;
}

// Sources quoted from memory of their content; the maker's manual and the label of the product in hand come first.
const NOAA = "NOAA/EPA, reactive groups of the Chemical Reactivity Worksheet";
const CDC =
  "CDC, Guideline for Disinfection and Sterilization in Healthcare Facilities (2008): hypochlorites corrode metals";
const ASTM = "ASTM B858, test of copper alloys for stress-corrosion cracking by ammonia vapour";
const PRACTICE = "common practice";

const HARMS: readonly Harm[] = [
  { agent: "caustic", surface: "aluminium", harm: "Eats aluminium and sets hydrogen free.", source: NOAA },
  { agent: "caustic", surface: "galvanised", harm: "Dissolves zinc and sets hydrogen free.", source: NOAA },
  { agent: "caustic", surface: "coated", harm: "Dulls the coating and lifts it.", source: PRACTICE },
  { agent: "acid", surface: "aluminium", harm: "Eats aluminium and sets hydrogen free.", source: NOAA },
  { agent: "acid", surface: "galvanised", harm: "Dissolves zinc and sets hydrogen free.", source: NOAA },
  { agent: "acid", surface: "carbon-steel", harm: "Rusts it at once.", source: NOAA },
  { agent: "acid", surface: "stone", harm: "Etches it.", source: PRACTICE },
  { agent: "oxidising-acid", surface: "aluminium", harm: "Attacks it.", source: NOAA },
  { agent: "oxidising-acid", surface: "carbon-steel", harm: "Attacks it, with toxic gases.", source: NOAA },
  { agent: "oxidising-acid", surface: "copper-alloy", harm: "Dissolves it, with toxic gases.", source: NOAA },
  { agent: "hypochlorite", surface: "aluminium", harm: "Pits it.", source: CDC },
  { agent: "hypochlorite", surface: "carbon-steel", harm: "Rusts it.", source: CDC },
  { agent: "hypochlorite", surface: "copper-alloy", harm: "Corrodes it.", source: CDC },
  { agent: "ammonia", surface: "copper-alloy", harm: "Cracks it under stress.", source: ASTM },
  { agent: "ammonia", surface: "acrylic", harm: "Clouds and crazes it.", source: PRACTICE },
  { agent: "alcohol", surface: "acrylic", harm: "Crazes it.", source: PRACTICE },
  { agent: "solvent", surface: "acrylic", harm: "Dissolves it.", source: PRACTICE },
  { agent: "solvent", surface: "rubber", harm: "Swells it and makes it brittle.", source: PRACTICE },
  { agent: "solvent", surface: "coated", harm: "Takes the coating off.", source: PRACTICE },
  { agent: "peroxide", surface: "copper-alloy", harm: "Is used up at once and tarnishes it.", source: NOAA },
  { agent: "deionised-water", surface: "copper-alloy", harm: "Draws metal out of it.", source: PRACTICE },
  { agent: "pure-water", surface: "copper-alloy", harm: "Draws metal out of it.", source: PRACTICE },
  { agent: "pure-water", surface: "carbon-steel", harm: "Rusts it.", source: PRACTICE },
  { agent: "tap-water", surface: "optics", harm: "Dries to spots of lime.", source: PRACTICE },
  { agent: "alcohol-70", surface: "optics", harm: "A third of it is water, which dries to a film.", source: PRACTICE },
];

const BY_PAIR = new Map(HARMS.map((row) => [`${row.agent} ${row.surface}`, row]));

/**
 * What a product class or a grade does to a surface; null when no harm is known here. That says no more: the maker's manual and
 * the label come first.
 */
export function harmTo(agent: ChemicalClass | Grade, surface: Surface): { harm: string; source: string } | null {
  const row = BY_PAIR.get(`${agent} ${surface}`);
  return row ? { harm: row.harm, source: row.source } : null;
}
