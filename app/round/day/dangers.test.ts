import { dangersOf } from "./dangers";

const name = (id: string): string => `Site ${id}`;
const risk = {
  closing: [
    { site: "a", chance: 0.35, late: 10 },
    { site: "b", chance: 0.1, late: 2 },
  ],
  ferries: [
    { to: "a", departs: 495, next: 555, missed: 0.3 },
    { to: null, departs: 1050, next: null, missed: 0.25 },
    { to: "b", departs: 700, next: null, missed: 0.05 },
  ],
};

it("names what is in danger more often than the firm puts up with, the last ferry first", () => {
  expect(dangersOf(risk, 0.8, ["a", "b"], name)).toEqual([
    "The last ferry back, 17:30, has left on 25 % of such days.",
    "Site a: over after it closes on 35 % of such days.",
    "The ferry to Site a, 08:15, has left on 30 % of such days; the next goes at 09:15.",
  ]);
});

it("says nothing of what is behind, nor of plans that were kept before ferries were looked at", () => {
  expect(dangersOf(risk, 0.8, ["b"], name)).toEqual(["The last ferry back, 17:30, has left on 25 % of such days."]);
  expect(dangersOf({ closing: [] }, 0.8, ["a"], name)).toEqual([]);
  expect(dangersOf(null, 0.8, ["a"], name)).toEqual([]);
});
