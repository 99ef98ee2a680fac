/** How a machine of a family behaves as far as practice shows it; typical values, common practice without a single source. */
export interface FamilyModel {
  /** Surface that one touches, °C, when it has been in use. */
  warmC: number;
  /** Minutes in which what is above the room's temperature halves, switched off. */
  halvesInMinutes: number;
}

const MODELS: Readonly<Record<string, FamilyModel>> = {
  "card-printer": { warmC: 55, halvesInMinutes: 6 },
  "chemistry-analyser": { warmC: 37, halvesInMinutes: 20 },
  "cnc-lathe": { warmC: 45, halvesInMinutes: 30 },
  "conveyor-oven": { warmC: 190, halvesInMinutes: 24 },
  "conveyor-toaster": { warmC: 150, halvesInMinutes: 11 },
  "dental-mill": { warmC: 40, halvesInMinutes: 15 },
  "flake-ice-maker": { warmC: 45, halvesInMinutes: 20 },
  "flatbed-uv-printer": { warmC: 70, halvesInMinutes: 4 },
  "icp-spectrometer": { warmC: 90, halvesInMinutes: 7 },
  "mass-spectrometer": { warmC: 120, halvesInMinutes: 8 },
  "prep-cabinet": { warmC: 45, halvesInMinutes: 20 },
  "recirculating-chiller": { warmC: 50, halvesInMinutes: 20 },
  "ride-on-scrubber": { warmC: 45, halvesInMinutes: 25 },
  "ride-on-sweeper": { warmC: 80, halvesInMinutes: 25 },
  "slide-stainer": { warmC: 60, halvesInMinutes: 4 },
  "soft-serve-freezer": { warmC: 45, halvesInMinutes: 20 },
  "steam-steriliser": { warmC: 110, halvesInMinutes: 14 },
  "wash-tunnel-conveyor": { warmC: 70, halvesInMinutes: 20 },
  "wide-format-printer": { warmC: 45, halvesInMinutes: 10 },
};

/** Of a family that has none of its own. */
const ANY: FamilyModel = { warmC: 50, halvesInMinutes: 20 };

/** How machines of a family behave. */
export const familyModel = (family: string): FamilyModel =>
  (Object.hasOwn(MODELS, family) ? MODELS[family] : ANY) ?? ANY;
