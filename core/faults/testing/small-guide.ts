import type { FaultGuide } from "../guide";

/** Two causes, two checks, one that needs the machine locked out: small enough to be gone through by hand. */
export const smallGuide = (): FaultGuide => ({
  format: "humble-hound/fault-guide",
  formatVersion: 1,
  family: "small-machine",
  version: 1,
  title: "Faults of the small machine",
  summary: "For tests.",
  hazards: [{ kind: "lock-out", text: "It starts by itself." }],
  protective: [],
  tools: [],
  materials: [],
  parts: [{ item: "small-seal", name: "Seal", slots: [{ id: "seal", name: "Its place" }] }],
  options: [],
  states: [
    { id: "running", name: "Running", excludes: ["locked"], in: { checks: ["Nobody's hands in it"], minutes: 1 } },
    {
      id: "locked",
      name: "Locked out",
      in: { checks: ["Locked and tagged"], minutes: 2, gates: ["lock-out", "tag"] },
      out: { checks: ["Tools out"], minutes: 1 },
    },
    { id: "cool", name: "Cool", lostBy: ["running"], in: { checks: ["Cool to the hand"], waitMinutes: 20 } },
  ],
  symptoms: [
    {
      id: "weak",
      says: "It is weak",
      proof: "Strong again",
      causes: [
        { cause: "dirt", chance: 3 },
        { cause: "seal", chance: 1 },
      ],
    },
  ],
  checks: [
    {
      id: "listen",
      title: "Listen",
      how: "Ear at the lid.",
      state: ["running"],
      minutes: 2,
      clear: "Even",
      finds: [{ cause: "dirt", share: 0.8, shows: "Uneven" }],
    },
    {
      id: "open",
      title: "Open it",
      how: "Lid off, look.",
      state: ["locked", "cool"],
      minutes: 5,
      clear: "Clean and whole",
      finds: [
        { cause: "dirt", share: 1, shows: "Dirty" },
        { cause: "seal", share: 1, shows: "Seal torn" },
      ],
    },
  ],
  causes: [
    {
      id: "dirt",
      name: "Dirt",
      who: "technician",
      remedy: [{ id: "clean", kind: "do", title: "Clean it", minutes: 5 }],
      usualLifeDays: 60,
    },
    {
      id: "seal",
      name: "Seal torn",
      who: "technician",
      remedy: [
        {
          id: "new",
          kind: "replace",
          title: "New seal",
          minutes: 5,
          state: ["locked", "cool"],
          item: "small-seal",
          slots: ["seal"],
        },
      ],
    },
  ],
});
