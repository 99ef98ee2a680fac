/** Statements of leases that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Says whether it was new. */
export function knowLease(values: { name: string }): Promise<number> {
  return getDb().run("INSERT IGNORE INTO leases (name, holder, held_until) VALUES (:name, '', '1970-01-01')", values);
}

/** Adds or brings up to date. */
export function writeProbe(values: { holder: string; now: Date }, tx: Transaction): Promise<number> {
  return getDb().run(
    "INSERT INTO leases (name, holder, held_until) VALUES ('readiness', :holder, :now) ON DUPLICATE KEY UPDATE holder = :holder, held_until = :now",
    values,
    tx,
  );
}

/** Its shape varies. */
export function takeLease(values: {
  name: string;
  holder: string;
  now: Date;
  until: Date;
  /** Later than any holder with a right clock can have said. */
  beyond: Date;
}): Promise<number> {
  return getDb().run(
    "UPDATE leases SET holder = :holder, held_until = :until WHERE name = :name AND (holder = :holder OR held_until <= :now OR held_until > :beyond)",
    values,
  );
}
