import { CONDENSERS } from "./condenser-story";
import type { SheetScript } from "./simulate-sheet";
import { sweeperYear } from "./sweeper-year";

/** The made-up year of the demo firm, in days before today. Names, numbers and events are invented. */

export const DEMO_PASSWORD = "harbour-demo-1";

export const PEOPLE = [
  { signIn: "mira", name: "Mira Holt", role: "technician", authorisations: [] },
  {
    signIn: "jonas",
    name: "Jonas Rock",
    role: "lead",
    authorisations: [{ kind: "licensed-refrigeration", inDays: 200 }],
  },
  {
    signIn: "tove",
    name: "Tove Sand",
    role: "technician",
    authorisations: [{ kind: "licensed-refrigeration", inDays: -20 }],
  },
] as const;

/** Readings by hand: on `daysAgo` the meter of the machine showed `value`. */
export const METERS: { tag: string; meter: string; readings: [daysAgo: number, value: number][] }[] = [
  {
    tag: "HH-3001",
    meter: "runs",
    readings: [
      [80, 402],
      [52, 436],
      [30, 458],
      [12, 474],
      [2, 487],
    ],
  },
  {
    tag: "HH-7001",
    meter: "runs",
    readings: [
      [85, 810],
      [60, 858],
      [33, 905],
      [15, 938],
      [1, 961],
    ],
  },
  {
    tag: "HH-6001",
    meter: "power-on-hours",
    readings: [
      [60, 5010],
      [25, 5332],
    ],
  },
  {
    tag: "HH-6001",
    meter: "cutting-hours",
    readings: [
      [60, 2806],
      [25, 2988],
    ],
  },
  {
    tag: "HH-6001",
    meter: "spindle-hours",
    readings: [
      [60, 2096],
      [25, 2236],
    ],
  },
  {
    tag: "HH-1003",
    meter: "prints",
    readings: [
      [84, 3100],
      [50, 4650],
      [20, 6020],
      [3, 6810],
    ],
  },
  {
    tag: "HH-5002",
    meter: "prints",
    readings: [
      [79, 5200],
      [40, 8150],
      [18, 9820],
      [5, 10790],
    ],
  },
];

export const EVENTS: { tag: string; event: string; daysAgo: number }[] = [
  { tag: "HH-3001", event: "after-run", daysAgo: 2 },
  { tag: "HH-7001", event: "after-run", daysAgo: 6 },
  { tag: "HH-7001", event: "after-run", daysAgo: 1 },
  { tag: "HH-1003", event: "care-warning", daysAgo: 1 },
];

/** Sheets worked and signed, oldest first within a machine. */
export const SHEETS: { tag: string; procedure: string; daysAgo: number; by: string; script?: SheetScript }[] = [
  {
    tag: "HH-1001",
    procedure: "flake-ice-maker-bearings",
    daysAgo: 372,
    by: "tove",
    script: { readings: { "auger-bearing-gap": [0.006, 0.008, 0.006, 0.005] } },
  },
  {
    tag: "HH-1001",
    procedure: "flake-ice-maker-clean-sanitise",
    daysAgo: 372,
    by: "tove",
  },
  {
    tag: "HH-1001",
    procedure: "flake-ice-maker-clean-sanitise",
    daysAgo: 195,
    by: "mira",
    script: { rounds: 2, notOk: ["scale"] },
  },
  {
    tag: "HH-1002",
    procedure: "flake-ice-maker-bearings",
    daysAgo: 160,
    by: "mira",
    script: { readings: { "auger-bearing-gap": [0.004, 0.006, 0.006, 0.004] } },
  },
  {
    tag: "HH-1002",
    procedure: "flake-ice-maker-clean-sanitise",
    daysAgo: 160,
    by: "mira",
  },
  {
    tag: "HH-2004",
    procedure: "flake-ice-maker-bearings",
    daysAgo: 96,
    by: "tove",
    script: { readings: { "auger-bearing-gap": [0.015, 0.021, 0.018, 0.012, 0.001, 0.002, 0.001, 0.001] } },
  },
  {
    tag: "HH-2004",
    procedure: "flake-ice-maker-clean-sanitise",
    daysAgo: 96,
    by: "tove",
  },
  {
    tag: "HH-4001",
    procedure: "flake-ice-maker-bearings",
    daysAgo: 252,
    by: "tove",
    script: { readings: { "auger-bearing-gap": [0.008, 0.01, 0.009, 0.006] } },
  },
  {
    tag: "HH-4001",
    procedure: "flake-ice-maker-clean-sanitise",
    daysAgo: 252,
    by: "tove",
  },
  {
    tag: "HH-1003",
    procedure: "wide-format-printer-periodic",
    daysAgo: 150,
    by: "mira",
  },
  {
    tag: "HH-5001",
    procedure: "wide-format-printer-cartridge",
    daysAgo: 205,
    by: "tove",
  },
  {
    tag: "HH-5001",
    procedure: "wide-format-printer-periodic",
    daysAgo: 205,
    by: "tove",
    script: { rounds: 2 },
  },
  {
    tag: "HH-5001",
    procedure: "wide-format-printer-head",
    daysAgo: 61,
    by: "mira",
    script: { worn: { "head-virgin": ["slot-3"] } },
  },
  {
    tag: "HH-5002",
    procedure: "wide-format-printer-periodic",
    daysAgo: 150,
    by: "tove",
  },
  {
    tag: "HH-3001",
    procedure: "slide-stainer-50-runs",
    daysAgo: 60,
    by: "tove",
    script: { readings: { "run-counter": [428] } },
  },
  {
    tag: "HH-3001",
    procedure: "slide-stainer-weekly",
    daysAgo: 5,
    by: "mira",
  },
  {
    tag: "HH-3001",
    procedure: "slide-stainer-chambers",
    daysAgo: 3,
    by: "mira",
    script: { readings: { "run-counter": [486] } },
  },
  {
    tag: "HH-7001",
    procedure: "slide-stainer-50-runs",
    daysAgo: 33,
    by: "mira",
    script: { readings: { "run-counter": [905] } },
  },
  {
    tag: "HH-7001",
    procedure: "slide-stainer-weekly",
    daysAgo: 16,
    by: "tove",
    script: { notOk: ["in-line"] },
  },
  {
    tag: "HH-7001",
    procedure: "slide-stainer-chambers",
    daysAgo: 6,
    by: "mira",
    script: { readings: { "run-counter": [950] } },
  },
  ...sweeperYear("HH-2001", "mira", {
    ...{ hours: 1210, perDay: 1.45, loss: 0.0125 },
    days: [30, 22, 15, 9, 4, 2, 1],
    bristle: [2.9, 2.8, 2.75, 2.6, 2.5, 2.45, 2.4],
  }),
  ...sweeperYear("HH-2002", "tove", {
    ...{ hours: 2904, perDay: 1, loss: 0.017 },
    days: [28, 19, 11, 6],
    bristle: [2.5, 2.4, 2.25, 2.15],
  }),
  ...sweeperYear("HH-6002", "mira", {
    ...{ hours: 640, perDay: 0.8, loss: 0.009 },
    days: [26, 17, 8, 1],
    bristle: [3.1, 3.05, 3, 2.95],
  }),
  ...sweeperYear("HH-8001", "tove", {
    ...{ hours: 388, perDay: 0.95, loss: 0.008 },
    days: [25, 14, 7, 3],
    bristle: [3.3, 3.25, 3.2, 3.2],
  }),
  ...CONDENSERS,
];

/** Visits that ended without the work. */
export const OUTCOMES: {
  tag: string;
  procedure: string;
  daysAgo: number;
  by: string;
  outcome: "no-access" | "refused" | "part-missing";
  reason: string;
}[] = [
  {
    tag: "HH-2002",
    procedure: "ride-on-sweeper-daily",
    daysAgo: 1,
    by: "mira",
    outcome: "no-access",
    reason: "Machine under the ramp, ferry alongside until evening",
  },
  {
    tag: "HH-1001",
    procedure: "flake-ice-maker-bearings",
    daysAgo: 4,
    by: "tove",
    outcome: "part-missing",
    reason: "No bearing pair on the van, feeler already tight",
  },
];
