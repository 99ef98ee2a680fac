/** Short names of the equipment families and what people call them. */
export const FAMILIES: Record<string, string> = {
  "recirculating-chiller": "Recirculating chiller",
  "mass-spectrometer": "Mass spectrometer",
  "flatbed-uv-printer": "Flatbed UV printer",
  "conveyor-toaster": "Conveyor toaster",
  "ride-on-scrubber": "Ride-on scrubber",
  "slide-stainer": "Slide stainer",
  "flake-ice-maker": "Flake ice maker",
  "wide-format-printer": "Wide-format printer",
  "cnc-lathe": "CNC lathe",
  "prep-cabinet": "Refrigerated prep cabinet",
  "steam-steriliser": "Tabletop steam steriliser",
  "chemistry-analyser": "Clinical chemistry analyser",
  "icp-spectrometer": "ICP optical spectrometer",
  "conveyor-oven": "Conveyor oven",
  "soft-serve-freezer": "Soft-serve freezer",
  "card-printer": "Card printer",
  "wash-tunnel-conveyor": "Wash-tunnel conveyor",
  "ride-on-sweeper": "Ride-on sweeper",
  "dental-mill": "Dental mill and scanner",
};

export function familyName(family: string): string {
  return FAMILIES[family] ?? family.replaceAll("-", " ");
}
