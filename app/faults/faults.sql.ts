/** Statements of faults that Sequelize's models cannot say well. */
import { type FaultOutcomeRow, getDb } from "@db";

/** Joins: a machine's faults, the latest first. */
export function faultsOfMachine(values: { machineId: string; limit: number }): Promise<
  {
    sheetId: string;
    round: number;
    symptom: string;
    cause: string;
    outcome: FaultOutcomeRow["outcome"];
    onDay: string;
    byName: string;
  }[]
> {
  return getDb().select(
    `SELECT o.sheet_id AS sheetId, o.round, o.symptom, o.cause, o.outcome, o.on_day AS onDay, p.name AS byName
     FROM fault_outcomes o JOIN persons p ON p.id = o.by_person
     WHERE o.machine_id = :machineId ORDER BY o.found_at DESC, o.round DESC LIMIT :limit`,
    values,
  );
}

/** Joins: the sheets of faults that are open on a machine. */
export function openFaults(values: { machineId: string }): Promise<{ id: string; title: string; openedAt: Date }[]> {
  return getDb().select(
    `SELECT s.id, d.title, s.opened_at AS openedAt FROM sheets s JOIN duties d ON d.id = s.duty_id
     WHERE s.machine_id = :machineId AND s.status = 'open' AND s.procedure_id LIKE '%-faults' ORDER BY s.opened_at`,
    values,
  );
}

/** Newest of each: every family with a guide. */
export function newestGuides(): Promise<{ family: string; version: number; title: string }[]> {
  return getDb().select(
    `SELECT g.family, g.version, g.title FROM fault_guides g
     JOIN (SELECT family, MAX(version) AS version FROM fault_guides GROUP BY family) n USING (family, version)
     ORDER BY g.title`,
  );
}

/** How often each cause was found behind each symptom of a family; counted on one covering index. */
export function causesOfFamily(values: { family: string }): Promise<{ symptom: string; cause: string; n: number }[]> {
  return getDb().select(
    `SELECT symptom, cause, COUNT(*) AS n
     FROM fault_outcomes WHERE family = :family AND outcome <> 'not-cured' GROUP BY symptom, cause`,
    values,
  );
}

/** Distinct: models of a family that the register has. */
export function modelsOfFamily(values: { family: string }): Promise<{ model: string }[]> {
  return getDb().select(
    `SELECT DISTINCT model FROM machines WHERE family = :family AND model <> '' ORDER BY model LIMIT 200`,
    values,
  );
}
