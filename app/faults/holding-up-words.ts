import type { DownRow, HoldingUp } from "./down-time.server";

/** Hours as people say them: days beyond two of them. */
export function hoursWords(hours: number): string {
  if (hours < 1) return `${Math.max(1, Math.round(hours * 60))} min`;
  if (hours < 48) return `${Math.round(hours * 10) / 10} h`;
  return `${Math.round(hours / 24)} days`;
}

/** A share of time in percent, never 100 while something was down. */
export const shareWords = (share: number): string =>
  share === 1 ? "100 %" : `${(Math.floor(share * 10_000) / 100).toFixed(share > 0.999 ? 2 : 1)} %`;

/** What the figures rest on, a sentence each. */
export function holdingUpBecause({ days, failures, availability, mtbfHours, mttrHours }: HoldingUp): string[] {
  const up = hoursWords(availability * days * 24);
  return [
    `The last ${days} days. Down from when it was held out of service or an operator reported it stopped, until it was returned or the report was closed; what overlaps counts once.`,
    `Between failures (MTBF): ${up} of use by ${failures} ${failures === 1 ? "failure" : "failures"} that began in them${mtbfHours === null ? ": none" : ""}.`,
    `Until it is back (MTTR): the mean length of what ended in them${mttrHours === null ? "; nothing did" : ""}.`,
    "Terms of IEC 60050-192 and EN 15341.",
  ];
}

/** The arithmetic of a row of machines together. */
export function rowBecause({ machines, hours, failures, repairs, ...row }: DownRow): string[] {
  const up = hoursWords(row.availability * hours);
  const count = (n: number, one: string): string => `${n} ${one}${n === 1 ? "" : "s"}`;
  return [
    `Could be used: ${up} of the ${hoursWords(hours)} that ${count(machines, "machine")} ${machines === 1 ? "was" : "were"} there: ${shareWords(row.availability)}.`,
    row.mtbfHours === null
      ? "Between failures: none began in the span."
      : `Between failures: ${up} by ${count(failures, "failure")}: ${hoursWords(row.mtbfHours)}.`,
    row.mttrHours === null
      ? "Until it is back: nothing ended in the span."
      : `Until it is back: the mean of ${count(repairs, "repair")} that ended in it: ${hoursWords(row.mttrHours)}.`,
  ];
}

/** What counts of machines together. */
export const groupBecause = (by: "site" | "machine" | "family"): string[] => [
  "Down from when a machine was held out of service or an operator reported it stopped, until it was returned or the report was closed; what overlaps counts once.",
  "Between failures (MTBF): the time that all machines of a row could be used, by the failures that began in the span.",
  "Until it is back (MTTR): the mean length of what ended in the span. Could be used (availability): time up by time there, from a machine's first day to the one it was taken out on.",
  ...(by === "machine" ? ["Machines that were down in the span alone, at most 200."] : []),
  "Terms of IEC 60050-192 and EN 15341.",
];
