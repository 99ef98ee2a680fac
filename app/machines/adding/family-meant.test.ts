import { FAMILIES } from "~/ui/family-names";

import { familyMeant } from "./family-meant";

const known = Object.keys(FAMILIES);
const nearest = (text: string): string | null => {
  const meant = familyMeant(text, known);
  return meant.family === null ? meant.nearest : `= ${meant.family}`;
};

it.each([
  ["conveyor-oven", "= conveyor-oven"],
  ["Conveyor oven", "= conveyor-oven"],
  [" CONVEYOR  OVEN ", "= conveyor-oven"],
  ["Tabletop steam steriliser", "= steam-steriliser"],
  ["conveyor-ovne", "conveyor-oven"],
  ["steam-sterilizer", "steam-steriliser"],
  ["ice-maker", "flake-ice-maker"],
  ["sweeper", "ride-on-sweeper"],
  ["conveyor", null],
  ["espresso machine", null],
  ["", null],
])("%s: %s", (text, family) => expect(nearest(text)).toBe(family));

it("makes a short name of what is new", () => {
  expect(familyMeant("Café grinder, 64 mm", known)).toEqual({ family: null, nearest: null, own: "cafe-grinder-64-mm" });
  expect(familyMeant("éèê".repeat(60), known)).toMatchObject({ own: "e".repeat(60) });
});
