/** Statements of what a search of the book means, as far as Sequelize's models cannot say them well. */
import { getDb } from "@db";

interface Named {
  id: string;
  name: string;
}

/** Each way has an index of its own. */
export function machinesOfNumber(values: { number: string }): Promise<(Named & { tag: string })[]> {
  return getDb().select(
    `SELECT id, CONCAT(name, ' ', tag) AS name, tag FROM machines WHERE tag = :number
     UNION SELECT id, CONCAT(name, ' ', tag), tag FROM machines WHERE serial = :number
     UNION SELECT m.id, CONCAT(m.name, ' ', m.tag), m.tag FROM (SELECT machine_id FROM records WHERE tag = :number UNION SELECT machine_id FROM records WHERE serial = :number) r
       JOIN machines m ON m.id = r.machine_id`,
    values,
  );
}

/** Each way has an index of its own. */
export function machinesLike(
  values: { words: string; prefix: string },
  most: number,
): Promise<(Named & { tag: string; called: string })[]> {
  const branches = [
    ...(values.words === ""
      ? []
      : [
          "SELECT id FROM machines WHERE MATCH (name, tag, serial, maker, model, area) AGAINST (:words IN BOOLEAN MODE)",
        ]),
    "SELECT id FROM machines WHERE name LIKE :prefix",
    "SELECT id FROM machines WHERE tag LIKE :prefix",
    "SELECT id FROM machines WHERE serial LIKE :prefix",
  ];
  return getDb().select(
    `SELECT m.id, CONCAT(m.name, ' ', m.tag) AS name, m.tag, m.name AS called FROM (${branches.map((one) => `(${one} LIMIT ${most})`).join(" UNION ")}) found
       JOIN machines m ON m.id = found.id ORDER BY m.name, m.id LIMIT ${most}`,
    values,
  );
}

/** By the beginning of any of its words, the shortest name first. */
export function customersLike(like: string, most: number): Promise<Named[]> {
  return getDb().select(
    `SELECT id, name FROM customers WHERE CONCAT(' ', name) LIKE :like ORDER BY CHAR_LENGTH(name), name, id LIMIT ${most}`,
    { like },
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
