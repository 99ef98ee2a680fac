import { CoreError } from "../errors";

/** Product classes as labels and safety data sheets tell them apart. */
export const chemicalClasses = [
  "hypochlorite",
  "acid",
  "oxidising-acid",
  "ammonia",
  "quaternary",
  "alcohol",
  "peroxide",
  "caustic",
  "detergent",
  "anionic",
  "solvent",
  "aldehyde",
  "phenolic",
  "iodophor",
  "water",
] as const;
export type ChemicalClass = (typeof chemicalClasses)[number];

interface Incompatible {
  pair: [ChemicalClass, ChemicalClass];
  hazard: string;
  source: string;
}

// Sources quoted from memory of their content; the label and the safety data sheet of the product in hand come first.
const CDC =
  "CDC, Guideline for Disinfection and Sterilization in Healthcare Facilities (2008), section on chlorine compounds";
const DOH = "Washington State Department of Health, Dangers of Mixing Bleach with Cleaners";
const NOAA = "NOAA/EPA, reactive groups of the Chemical Reactivity Worksheet";
const PRACTICE = "common practice";

const TABLE: readonly Incompatible[] = [
  {
    pair: ["hypochlorite", "acid"],
    hazard: "Chlorine gas is set free: burns eyes and lungs, deadly in a closed room.",
    source: CDC,
  },
  {
    pair: ["hypochlorite", "oxidising-acid"],
    hazard: "Chlorine gas is set free: burns eyes and lungs, deadly in a closed room.",
    source: CDC,
  },
  { pair: ["hypochlorite", "ammonia"], hazard: "Chloramine gases are set free: burn eyes and lungs.", source: DOH },
  {
    pair: ["hypochlorite", "quaternary"],
    hazard: "Chloramine gases can be set free, and both stop disinfecting.",
    source: DOH,
  },
  { pair: ["hypochlorite", "alcohol"], hazard: "Chloroform and other toxic chlorinated compounds form.", source: DOH },
  {
    pair: ["hypochlorite", "peroxide"],
    hazard: "Violent release of oxygen and heat; a closed container bursts.",
    source: NOAA,
  },
  { pair: ["hypochlorite", "solvent"], hazard: "Toxic chlorinated compounds and heat; can ignite.", source: NOAA },
  { pair: ["hypochlorite", "aldehyde"], hazard: "Heat and toxic gases form.", source: NOAA },
  { pair: ["hypochlorite", "phenolic"], hazard: "Toxic chlorinated phenols form.", source: NOAA },
  {
    pair: ["hypochlorite", "iodophor"],
    hazard: "Iodophors are acid: chlorine and iodine vapours are set free.",
    source: NOAA,
  },
  { pair: ["acid", "caustic"], hazard: "Strong heat; the mixture boils and spits.", source: NOAA },
  { pair: ["oxidising-acid", "caustic"], hazard: "Strong heat; the mixture boils and spits.", source: NOAA },
  { pair: ["acid", "ammonia"], hazard: "Heat and irritating vapours.", source: NOAA },
  { pair: ["oxidising-acid", "ammonia"], hazard: "Heat and irritating vapours.", source: NOAA },
  { pair: ["acid", "peroxide"], hazard: "Corrosive peracids form; irritating vapours.", source: DOH },
  {
    pair: ["oxidising-acid", "peroxide"],
    hazard: "Strong oxidisers with heat; can burst the container.",
    source: NOAA,
  },
  {
    pair: ["oxidising-acid", "alcohol"],
    hazard: "Can ignite or explode: nitric acid and alcohol never go into one waste bottle.",
    source: NOAA,
  },
  {
    pair: ["oxidising-acid", "solvent"],
    hazard: "Can ignite or explode: keep oxidising acids out of the solvent waste.",
    source: NOAA,
  },
  {
    pair: ["oxidising-acid", "phenolic"],
    hazard: "Phenols are nitrated and oxidised with much heat: toxic gases, can ignite.",
    source: NOAA,
  },
  {
    pair: ["peroxide", "phenolic"],
    hazard: "Oxidises with heat and pressure; can ignite when concentrated.",
    source: NOAA,
  },
  {
    pair: ["peroxide", "aldehyde"],
    hazard: "Explosive peroxides can form; heat.",
    source: NOAA,
  },
  {
    pair: ["peroxide", "iodophor"],
    hazard: "The peroxide decomposes: oxygen, heat, iodine vapours.",
    source: NOAA,
  },
  { pair: ["oxidising-acid", "aldehyde"], hazard: "Can ignite; heat and toxic gases.", source: NOAA },
  { pair: ["peroxide", "alcohol"], hazard: "Concentrated mixtures can explode.", source: NOAA },
  { pair: ["peroxide", "solvent"], hazard: "Explosive peroxides can form.", source: NOAA },
  { pair: ["peroxide", "caustic"], hazard: "The peroxide decomposes: oxygen, heat, pressure.", source: NOAA },
  { pair: ["peroxide", "ammonia"], hazard: "Heat and irritating vapours.", source: NOAA },
  { pair: ["ammonia", "caustic"], hazard: "Ammonia gas is driven out.", source: NOAA },
  { pair: ["iodophor", "ammonia"], hazard: "Shock-sensitive nitrogen triiodide can form.", source: NOAA },
  { pair: ["aldehyde", "ammonia"], hazard: "Heat; the disinfectant is used up.", source: NOAA },
  { pair: ["aldehyde", "caustic"], hazard: "Reacts with heat.", source: NOAA },
  {
    pair: ["quaternary", "anionic"],
    hazard: "Anionic detergent and soap make the disinfectant useless: rinse in between.",
    source: PRACTICE,
  },
  {
    pair: ["quaternary", "detergent"],
    hazard: "Ordinary detergent is mostly anionic and makes the disinfectant useless: rinse in between.",
    source: PRACTICE,
  },
];

const KNOWN = new Set<string>(chemicalClasses);
const BY_PAIR = new Map(TABLE.map((row) => [[...row.pair].sort().join("+"), row]));

export interface MixVerdict {
  safe: boolean;
  hazard?: string;
  source?: string;
}

/**
 * Whether two product classes may meet: in one vessel, or one after the other without a rinse. Order does not matter.
 * "Safe" says only that no hazard between the classes is known here; labels and safety data sheets come first.
 *
 * @throws CoreError `bad-value` for a class that is not known: never "safe" by ignorance
 * @example checkMix("acid", "hypochlorite").safe // => false
 */
export function checkMix(a: string, b: string): MixVerdict {
  for (const [path, name] of [
    ["a", a],
    ["b", b],
  ] as const) {
    if (!KNOWN.has(name)) {
      throw new CoreError(
        "bad-value",
        path,
        `"${name}" is no product class this table knows. Do not mix; read the labels. Known: ${chemicalClasses.join(", ")}.`,
      );
    }
  }
  const row = BY_PAIR.get([a, b].sort().join("+"));
  return row ? { safe: false, hazard: row.hazard, source: row.source } : { safe: true };
}
