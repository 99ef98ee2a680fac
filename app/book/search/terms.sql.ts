/** Statements of what a search of the book means, as far as Sequelize's models cannot say them well. */
import { getDb } from "@db";

/** Each way has an index of its own. */
export function machinesOfNumber(values: { number: string }): Promise<{ id: string; name: string; tag: string }[]> {
  return getDb().select(
    `SELECT id, name, tag FROM machines WHERE tag = :number
     UNION SELECT id, name, tag FROM machines WHERE serial = :number
     UNION SELECT m.id, m.name, m.tag FROM (SELECT machine_id FROM records WHERE tag = :number UNION SELECT machine_id FROM records WHERE serial = :number) r
       JOIN machines m ON m.id = r.machine_id`,
    values,
  );
}

/**
 * The next word in the index that begins so. One at a time, as the database would read every record of each word to tell them
 * apart.
 */
export function wordAfter(values: { after: string; like: string }): Promise<{ value: string }[]> {
  return getDb().select(
    "SELECT value FROM record_links FORCE INDEX (PRIMARY) WHERE kind = 'word' AND value > :after AND value LIKE :like ORDER BY value LIMIT 1",
    values,
  );
}
