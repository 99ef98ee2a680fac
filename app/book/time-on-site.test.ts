import { timeOnSiteWords } from "./time-on-site";

const at = (clock: string): Date => new Date(`2026-06-10T${clock}:00Z`);
const words = (arrived: string | null, left: string | null, handsOn: number | null): string | null =>
  timeOnSiteWords(
    { arrivedAt: arrived === null ? null : at(arrived), leftAt: left === null ? null : at(left), handsOn },
    "Atlantic/Azores",
  );

it.each([
  ["08:40", "10:12", 38, "On site: 08:40 to 10:12 (1 h 32 min), hands on the work 38 min"],
  ["08:40", null, null, "On site: from 08:40"],
  [null, null, 75.4, "Hands on the work 1 h 15 min"],
  [null, null, null, null],
] as const)("came %s, left %s, %s min of work: %s", (arrived, left, handsOn, said) => {
  expect(words(arrived, left, handsOn)).toBe(said);
});
