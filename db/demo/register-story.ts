import type { Contact, DutyRules } from "../rows";

/** What the made-up firm set up around its machines: sites in full, duties of their own, pauses, plans for days. All invented. */

export const SITES: Record<
  string,
  {
    latitude: number;
    longitude: number;
    sharedPlaces?: Record<string, number>;
    drainRules?: string;
    wasteRules?: string;
    contacts?: Contact[];
    accessHours?: string;
    holidayRegion?: string;
  }
> = {
  "Aquarium and café": {
    // On an islet of its own, an hourly boat away.
    latitude: 38.552,
    longitude: -28.562,
    sharedPlaces: { sink: 1, hood: 1 },
    drainRules: "Floor drain behind the café only; never into the sea-water outlet.",
    wasteRules: "Descaler: neutralise, then drain. Filters: general waste.",
    contacts: [{ name: "Café desk", role: "keys", phone: "+351 000 000 101", email: "cafe@aquarium.example" }],
  },
  "Ferry terminal": {
    latitude: 38.5364,
    longitude: -28.6201,
    contacts: [{ name: "Ticket desk", role: "keys of the sweepers", phone: "+351 000 000 102", email: "" }],
  },
  "Research station": {
    latitude: 38.5711,
    longitude: -28.7033,
    sharedPlaces: { sink: 2, hood: 1 },
    accessHours: "Mon-Fri 08:00-18:00; Sat, Sun closed",
    holidayRegion: "PT",
    wasteRules: "Organic solvents into the red container of the laboratory.",
  },
  "School kitchen": {
    latitude: 38.5302,
    longitude: -28.6333,
    accessHours: "Mon-Fri 05:30-09:00; Sat, Sun closed",
    holidayRegion: "PT",
  },
  "Print shop": { latitude: 38.5388, longitude: -28.6318 },
  Boatyard: { latitude: 38.5256, longitude: -28.6195, accessHours: "Mon-Fri 07:00-16:00" },
  "Harbour clinic": {
    latitude: 38.5269,
    longitude: -28.6221,
    wasteRules: "Stains and rinse water: the clinic's own container.",
  },
  "Trailer wash": { latitude: 38.5407, longitude: -28.6402 },
};

export const CLOSURES = [{ site: "Research station", fromInDays: 24, toInDays: 38, reason: "Winter break" }];

export const OWN_DUTIES: {
  tag: string;
  title: string;
  rules: DutyRules;
  startDaysAgo: number;
  who?: "operator" | "technician";
  hardStop?: boolean;
  minutes: number;
}[] = [
  {
    tag: "HH-6001",
    title: "Wipe and oil the ways",
    rules: {
      triggers: [
        { kind: "meter", meter: "cutting-hours", every: 100, basis: "completion" },
        { kind: "calendar", every: 1, unit: "year", basis: "completion" },
      ],
    },
    startDaysAgo: 60,
    minutes: 30,
  },
  {
    tag: "HH-6001",
    title: "Clean the cabinet fan",
    rules: {
      triggers: [
        { kind: "event", event: "fan-light" },
        { kind: "calendar", every: 1, unit: "month", basis: "completion" },
      ],
    },
    startDaysAgo: 20,
    minutes: 15,
  },
  {
    tag: "HH-1002",
    title: "Wipe down, look for drips",
    rules: { triggers: [{ kind: "calendar", every: 1, unit: "day", basis: "completion" }] },
    startDaysAgo: 3,
    who: "operator",
    minutes: 5,
  },
  {
    tag: "HH-1003",
    title: "Wipe rollers and paper path",
    rules: { triggers: [{ kind: "meter", meter: "prints", every: 12000, basis: "completion" }] },
    startDaysAgo: 84,
    minutes: 10,
  },
  {
    tag: "HH-7003",
    title: "Wipe with an allowed disinfectant",
    rules: { triggers: [{ kind: "calendar", every: 1, unit: "day", basis: "completion" }] },
    startDaysAgo: 2,
    who: "operator",
    minutes: 5,
  },
];

/** Meters that the gateway stand-in feeds. */
export const GATEWAY_METERS = [
  {
    tag: "HH-6001",
    meter: "power-on-hours",
    name: "Power-on hours",
    unit: "h",
    basis: "power-on",
    gatewayRef: "ctl-01/power-on-hours",
  },
  {
    tag: "HH-6001",
    meter: "cutting-hours",
    name: "Cutting hours",
    unit: "h",
    basis: "cutting",
    gatewayRef: "ctl-01/cutting-hours",
  },
  {
    tag: "HH-6001",
    meter: "spindle-hours",
    name: "Spindle hours",
    unit: "h",
    basis: "spindle",
    gatewayRef: "ctl-01/spindle-hours",
  },
  { tag: "HH-6001", meter: "fan-light", name: "Fan light", unit: "on", basis: "light", gatewayRef: "ctl-01/fan-light" },
  {
    tag: "HH-4002",
    meter: "running-hours",
    name: "Running hours",
    unit: "h",
    basis: "running",
    gatewayRef: "ctl-02/running-hours",
  },
];

/** Counters of the site's own, read by hand. */
export const OWN_METERS = ["HH-1003", "HH-5002"].map((tag) => ({
  tag,
  meter: "prints",
  name: "Prints",
  unit: "prints",
  basis: "counter",
  gatewayRef: null,
}));

export const PAUSES = [{ tag: "HH-2004", fromDaysAgo: 30, toInDays: 120, reason: "Kiosk closed for the winter" }];

export const REPORTS = [
  {
    tag: "HH-4003",
    name: "K. S.",
    text: "Warmer than it should be since this morning, water in the pan under it",
    stopped: false,
  },
];

export const PLANNED = [
  { tag: "HH-3004", procedure: "flake-ice-maker-clean-sanitise", inDays: 2, for: "tove" },
  { tag: "HH-5001", procedure: "wide-format-printer-periodic", inDays: 1, for: "mira" },
  { tag: "HH-3001", procedure: "slide-stainer-50-runs", inDays: 2, for: "tove" },
];

/** What a technician's round of today begins with: work that soaks, cools and freezes side by side. */
export const TODAY = [
  { tag: "HH-2004", procedure: "flake-ice-maker-clean-sanitise" },
  { tag: "HH-2009", procedure: "prep-cabinet-monthly" },
  { tag: "HH-7001", procedure: "slide-stainer-chambers" },
  { tag: "HH-7003", procedure: "steam-steriliser-weekly" },
  { tag: "HH-7006", procedure: "card-printer-ribbon" },
];

/** What the next working day begins with: a customer can let the oven cool before somebody comes. */
export const NEXT_DAY = [{ tag: "HH-2008", procedure: "conveyor-oven-weekly" }];

/** Where the vans stand at night. */
export const DEPOT = { name: "Van yard", timeZone: "Atlantic/Azores", latitude: 38.5338, longitude: -28.6274 };

/** Machines with hours of their own: free only then, ready again by then. */
export const MACHINE_HOURS: { tag: string; freeHours?: string; readyBy?: string }[] = [
  { tag: "HH-1006", readyBy: "10:45" },
  { tag: "HH-2006", readyBy: "11:45" },
  { tag: "HH-2005", freeHours: "05:00-06:30, 14:00-23:00" },
  { tag: "HH-8002", freeHours: "06:00-08:00, 20:00-22:00" },
];

/** Measuring instruments of the firm. */
export const INSTRUMENTS = [
  {
    code: "T-01",
    kind: "thermometer",
    name: "Probe thermometer, van 1",
    dueInDays: 120,
    certificate: "https://certificates.example/t-01",
  },
  {
    code: "T-02",
    kind: "thermometer",
    name: "Probe thermometer, van 2",
    dueInDays: -12,
    certificate: "https://certificates.example/t-02",
  },
  {
    code: "F-01",
    kind: "feeler-gauge",
    name: "Feeler gauge set, inch",
    dueInDays: 300,
    certificate: "https://certificates.example/f-01",
  },
  {
    code: "C-01",
    kind: "caliper",
    name: "Caliper 150 mm",
    dueInDays: 210,
    certificate: "https://certificates.example/c-01",
  },
  { code: "H-01", kind: "hydrometer", name: "Battery hydrometer", dueInDays: null, certificate: "" },
  {
    code: "S-01",
    kind: "stopwatch",
    name: "Stopwatch",
    dueInDays: 90,
    certificate: "https://certificates.example/s-01",
  },
  {
    code: "D-01",
    kind: "dial-gauge",
    name: "Dial gauge 0.01 mm",
    dueInDays: 45,
    certificate: "https://certificates.example/d-01",
  },
  {
    code: "R-01",
    kind: "refractometer",
    name: "Refractometer",
    dueInDays: 180,
    certificate: "https://certificates.example/r-01",
  },
  {
    code: "L-01",
    kind: "flow-meter",
    name: "Clamp-on flow meter",
    dueInDays: 30,
    certificate: "https://certificates.example/l-01",
  },
  { code: "M-01", kind: "tape", name: "Steel tape 3 m", dueInDays: null, certificate: "" },
];

/** Duties let slip on purpose: days since they were last done. */
export const LAST_DONE: Record<string, number> = {
  "HH-2006 soft-serve-freezer-14-day": 17,
  "HH-8005 soft-serve-freezer-14-day": 4,
  "HH-1006 soft-serve-freezer-14-day": 9,
  "HH-4002 conveyor-oven-weekly": 9,
  "HH-3004 flake-ice-maker-clean-sanitise": 371,
};

/** A machine that must not be used: found in the middle of a sheet that is still open. */
export const UNSAFE = {
  tag: "HH-8003",
  procedure: "wash-tunnel-conveyor-weekly",
  daysAgo: 1,
  by: "tove",
  text: "Emergency stop at the exit does not stop the belt",
};
