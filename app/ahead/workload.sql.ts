/** Statements of workload that Sequelize's models cannot say well. */
import { getDb } from "@db";

import type { AheadFilter } from "./ahead.server";
import type { DutySql } from "./workload.server";

/** Above this many duties the answer takes longer than a person waits; the filter narrows it. */
export const MAX_DUTIES = 20_000;

const FROM =
  "FROM duties p JOIN machines m ON m.id = p.machine_id JOIN sites s ON s.id = p.site_id JOIN customers c ON c.id = s.customer_id";
const whereOf = (filter: AheadFilter): string =>
  [
    "WHERE p.active = 1 AND p.due_on IS NOT NULL AND p.who <> 'operator'",
    filter.siteId ? "AND p.site_id = :siteId" : "",
    filter.family ? "AND m.family = :family" : "",
    filter.who ? "AND p.who = :who" : "",
    filter.personId ? "AND p.planned_for = :personId" : "",
    filter.q ? "AND (s.name LIKE :like OR c.name LIKE :like)" : "",
  ].join(" ");

/** Joins. */
export function dutiesToLevel(values: Record<string, unknown>, filter: AheadFilter): Promise<DutySql[]> {
  return getDb().select<DutySql>(
    `SELECT p.id, p.procedure_id AS procedureId, p.machine_id AS machineId, p.minutes, p.start_on AS startOn, p.rules, p.due_on AS dueOn, p.warning_from AS warningFrom,
       p.notice_from AS noticeFrom, p.projected, p.firm_due_on AS firmDueOn, p.anchor_on AS anchorOn, p.rivals, p.hard_stop AS hardStop
     ${FROM} ${whereOf(filter)}
     LIMIT ${MAX_DUTIES + 1}`,
    values,
  );
}

/** Sums over joins. What the answer rests on, as one number that changes with any of it. */
export function marksOf(
  values: Record<string, unknown>,
  filter: AheadFilter,
): Promise<{ duties: number; marks: string }[]> {
  return getDb().select<{ duties: number; marks: string }>(
    `SELECT COUNT(*) AS duties, CONCAT_WS(' ', COALESCE(SUM(d.mark), 0), (SELECT COUNT(*) FROM procedures)) AS marks FROM (
       SELECT CRC32(CONCAT_WS('|', p.id, p.procedure_id, p.minutes, p.start_on, p.due_on, p.warning_from, p.notice_from, p.firm_due_on, p.anchor_on,
         p.projected, p.hard_stop, p.rules)) AS mark
       ${FROM} ${whereOf(filter)} LIMIT ${MAX_DUTIES + 1}
     ) d`,
    values,
  );
}
