import { type AsFound, servicesAYear } from "@core";
import type { IntervalProposalRow, IntervalRules } from "@db";

import { chanceWords } from "~/kit/chance-words";
import { triggerWords } from "~/procedures/trigger-words";

/** How a machine is found, from best to worst, with what that means for the interval. */
export const FOUND: readonly { id: AsFound; name: string; means: string }[] = [
  { id: "clean", name: "Clean", means: "it could have waited" },
  { id: "fair", name: "Fair", means: "it was time" },
  { id: "poor", name: "Poor", means: "it was late" },
  { id: "failed", name: "Failed", means: "it did not do its work, or was not safe" },
];
export const foundName = (found: AsFound): string =>
  (FOUND.find((one) => one.id === found)?.name ?? found).toLowerCase();

/** Rules in one line. */
export function rulesWords({ triggers, intervalFactor = 1 }: IntervalRules): string {
  const words = triggers.map(triggerWords).join("; or ");
  return intervalFactor === 1 ? words : `${words}; all times ${intervalFactor}`;
}

const figure = (value: number, digits = 1): string => value.toLocaleString("en", { maximumFractionDigits: digits });

/** What it does to a year: services and hours. */
export function effortWords({
  oldDays,
  newDays,
  minutesAYear,
}: Pick<IntervalProposalRow, "oldDays" | "newDays" | "minutesAYear">): string {
  if (oldDays <= 0 || newDays <= 0)
    return "Its meter was not read often enough to say how many services a year that is.";
  const hours = `${figure(Math.abs(minutesAYear) / 60)} h`;
  const change =
    Math.abs(minutesAYear) < 3
      ? "no more work"
      : minutesAYear > 0
        ? `${hours} more work a year`
        : `${hours} less work a year`;
  return `${figure(servicesAYear(oldDays))} services a year now, ${figure(servicesAYear(newDays))} then: ${change}, the way there left aside.`;
}

/** What it does to the chance of being found poor, and what that rests on. */
export function poorWords({
  chance,
  oldDays,
  newDays,
}: Pick<IntervalProposalRow, "chance" | "oldDays" | "newDays">): string {
  if (!chance) return "No service is known yet that says after how many days it is found poor.";
  const { n, poor, own } = chance;
  const rests = `${poor} of ${n} ${n === 1 ? "service" : "services"} of ${own ? "this machine" : "machines of its kind"} so far`;
  return `Found poor or worse: ${rangeWords(chance.old)} after ${figure(oldDays, 0)} days, ${rangeWords(chance.new)} after ${figure(newDays, 0)} (${rests}).`;
}

function rangeWords([low, high]: [number, number]): string {
  const [from, to] = [chanceWords(low), chanceWords(high)];
  return from === to ? from : `${from.replace(/ %$/, "")} to ${to}`;
}
