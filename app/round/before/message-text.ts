import { clockTime } from "@core";

import { dayInWords, inHours } from "~/kit/days/day-time";

/** What a customer is told before somebody comes. Minutes of the day. */
export interface Announcement {
  toName: string;
  person: string;
  on: string;
  site: string;
  arrive: number;
  /** Nine days in ten it is not earlier, and not later. */
  early: number;
  late: number;
  until: number;
  work: string[];
  asks: string[];
  /** Minutes that all of it together saves. */
  saves: number;
  /** Where it is answered; null while there is none. */
  link: string | null;
  note: string;
}

/** Rounded to what a person would say. */
const ROUND_MINUTES = 5;
const down = (minute: number): string => clockTime(Math.floor(minute / ROUND_MINUTES) * ROUND_MINUTES);
const up = (minute: number): string => clockTime(Math.ceil(minute / ROUND_MINUTES) * ROUND_MINUTES);

export const bandInWords = ({ early, late }: Pick<Announcement, "early" | "late">): string =>
  down(early) === up(late) ? `about ${down(early)}` : `between ${down(early)} and ${up(late)}`;

export const subjectOf = ({ on, site, arrive }: Announcement): string =>
  `${site}: we come on ${dayInWords(on)}, about ${down(arrive)}`;

/** What is asked for, in the words of a sheet or in ours. */
export function askInWords(
  ask: { kind: "cool" | "do" | "free"; machineName: string; text: string | null },
  byMinute: number,
): string {
  const by = down(byMinute);
  if (ask.kind === "cool") return `${ask.machineName}: please switch it off by ${by} and let it cool`;
  if (ask.kind === "free") return `${ask.machineName}: please keep it free for us from ${by}`;
  return `${ask.machineName}: ${(ask.text ?? "").replace(/^Please/, "please")}, by ${by}`;
}

export function textOf(said: Announcement): string {
  const { toName, person, on, work, asks, saves, link, note } = said;
  const lines = [
    `Good day${toName === "" ? "" : ` ${toName}`},`,
    "",
    `${person} comes on ${dayInWords(on)}, ${bandInWords(said)}, and is done by about ${up(said.until)}.`,
    "",
    "What is done:",
    ...work.map((one) => `- ${one}`),
  ];
  if (asks.length > 0)
    lines.push(
      "",
      saves > 0
        ? `You can save us both ${inHours(saves)}, if this is done before:`
        : "It helps if this is done before:",
      ...asks.map((one, i) => `${i + 1}. ${one}`),
      "",
      "Only by people of yours who may do it, and only where it is safe. What is not done we do when we are there.",
      ...(link === null ? [] : [`Please say what you can do: ${link}`]),
    );
  if (note !== "") lines.push("", note);
  return [...lines, "", person].join("\n");
}

/**
 * Minutes that what was chosen saves: together when it is what saves most together; of another choice what is sure, the most
 * that one of it saves by itself.
 */
export function savedBy(
  site: { saved: number; asks: readonly { id: string; alone: number; best: boolean }[] },
  chosen: readonly { id: string; alone: number; best: boolean }[],
): number {
  const isBest = chosen.every((one) => one.best) && chosen.length === site.asks.filter((one) => one.best).length;
  return isBest ? site.saved : Math.max(0, ...chosen.map((one) => one.alone));
}
