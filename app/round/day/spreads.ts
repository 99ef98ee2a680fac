import type { DayDuty } from "./day-problem.server";

/** How each duty's minutes scatter, for drawing days. */
export const spreadsOf = (duties: readonly Pick<DayDuty, "dutyId" | "learned">[]): Record<string, number> =>
  Object.fromEntries(duties.map((duty) => [duty.dutyId, duty.learned.spread]));
