import { shortDay } from "~/kit/days/day-time";

import type { EveningDuty } from "./evening.sql";

/** Where work that was not done stands now: nothing disappears with a day. */
export function whereItWent(
  {
    plannedOn,
    plannedFor,
    plannedForName,
    dueOn,
  }: Pick<EveningDuty, "plannedOn" | "plannedFor" | "plannedForName" | "dueOn">,
  { on, personId, today }: { on: string; personId: string; today: string },
): string {
  const due = dueOn === null ? "without a due day" : `due ${shortDay(dueOn, today)}`;
  // A day that has passed holds nothing any more.
  if (plannedOn === null || plannedOn < today) return `On nobody's day; ${due}`;
  const whose = plannedFor === personId ? "" : ` with ${plannedForName ?? "a colleague"}`;
  if (plannedOn === on && whose === "") return `Still on this day; ${due}`;
  return `On ${shortDay(plannedOn, today)}${whose}; ${due}`;
}
