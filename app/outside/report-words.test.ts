import { reportWords } from "./report-words";

const NOTHING = { closedAt: null, closedNote: "", seenAt: null, answer: "", plannedOn: null };
const AT = new Date("2026-11-27T10:00:00Z");
const say = (more: Partial<typeof NOTHING> | object, about: string | null = null): string =>
  reportWords({ ...NOTHING, ...more }, { today: "2026-11-28", dayOf: (at) => at.toISOString().slice(0, 10), about });

it.each([
  ["a report that nobody has read", {}, null, "Reported; nobody has read it yet."],
  ["one that was read", { seenAt: AT, answer: "Keep it on." }, null, "Read. Keep it on."],
  [
    "one for which somebody comes today",
    { seenAt: AT, plannedOn: "2026-11-28" },
    "11:20",
    "Read; somebody comes today about 11:20.",
  ],
  [
    "one for which somebody comes later",
    { seenAt: AT, plannedOn: "2026-11-30", answer: "Use the other one." },
    null,
    "Read; somebody comes on Mon 30 Nov. Use the other one.",
  ],
  ["one whose day has passed", { seenAt: AT, plannedOn: "2026-11-20" }, null, "Read."],
  ["one that is done", { closedAt: AT, closedNote: "New seal" }, null, "Done on Fri 27 Nov: New seal"],
])("%s says so", (_, report, about, words) => {
  expect(say(report, about)).toBe(words);
});
