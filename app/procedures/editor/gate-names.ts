import type { GateKind } from "@core";

import type { Choice } from "./field-kinds";

const NAMES: Record<GateKind, string> = {
  "lock-out": "lock",
  tag: "tag",
  protective: "protective equipment",
  isolate: "valves closed",
  vent: "pressure off",
  drain: "drained",
  park: "parked",
  "cool-down": "cooling down",
  "stored-energy": "stored energy off",
  ventilate: "ventilation",
};

/** What makes a machine safe, to choose from. */
export const GATES: readonly Choice[] = Object.entries(NAMES).map(([id, name]) => ({ id, name }));
