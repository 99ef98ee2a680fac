/** Statements of week that Sequelize's models cannot say well. */
import { getDb } from "@db";

export const MOST_DUTIES = 1500;

/** Counts. */
export function countDuties(values: { last: string | undefined; today: string }): Promise<{ total: number }[]> {
  return getDb().select<{ total: number }>(
    "SELECT COUNT(*) AS total FROM duties WHERE active = 1 AND who <> 'operator' AND (planned_on IS NULL OR planned_on < :today) AND due_on <= :last",
    values,
  );
}

/** A duty that could be done in the week. */
export interface WeekDutyRow {
  id: string;
  title: string;
  procedureId: string;
  minutes: number;
  who: "operator" | "technician" | "licensed";
  authorisation: string | null;
  family: string;
  siteId: string;
  machineId: string;
  machineName: string;
  hardStop: boolean;
  projected: boolean;
  dueOn: string;
  warningFrom: string | null;
  noticeFrom: string | null;
  firmDueOn: string | null;
}

/** Joins, an index by name. */
export function dutiesOfWeek(values: { last: string; today: string }): Promise<WeekDutyRow[]> {
  return getDb().select<WeekDutyRow>(
    `SELECT p.id, p.title, p.procedure_id AS procedureId, p.minutes, p.who, p.authorisation, p.family, p.site_id AS siteId, p.machine_id AS machineId, m.name AS machineName,
       p.hard_stop AS hardStop, p.projected, p.due_on AS dueOn, p.warning_from AS warningFrom, p.notice_from AS noticeFrom, p.firm_due_on AS firmDueOn
     FROM duties p FORCE INDEX (duties_due) JOIN machines m ON m.id = p.machine_id
     WHERE p.active = 1 AND p.who <> 'operator' AND (p.planned_on IS NULL OR p.planned_on < :today) AND p.due_on <= :last
     ORDER BY p.due_on, p.id LIMIT ${MOST_DUTIES}`,
    values,
  );
}
