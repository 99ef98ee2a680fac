import type { StoredLine, WearLineRow } from "@db";

import { chanceWords } from "~/kit/chance-words";
import { money } from "~/kit/forms/quantity";

/** What sentences about a line of wear are made from. */
export type Told = Pick<
  WearLineRow,
  | ("n" | "lastValue" | "unit" | "limitAt" | "worse" | "per" | "crossesOn" | "crossesFrom" | "crossesTo")
  | ("nextOn" | "nextChance" | "advice" | "costNow" | "costNext")
> & { line: StoredLine | null };
/** Says a day: "Fri 27 Nov". */
export type Say = (on: string) => string;

const NUMBER = new Intl.NumberFormat("en", { maximumFractionDigits: 4 });
const ROUNDED = new Intl.NumberFormat("en", { maximumSignificantDigits: 3 });

export const figure = (value: number, unit = ""): string => `${NUMBER.format(value)}${unit === "" ? "" : ` ${unit}`}`;

/** It has been read at or past its limit. */
export const isPast = ({ lastValue, limitAt, worse }: Pick<Told, "lastValue" | "limitAt" | "worse">): boolean =>
  limitAt !== null && (worse === "down" ? lastValue < limitAt : lastValue > limitAt);

/** When it passes its limit, with the days between which that lies in nine cases of ten. */
export function whenWords(told: Told, say: Say, today: string): string {
  const { line, limitAt, crossesOn, crossesFrom, crossesTo, unit } = told;
  if (limitAt === null) return "No limit is named: the maker’s goes into your own version of the sheet.";
  if (isPast(told)) return `Past its limit of ${figure(limitAt, unit)}.`;
  if (!line) return tooFew(told.n);
  if (crossesOn === null) return "Not getting worse so far.";
  if (crossesTo === null) return `Not sure yet: ${figure(limitAt, unit)} perhaps about ${say(crossesOn)}.`;
  // The line goes by all values: the last one alone may read better.
  if (crossesOn <= today)
    return `By all its values it is at ${figure(limitAt, unit)} about now (by ${say(crossesTo)}).`;
  const between = crossesFrom === null ? `by ${say(crossesTo)}` : `${say(crossesFrom)} to ${say(crossesTo)}`;
  return `${figure(limitAt, unit)} about ${say(crossesOn)} (${between}).`;
}

const tooFew = (n: number): string =>
  n === 1
    ? "One value, and too few pieces like it to go by: too early to say."
    : `${n} values, and too few pieces like it to go by: too early to say.`;

/** What somebody would see at the next visit. */
export function nextWords({ nextOn, nextChance }: Pick<Told, "nextOn" | "nextChance">, say: Say): string {
  if (nextOn === null) return "No visit is due that would see it.";
  if (nextChance === null) return `Next visit ${say(nextOn)}.`;
  return `Next visit ${say(nextOn)}: ${chanceWords(nextChance)} it is past by then.`;
}

export const ADVICE: Record<NonNullable<Told["advice"]>, string> = {
  now: "Renew it now",
  next: "The next visit is early enough",
  either: "Now or next visit: the same money",
};

/** The money on both sides. */
export function moneyWords({ costNow, costNext }: Pick<Told, "costNow" | "costNext">): string | null {
  if (costNow === null || costNext === null) return null;
  return `${money(costNow)} now, ${money(costNext)} to be expected with the next visit`;
}

/** Why now or next, in what it costs. */
export function moneyBecause({ breakEven, plannedCost }: Pick<WearLineRow, "breakEven" | "plannedCost">): string[] {
  if (breakEven === null || plannedCost === null) return [];
  return [
    `Renewing it by plan costs ${money(plannedCost)}: parts and time. Renewed now, what is left of it is thrown away; left until the next visit, it may fail, with the firm’s figures for that. Now pays above a chance of ${Math.round(breakEven * 100)} %.`,
  ];
}

/** What the line rests on: values, pieces, how fast and how sure. */
export function restsOn(told: Told & Pick<WearLineRow, "rate">, baseName: string): string[] {
  const { line, n, unit, per, rate } = told;
  const said = [`${n} ${n === 1 ? "value" : "values"} of this piece.`];
  if (!line) return said;
  const base = per === "day" ? "day" : baseName;
  if (line.pieces > 1)
    said.push(
      `Its slope is ${Math.round(line.ownWeight * 100)} % its own and ${100 - Math.round(line.ownWeight * 100)} % that of ${line.pieces} pieces like it, in the same family of machines: the fewer values it has, the more theirs counts.`,
    );
  said.push(
    `${ROUNDED.format(Math.abs(line.slope))} ${unit} ${line.slope < 0 ? "less" : "more"} ${per === "day" ? "a day" : `an hour of ${base}`.replace(/an hour of (.*) hours$/, "an hour ($1)")}, give or take ${ROUNDED.format(line.slopeSe)}; single values lie ${ROUNDED.format(line.sd)} ${unit} off the line.`,
  );
  if (per !== "day" && rate !== null)
    said.push(`It is used ${ROUNDED.format(rate)} ${base} a day, by the last quarter of what was read.`);
  return said;
}
