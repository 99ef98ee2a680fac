import { addDays, type DatedValue } from "@core";
import { type DutyRow, getDb, Op, type Transaction } from "@db";

import { repeatsAfter } from "~/duties/repeats.server";

import type { Repeats, VisitDuty } from "./visits";

/** Duties that bring a technician to machines. */
export function visitDuties(
  machineIds: readonly string[],
  tx?: Transaction,
): Promise<(VisitDuty & Pick<DutyRow, "machineId">)[]> {
  return getDb().models.Duty.findAll({
    attributes: ["id", "machineId", "procedureId", "startOn", "rules", "dueOn", "plannedOn", "projected"],
    where: { machineId: [...machineIds], active: true, who: { [Op.ne]: "operator" } },
    raw: true,
    transaction: tx ?? null,
  });
}

/** When duties of a machine come back, by their rules and by how much it is used. */
export const repeatsBy =
  (today: string, meters: Record<string, DatedValue[]> = {}): Repeats =>
  (duty, after, days) =>
    repeatsAfter(duty, after, today, addDays(after, days), meters);
