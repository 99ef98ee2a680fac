import type { MachineState, Procedure } from "../../sheet/procedure";
import { withDefaults } from "../../sheet/terse";

/** A conveyor oven's states: isolated and cool for the work, with power for start and proof (common practice, typical figures). */
const STATES: MachineState[] = [
  {
    id: "isolated",
    name: "Isolated",
    excludes: ["powered"],
    in: { checks: ["Switched off", "Unplugged or breaker open, locked"], gates: ["lock-out", "tag"], minutes: 3 },
    out: { checks: ["Tools out", "Panels and baffles on", "Lock and tag off by who put them on"], minutes: 2 },
  },
  {
    id: "cool",
    name: "Cool",
    lostBy: ["powered"],
    in: { checks: ["Inner walls cool to the hand"], gates: ["cool-down"], belowC: 50, waitMinutes: 60, minutes: 1 },
  },
  { id: "powered", name: "With power", in: { checks: ["People clear of the belt"] } },
];
const SAFE = { state: ["isolated", "cool"] };
const POWERED = { state: ["powered"] };
const off = (title: string, item: string, count: number, opens: string | undefined, minutes: number): object => ({
  title,
  ...SAFE,
  minutes,
  takesOff: [{ item, count }],
  ...(opens ? { opens } : {}),
});
const back = (title: string, item: string, count: number, minutes: number): object => ({
  title,
  ...SAFE,
  minutes,
  putsBack: [{ item, count }],
});
const soaked = (path: string, what: string, rinse: number, dry: number): object[] => [
  { title: `Spray the ${what} with degreaser`, path, minutes: 2, uses: [{ item: "oven-degreaser", qty: 150 }] },
  { title: `Degreaser on the ${what}`, kind: "wait", path, minMinutes: 20 },
  { title: `Rinse the ${what}`, path, minutes: rinse, needs: ["sink"], rinses: true },
  { title: `Dry the ${what}`, kind: "wait", path, minMinutes: dry },
];

const head = (id: string, title: string, handsOn: number, waiting: number): object => ({
  format: "humble-hound/procedure",
  formatVersion: 2,
  id,
  version: 1,
  title,
  family: "conveyor-oven",
  summary: "Typical figures; the maker's manual and local rules come first.",
  who: "technician",
  minutes: { handsOn, waiting },
  hazards: [{ kind: "hot", text: "Walls stay hot for an hour after it is switched off." }],
  materials: [
    { item: "oven-degreaser", name: "Oven degreaser, non-caustic", qty: 450, unit: "mL", chemical: "anionic" },
  ],
  states: STATES,
});

const daily = withDefaults({
  ...head("oven-daily", "Oven: daily clean", 14, 70),
  plan: { triggers: [{ kind: "calendar", every: 1, unit: "day", basis: "grid" }] },
  materials: [],
  steps: [
    off("Crumb pans out", "crumb pans", 2, "pans", 2),
    { title: "Empty and wash the pans", path: "pans", minutes: 3, needs: ["sink"] },
    { title: "Dry the pans", kind: "wait", path: "pans", minMinutes: 5 },
    { title: "Wipe the exterior along the grain", ...SAFE, minutes: 3 },
    back("Pans back in their rails", "crumb pans", 2, 1),
    { title: "Belt runs", kind: "prove", expect: "Belt runs at speed, pans seated", ...POWERED, minutes: 1 },
  ],
}) as Procedure;

const weekly = withDefaults({
  ...head("oven-weekly", "Oven: weekly strip and degrease", 60, 170),
  plan: { triggers: [{ kind: "calendar", every: 1, unit: "week", basis: "grid" }], covers: ["oven-daily"] },
  steps: [
    { title: "Daily part", id: "daily", kind: "nested", procedure: "oven-daily", version: 1 },
    off("End baffles off", "end baffles", 2, undefined, 1),
    off("Conveyor out", "conveyor", 1, "conveyor", 3),
    ...soaked("conveyor", "conveyor", 3, 10),
    off("End panels off", "end panels", 2, "panels", 2),
    ...soaked("panels", "end panels", 1, 10),
    off("Upper jet ducts out, then their baffle", "upper ducts", 2, undefined, 4),
    off("Lower jet ducts out, then their baffle", "lower ducts", 2, "ducts", 3),
    ...soaked("ducts", "duct covers", 2, 5),
    { title: "Wash housings, plates and baffles", ...SAFE, minutes: 7, needs: ["sink"] },
    { title: "Clean the chamber", ...SAFE, minutes: 8 },
    { title: "Clean vents and louvres", ...SAFE, minutes: 3 },
    back("Lower baffle and ducts in", "lower ducts", 2, 3),
    back("Upper baffle and ducts in", "upper ducts", 2, 3),
    back("End panels on", "end panels", 2, 2),
    back("Conveyor in, drive pin in its notch", "conveyor", 1, 3),
    back("End baffles on", "end baffles", 2, 1),
    { title: "Switch on", ...POWERED, minutes: 1 },
    { title: "Preheat", kind: "wait", ...POWERED, minMinutes: 30 },
    {
      title: "Belt time",
      kind: "measure",
      ...POWERED,
      minutes: 3,
      reading: "belt-time",
      unit: "s",
      trials: 2,
      judge: "mean",
    },
    { title: "Bake one", kind: "prove", expect: "Baked through and even", ...POWERED, minutes: 2 },
  ],
}) as Procedure;

/** A weekly service of an oven written with states and paths, and the daily clean that it holds. */
export const OVEN = { daily, weekly };
