import { type DutyRow, getDb, Op, type Transaction } from "@db";

import type { VisitDuty } from "./visits";

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
