/** Statements of what a failure costs that Sequelize's models cannot say well. */
import { getDb } from "@db";

/** Adds or brings up to date. */
export function keepSetting(values: { name: string; value: string }): Promise<number> {
  return getDb().run(
    "INSERT INTO settings (name, value) VALUES (:name, :value) ON DUPLICATE KEY UPDATE value = VALUES(value)",
    values,
  );
}
