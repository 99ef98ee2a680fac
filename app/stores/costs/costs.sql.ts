/** Statements of costs that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Reads inside JSON. */
export function hourlyRate(tx?: Transaction): Promise<{ value: string }[]> {
  return getDb().select<{ value: string }>(
    "SELECT JSON_VALUE(value, '$') AS value FROM settings WHERE name = 'hourly-rate-cents'",
    {},
    tx,
  );
}

/** Adds or brings up to date. */
export function keepHourlyRate(values: { value: string }): Promise<number> {
  return getDb().run(
    "INSERT INTO settings (name, value) VALUES ('hourly-rate-cents', :value) ON DUPLICATE KEY UPDATE value = VALUES(value)",
    values,
  );
}

/** Joins, sums, puts lists together. */
export function goodsCosts(
  values: Record<string, unknown>,
  key: string,
  name: string,
  edges: string[][],
): Promise<{ key: string; name: string; cents: number }[]> {
  return getDb().select<{ key: string; name: string; cents: number }>(
    `SELECT ${key} AS \`key\`, MAX(${name}) AS name, COALESCE(SUM(x.cents), 0) AS cents FROM (
       SELECT machine_id, SUM(cents) AS cents FROM cost_months WHERE month BETWEEN :first AND :last GROUP BY machine_id
       ${edges.map((_, i) => `UNION ALL SELECT machine_id, SUM(cost_cents) FROM stock_moves WHERE kind = 'use' AND on_day BETWEEN :from${i} AND :to${i} AND machine_id IS NOT NULL GROUP BY machine_id`).join(" ")}) x
     JOIN machines m ON m.id = x.machine_id JOIN sites s ON s.id = m.site_id GROUP BY ${key}`,
    values,
  );
}

/** Joins, sums. */
export function workCosts(
  values: { from: string; to: string },
  key: string,
  name: string,
): Promise<{ key: string; name: string; minutes: string; services: number }[]> {
  return getDb().select<{ key: string; name: string; minutes: string; services: number }>(
    `SELECT ${key} AS \`key\`, MAX(${name}) AS name, SUM(x.minutes) AS minutes, SUM(x.services) AS services FROM (
       SELECT r.machine_id, SUM(t.hands_minutes) AS minutes, COUNT(*) AS services FROM sheet_minutes t JOIN sheets r ON r.id = t.sheet_id
       WHERE t.done_on BETWEEN :from AND :to GROUP BY r.machine_id) x
     JOIN machines m ON m.id = x.machine_id JOIN sites s ON s.id = m.site_id GROUP BY ${key}`,
    values,
  );
}
