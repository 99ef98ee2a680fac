/** Statements of intervals that Sequelize's models cannot say well. */
import { type AsFoundRow, type Dust, type DutyRules, getDb, type IntervalProposalRow, type Transaction } from "@db";

/** Looks inside JSON: the last day before on which a duty was done, by its own sheet or with another's. */
export function doneBefore(
  values: { machineId: string; dutyId: string; sheetId: string; on: string },
  tx?: Transaction,
): Promise<{ on: string | null }[]> {
  return getDb().select(
    `SELECT MAX(done_on) AS \`on\` FROM completions WHERE machine_id = :machineId AND done_on <= :on
       AND COALESCE(sheet_id, '') <> :sheetId AND (duty_id = :dutyId OR JSON_CONTAINS(credits, JSON_QUOTE(:dutyId)))`,
    values,
    tx,
  );
}

/** Sums: when the rules of a duty were last changed by hand. */
export function rulesChangedAt(values: { dutyId: string }, tx?: Transaction): Promise<{ at: Date | null }[]> {
  return getDb().select(
    "SELECT MAX(at) AS at FROM audit_log WHERE subject = 'duty' AND subject_id = :dutyId AND action = 'changed'",
    values,
    tx,
  );
}

export type ListedProposal = IntervalProposalRow & {
  title: string;
  rules: DutyRules;
  tag: string;
  machineName: string;
  siteName: string;
  decider: string | null;
};

const LISTED = `p.id, p.sheet_id AS sheetId, p.duty_id AS dutyId, p.open_duty_id AS openDutyId, p.machine_id AS machineId, p.site_id AS siteId,
  p.found, p.because, p.old_rules AS oldRules, p.new_rules AS newRules, p.old_days AS oldDays, p.new_days AS newDays,
  p.minutes_a_year AS minutesAYear, p.chance, p.made_at AS madeAt, p.status, p.decided_at AS decidedAt, p.decided_by AS decidedBy, p.reason,
  d.title, d.rules, m.tag, m.name AS machineName, s.name AS siteName, x.name AS decider`;

/** Of what is out of use nothing is asked. */
const IN_USE = "m.retired_on IS NULL AND d.active = 1";

/** Joins. */
export function proposals(
  values: { status: string[]; beforeAt: Date; beforeId: string; limit: number },
  isOpen: boolean,
): Promise<ListedProposal[]> {
  return getDb().select(
    `SELECT ${LISTED} FROM interval_proposals p STRAIGHT_JOIN duties d ON d.id = p.duty_id STRAIGHT_JOIN machines m ON m.id = p.machine_id
       STRAIGHT_JOIN sites s ON s.id = m.site_id LEFT JOIN persons x ON x.id = p.decided_by
     WHERE p.status IN (:status) AND (p.made_at, p.id) < (:beforeAt, :beforeId) ${isOpen ? `AND ${IN_USE}` : ""}
     ORDER BY p.made_at DESC, p.id DESC LIMIT :limit`,
    values,
  );
}

/** Joins: how many wait, as they are listed. */
export function countOpen(): Promise<{ n: number }[]> {
  return getDb().select(
    `SELECT COUNT(*) AS n FROM interval_proposals p STRAIGHT_JOIN duties d ON d.id = p.duty_id STRAIGHT_JOIN machines m ON m.id = p.machine_id
     WHERE p.status = 'open' AND ${IN_USE}`,
  );
}

/** The newest findings of each of a few duties, by a window. */
export function findingsOf(values: { dutyIds: readonly string[]; atMost: number }): Promise<AsFoundRow[]> {
  return getDb().select(
    `SELECT sheet_id AS sheetId, duty_id AS dutyId, machine_id AS machineId, site_id AS siteId, family, procedure_id AS procedureId, found, told,
       because, found_at AS foundAt, on_day AS onDay, after_days AS afterDays
     FROM (SELECT a.*, ROW_NUMBER() OVER (PARTITION BY duty_id ORDER BY found_at DESC) AS nth FROM as_found a WHERE duty_id IN (:dutyIds)) n
     WHERE nth <= :atMost ORDER BY found_at`,
    values,
  );
}

export interface FoundAtMachine {
  machineId: string;
  machineName: string;
  tag: string;
  siteId: string;
  siteName: string;
  water: number | null;
  dust: Dust;
  n: number;
  clean: number;
  fair: number;
  poor: number;
  failed: number;
  meanDays: number | null;
}

/** Sums: how machines were found at one procedure, machine by machine. */
export function foundByMachine(values: {
  procedureId: string;
  since: string;
  limit: number;
}): Promise<FoundAtMachine[]> {
  return getDb().select(
    `SELECT a.machine_id AS machineId, m.name AS machineName, m.tag, s.id AS siteId, s.name AS siteName, s.water_hardness AS water, s.dust,
       COUNT(*) AS n, SUM(a.found = 'clean') AS clean, SUM(a.found = 'fair') AS fair, SUM(a.found = 'poor') AS poor,
       SUM(a.found = 'failed') AS failed, AVG(a.after_days) AS meanDays
     FROM as_found a STRAIGHT_JOIN machines m ON m.id = a.machine_id STRAIGHT_JOIN sites s ON s.id = a.site_id
     WHERE a.procedure_id = :procedureId AND a.on_day >= :since
     GROUP BY a.machine_id, a.site_id ORDER BY s.name, m.name, a.machine_id LIMIT :limit`,
    values,
  );
}

/** Sums: procedures of which it is known how machines were found. */
export function foundProcedures(values: {
  since: string;
}): Promise<{ procedureId: string; family: string; n: number }[]> {
  return getDb().select(
    `SELECT procedure_id AS procedureId, MIN(family) AS family, COUNT(*) AS n FROM as_found WHERE on_day >= :since
     GROUP BY procedure_id ORDER BY n DESC, procedure_id LIMIT 200`,
    values,
  );
}
