/** Statements of adding machines and sites that Sequelize's models cannot say well. */
import { getDb } from "@db";

import { likeText } from "~/kit/server/like-text.server";

/** Joins; compares in the database, as names are compared there. */
export function sitesMeant(text: string, most = 20): Promise<{ id: string; name: string; customerName: string }[]> {
  return getDb().select(
    `SELECT s.id, s.name, c.name AS customerName FROM sites s JOIN customers c ON c.id = s.customer_id
     WHERE CONCAT(s.name, ', ', c.name) LIKE :like ORDER BY s.name, c.name LIMIT ${most}`,
    { like: `${likeText(text)}%` },
  );
}

/** The longest and last of those that begin alike: tags are counted up. */
export function lastTagLike(prefix: string): Promise<{ tag: string }[]> {
  return getDb().select(
    "SELECT tag FROM machines WHERE tag LIKE :like AND tag REGEXP :counted ORDER BY LENGTH(tag) DESC, tag DESC LIMIT 1",
    { like: `${likeText(prefix)}%`, counted: `^${prefix.replaceAll("-", "[-]")}[0-9]+$` },
  );
}

/** Each family's newest procedures, of each only what is asked when a machine is added. */
export function namesOfFamilies(): Promise<
  {
    family: string;
    meters: { id: string; name: string; unit: string }[] | null;
    options: { id: string; name: string }[] | null;
  }[]
> {
  return getDb().select(
    `SELECT p.family, JSON_EXTRACT(p.body, '$.meters') AS meters, JSON_EXTRACT(p.body, '$.options') AS options FROM procedures p
     JOIN (SELECT id, MAX(version) AS version FROM procedures GROUP BY id) newest ON newest.id = p.id AND newest.version = p.version
     WHERE p.family <> 'any'`,
  );
}

/** Each once. */
export function familiesInUse(): Promise<{ family: string }[]> {
  return getDb().select(
    "SELECT DISTINCT family FROM machines UNION SELECT DISTINCT family FROM procedures WHERE family <> 'any'",
  );
}
