import type { DutyRow } from "@db";

import { isForetold } from "~/duties/foretold";

import type { WearProcedure } from "./wear-procedures.server";

/** A duty with what its next days are worked out from. */
export type VisitDuty = Pick<DutyRow, "id" | "procedureId" | "startOn" | "rules" | "dueOn" | "plannedOn" | "projected">;

/** How far ahead the visit after the next is looked for, days: near first, as most duties come back soon. */
export const LOOKED_AHEAD = [40, 400];
/** Days on which a duty falls due again after one, so many days ahead. */
export type Repeats = (duty: VisitDuty, after: string, days: number) => readonly string[];

/**
 * The next two days on which somebody would see a slot: of duties that measure it or renew what is in it; where none of them has a
 * day, of whatever brings a technician to the machine. What only a reading or an occurrence brings about is no visit until it has
 * a day of its own.
 *
 * @param repeats days on which a duty falls due again after one
 */
export function nextVisits(
  { item, slot, reading }: { item: string; slot: string; reading: string },
  duties: readonly VisitDuty[],
  procedures: ReadonlyMap<string, Pick<WearProcedure, "rules" | "renews">>,
  today: string,
  repeats: Repeats,
): string[] {
  const seeing = duties.filter(({ procedureId }) => {
    const told = procedures.get(procedureId);
    return (
      told?.rules.some((rule) => rule.reading === reading && rule.slots.includes(slot)) === true ||
      told?.renews.some((one) => one.item === item && one.slots.includes(slot)) === true
    );
  });
  const days = daysOf(seeing, today, repeats);
  return days.length > 0 ? days : daysOf(duties, today, repeats);
}

function daysOf(duties: readonly VisitDuty[], today: string, repeats: Repeats): string[] {
  const first = duties.flatMap((duty): { duty: VisitDuty; on: string }[] => {
    const on =
      duty.plannedOn !== null && duty.plannedOn >= today ? duty.plannedOn : isForetold(duty) ? null : duty.dueOn;
    return on === null ? [] : [{ duty, on: on < today ? today : on }];
  });
  const [next] = [...new Set(first.map((one) => one.on))].sort();
  if (next === undefined) return [];
  for (const ahead of LOOKED_AHEAD) {
    const later = first.flatMap(({ duty, on }) => [on, ...repeats(duty, on, ahead)]).filter((on) => on > next);
    if (later.length > 0) return [next, later.reduce((a, b) => (a < b ? a : b))];
  }
  return [next];
}
