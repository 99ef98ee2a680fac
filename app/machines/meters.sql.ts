/** Statements of meters that Sequelize's models cannot say well. */
import { getDb } from "@db";

/** Readings the expectation is worked out from: a quarter of daily values and more. */
export const RECENT = 200;

/** Its shape varies. */
export function latestReadings(values: { machineId: string; meter: string }): Promise<{ on: string; value: number }[]> {
  return getDb().select<{ on: string; value: number }>(
    `SELECT read_on AS \`on\`, value FROM meter_readings WHERE machine_id = :machineId AND meter = :meter ORDER BY read_at DESC, id DESC LIMIT ${RECENT}`,
    values,
  );
}
