/** Statements of machine-names that Sequelize's models cannot say well. */
import { getDb } from "@db";

/** Each once. */
export function namesUsed(values: { machineId: string }): Promise<{ event: string }[]> {
  return getDb().select<{ event: string }>(
    "SELECT DISTINCT event FROM occurrences WHERE machine_id = :machineId LIMIT 50",
    values,
  );
}
