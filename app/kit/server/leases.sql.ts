/** Statements of leases that Sequelize's models cannot say well. */
import { getDb } from "@db";

/** Says whether it was new. */
export function knowLease(values: { name: string }): Promise<number> {
  return getDb().run("INSERT IGNORE INTO leases (name, holder, held_until) VALUES (:name, '', '1970-01-01')", values);
}

/** Its shape varies. */
export function takeLease(values: { name: string; holder: string; now: Date; until: Date }): Promise<number> {
  return getDb().run(
    "UPDATE leases SET holder = :holder, held_until = :until WHERE name = :name AND (holder = :holder OR held_until < :now)",
    values,
  );
}
