import { occurrenceName } from "./occurrence-names";

it.each([
  ["after-run", "A run has ended"],
  ["idle-ahead", "It will stand idle"],
  ["ribbon-replaced", "Ribbon replaced"],
  ["moved", "Moved"],
  ["", ""],
])("%j is called %j", (event, name) => {
  expect(occurrenceName(event)).toBe(name);
});
