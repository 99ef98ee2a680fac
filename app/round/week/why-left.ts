import { clockTime, type LeftOut } from "@core";

import { shortDay } from "~/kit/days/day-time";
import { inPercent } from "~/kit/in-percent";

/** Why a duty found no place: the day that came nearest. */
export interface WhyLeft {
  rank: number;
  words: string;
}

/** The nearer a day comes, the more it says: with it the day holds too rarely, it is too long, its hours do not allow it. */
export function whyNot({ because, endAt, holds }: LeftOut, who: string, on: string): WhyLeft {
  const day = `${shortDay(on, on)} with ${who}`;
  switch (because) {
    case "chance":
      return { rank: 3 + (holds ?? 0), words: `${day} would hold in ${inPercent(holds ?? 0)} of cases` };
    case "room":
      return { rank: 2 - (endAt ?? 0) / 10_000, words: `${day}: back at ${clockTime(endAt ?? 0)}` };
    case "hours":
      return { rank: 1, words: "its hours, or its site's, have no room for it on any of these days" };
    case "closed":
      return { rank: 0, words: "its site is closed on every day that somebody has room" };
  }
}
