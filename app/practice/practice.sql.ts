/** Statements of practice that Sequelize's models cannot say well. */
import { getDb, type PracticeRunRow } from "@db";

export interface RunLine extends Pick<
  PracticeRunRow,
  "id" | "kind" | "family" | "title" | "procedureId" | "isNew" | "startedAt" | "finishedAt" | "passed" | "result"
> {
  personId: string;
  byName: string;
}

/** Joins: runs with who practised, the latest first; of one person, or of everybody. */
export function runsWithNames(values: { personId?: string; limit: number }): Promise<RunLine[]> {
  return getDb().select(
    `SELECT r.id, r.kind, r.family, r.title, r.procedure_id AS procedureId, r.is_new AS isNew, r.started_at AS startedAt, r.finished_at AS finishedAt,
       r.passed, r.result, r.person_id AS personId, p.name AS byName
     FROM practice_runs r JOIN persons p ON p.id = r.person_id
     ${values.personId === undefined ? "" : "WHERE r.person_id = :personId"}
     ORDER BY r.started_at DESC LIMIT :limit`,
    values,
  );
}

/** Grouped: how often each person practised each family, and passed on a machine that was new to them. */
export function practisedByPerson(): Promise<
  { personId: string; byName: string; family: string; runs: number; passed: number; lastAt: Date }[]
> {
  return getDb().select(
    `SELECT r.person_id AS personId, p.name AS byName, r.family, COUNT(*) AS runs,
       CAST(SUM(r.passed AND r.is_new) AS SIGNED) AS passed, MAX(r.finished_at) AS lastAt
     FROM practice_runs r JOIN persons p ON p.id = r.person_id
     WHERE r.finished_at IS NOT NULL AND p.active
     GROUP BY r.person_id, p.name, r.family ORDER BY p.name, r.family`,
  );
}
