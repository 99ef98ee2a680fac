/** Small schematics drawn by the app where a picture beats words. */
export type Figure =
  | { kind: "tightening"; bolts: number }
  | { kind: "polish-mark"; low: number; high: number; unit: string }
  | { kind: "battery-level"; school: "height" | "band" }
  | { kind: "gap-gauge"; limit: number; unit: string }
  | { kind: "pair"; labels: string[] }
  | { kind: "slots"; labels: string[] }
  | { kind: "edges"; count: number }
  | { kind: "drawing"; of: DrawingName };

/** Drawings that ship with the app: a place on a machine, where words alone would be misread. */
export const drawingNames = [
  "strainer-flange",
  "plate-latches",
  "carriage-rail",
  "auger-feeler",
  "head-slots",
  "gasket-dart",
  "air-path",
  "strip-and-rod",
  "wiper-lip",
  "hinge-slot",
  "drain-tube",
  "well-rings",
  "torch-carbon",
  "jet-duct",
  "freezer-rings",
  "head-guide",
  "belt-split",
  "broom-core",
  "mill-door",
] as const;
export type DrawingName = (typeof drawingNames)[number];
