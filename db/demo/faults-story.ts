/** A fault of the past: what the operator said, what it was, and how long the machine stood. */
export interface PastFault {
  tag: string;
  daysAgo: number;
  by: "mira" | "tove";
  symptom: string;
  /** Nothing was found when there is none. */
  cause?: string;
  /** What was reported, and hours until somebody came; found on the way by whoever was there when there is none. */
  report?: { name: string; text: string; stopped: boolean; hours: number };
}

/** The firm's faults of its last year, some of them again and again. */
export const FAULTS: PastFault[] = [
  {
    ...{ tag: "HH-1010", daysAgo: 301, by: "mira", symptom: "weak-suction", cause: "lid-seal" },
    report: { name: "Café desk", text: "Leaves water behind itself everywhere", stopped: true, hours: 26 },
  },
  {
    ...{ tag: "HH-1002", daysAgo: 284, by: "tove", symptom: "grinds", cause: "ice-chunks" },
    report: { name: "Fish kitchen", text: "Grinding since last night, we switched it off", stopped: true, hours: 5 },
  },
  { tag: "HH-8003", daysAgo: 262, by: "tove", symptom: "noise", cause: "coupler-dry" },
  {
    ...{ tag: "HH-2006", daysAgo: 240, by: "mira", symptom: "drip-pan", cause: "seal-dry" },
    report: { name: "Kiosk", text: "Mix in the drip pan every evening", stopped: false, hours: 30 },
  },
  {
    ...{ tag: "HH-7003", daysAgo: 221, by: "tove", symptom: "cycle-fault", cause: "wrong-water" },
    report: { name: "Clinic desk", text: "Stops in the middle with a beep", stopped: true, hours: 4 },
  },
  { tag: "HH-6003", daysAgo: 205, by: "mira", symptom: "screw-noise", cause: "wiper-chips" },
  {
    ...{ tag: "HH-1010", daysAgo: 188, by: "mira", symptom: "streaks", cause: "hose-clogged" },
    report: { name: "Café desk", text: "Streaks on the floor after cleaning", stopped: false, hours: 50 },
  },
  {
    ...{ tag: "HH-8003", daysAgo: 166, by: "tove", symptom: "off-track", cause: "dirt-side" },
    report: { name: "Wash hall", text: "Trays wander to the left and jam", stopped: true, hours: 7 },
  },
  { tag: "HH-7002", daysAgo: 149, by: "tove", symptom: "puddle", cause: "cap-seal" },
  {
    ...{ tag: "HH-2006", daysAgo: 131, by: "mira", symptom: "sticky", cause: "wipe-skipped" },
    report: { name: "Kiosk", text: "Lever sticks", stopped: false, hours: 22 },
  },
  {
    ...{ tag: "HH-1002", daysAgo: 118, by: "mira", symptom: "smells", cause: "bin-dirty" },
    report: { name: "Fish kitchen", text: "The ice smells of something", stopped: true, hours: 20 },
  },
  { tag: "HH-6004", daysAgo: 103, by: "tove", symptom: "waste-back", cause: "bottle-full" },
  {
    ...{ tag: "HH-1010", daysAgo: 84, by: "tove", symptom: "weak-suction", cause: "hose-clogged" },
    report: { name: "Café desk", text: "Water stays on the floor", stopped: false, hours: 28 },
  },
  {
    ...{ tag: "HH-8003", daysAgo: 69, by: "mira", symptom: "noise", cause: "coupler-damaged" },
    report: { name: "Wash hall", text: "Bangs once every turn", stopped: true, hours: 3 },
  },
  { tag: "HH-7002", daysAgo: 55, by: "tove", symptom: "smell", cause: "door-closed" },
  {
    ...{ tag: "HH-2006", daysAgo: 41, by: "mira", symptom: "message" },
    report: { name: "Kiosk", text: "A message we have never seen, gone by now", stopped: false, hours: 19 },
  },
  {
    ...{ tag: "HH-8003", daysAgo: 27, by: "tove", symptom: "off-track", cause: "dirt-side" },
    report: { name: "Wash hall", text: "Trays wander again", stopped: true, hours: 6 },
  },
  { tag: "HH-1002", daysAgo: 16, by: "mira", symptom: "soft-ice", cause: "scale" },
];
