/** Statements of down time that Sequelize's models cannot say well. */
import { getDb } from "@db";

/** How machines are put together: what they are grouped by, and what that is called. */
const GROUPS = {
  site: ["s.id", "s.name"],
  machine: ["m.id", "CONCAT(m.name, ' ', m.tag)"],
  family: ["m.family", "m.family"],
} as const;
export type DownBy = keyof typeof GROUPS;

/** Joins, sums: machines of each group that were there in the span, and the hours that they were. */
export function hoursThere(
  values: { from: Date; until: Date },
  by: DownBy,
): Promise<{ key: string; name: string; machines: number; hours: number }[]> {
  const [key, name] = GROUPS[by];
  return getDb().select(
    `SELECT ${key} AS \`key\`, MAX(${name}) AS name, COUNT(*) AS machines,
       CAST(SUM(TIMESTAMPDIFF(SECOND, GREATEST(:from, COALESCE(m.duties_from, '1970-01-01')), LEAST(:until, COALESCE(m.retired_on, '9999-01-01')))) / 3600 AS DOUBLE) AS hours
     FROM machines m JOIN sites s ON s.id = m.site_id
     WHERE COALESCE(m.duties_from, '1970-01-01') < :until AND COALESCE(m.retired_on, '9999-01-01') > :from
     GROUP BY ${key}`,
    values,
  );
}

export interface DownTime {
  machineId: string;
  key: string;
  name: string;
  /** Days from which and until which the machine was there. */
  since: string | null;
  retiredOn: string | null;
  stopped: Date;
  back: Date | null;
}

/** Joins, puts lists together: when machines, or one of them, were held out of service or reported to have stopped, in a span. */
export function downTimes(values: { from: Date; until: Date; machineId?: string }, by: DownBy): Promise<DownTime[]> {
  const [key, name] = GROUPS[by];
  const own = values.machineId === undefined ? "" : "AND machine_id = :machineId";
  return getDb().select(
    `SELECT m.id AS machineId, ${key} AS \`key\`, ${name} AS name, m.duties_from AS since, m.retired_on AS retiredOn,
       x.stopped, x.back
     FROM (
       SELECT machine_id, since AS stopped, cleared_at AS back FROM machine_holds
       WHERE since < :until AND (cleared_at IS NULL OR cleared_at > :from) ${own}
       UNION ALL
       SELECT machine_id, logged_at, closed_at FROM problem_reports
       WHERE stopped AND logged_at < :until AND (closed_at IS NULL OR closed_at > :from) ${own}
     ) x JOIN machines m ON m.id = x.machine_id JOIN sites s ON s.id = m.site_id`,
    values,
  );
}

/** Counts on an index: causes that were found in a span, by family. */
export function causesInSpan(values: {
  from: string;
  to: string;
}): Promise<{ family: string; cause: string; n: number }[]> {
  return getDb().select(
    `SELECT family, cause, COUNT(*) AS n FROM fault_outcomes
     WHERE on_day BETWEEN :from AND :to AND outcome <> 'not-cured' GROUP BY family, cause`,
    values,
  );
}
