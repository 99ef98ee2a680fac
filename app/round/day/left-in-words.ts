import { clockTime, type LeftOut } from "@core";

import { inPercent } from "~/kit/in-percent";

/** Several stand in one sentence: what was left open may have a long title. */
const LONGEST = 60;
const cut = (title: string): string => (title.length > LONGEST ? `${title.slice(0, LONGEST - 1).trimEnd()}…` : title);

/** Why a duty is not on a day that was proposed. */
export function leftInWords(
  { job, because, endAt, holds }: LeftOut,
  duties: readonly { dutyId: string; title: string; machineName: string }[],
): string {
  const duty = duties.find((one) => one.dutyId === job);
  const name = duty ? `“${cut(duty.title)}” (${duty.machineName})` : "a duty";
  switch (because) {
    case "closed":
      return `${name}: its site is closed`;
    case "hours":
      return `${name}: its hours, or its site's, have no room for it`;
    case "room":
      return `${name}: back at ${clockTime(endAt ?? 0)} with it`;
    case "chance":
      return `${name}: the day would hold in ${inPercent(holds ?? 0)} of cases`;
  }
}
