/** Statements of sites by their names that Sequelize's models cannot say well. */
import { getDb } from "@db";

/** By the beginning of any of its words, the shortest name first: a firm has thousands of sites, not millions. */
export function sitesLike(like: string, most: number): Promise<{ id: string; name: string }[]> {
  return getDb().select(
    `SELECT id, name FROM sites WHERE CONCAT(' ', name) LIKE :like ORDER BY CHAR_LENGTH(name), name, id LIMIT ${most}`,
    { like },
  );
}

/** By the beginning of any of its words, the shortest name first. */
export function customersLike(like: string, most: number): Promise<{ id: string; name: string }[]> {
  return getDb().select(
    `SELECT id, name FROM customers WHERE CONCAT(' ', name) LIKE :like ORDER BY CHAR_LENGTH(name), name, id LIMIT ${most}`,
    { like },
  );
}
