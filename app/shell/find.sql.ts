/** Statements of finding that Sequelize's models cannot say well. */
import { getDb } from "@db";

import { likeText } from "~/kit/server/like-text.server";

/** Each id once, the newest version's title: a library has hundreds of rows, not thousands. */
export function proceduresLike(words: string, limit: number): Promise<{ id: string; title: string; family: string }[]> {
  return getDb().select(
    `SELECT p.id, p.title, p.family FROM procedures p
     JOIN (SELECT id, MAX(version) AS version FROM procedures GROUP BY id) newest ON newest.id = p.id AND newest.version = p.version
     WHERE CONCAT(' ', p.title) LIKE :like ORDER BY p.title LIMIT ${limit}`,
    { like: `% ${likeText(words)}%` },
  );
}

/** Joins; by the beginning of an address, which has an index. */
export function sitesByAddress(words: string, limit: number): Promise<{ id: string; name: string; address: string }[]> {
  return getDb().select(
    `SELECT id, name, address FROM sites FORCE INDEX (sites_address) WHERE address LIKE :like ORDER BY address, id LIMIT ${limit}`,
    { like: `${likeText(words)}%` },
  );
}

/** By the beginning of any of their names: a firm has tens of people. */
export function peopleLike(words: string, limit: number): Promise<{ id: string; name: string; role: string }[]> {
  return getDb().select(
    `SELECT id, name, role FROM persons WHERE active = 1 AND (CONCAT(' ', name) LIKE :like OR sign_in LIKE :start) ORDER BY name LIMIT ${limit}`,
    { like: `% ${likeText(words)}%`, start: `${likeText(words)}%` },
  );
}

/** Joins: the record that has a number in the chain. */
export function recordOfNumber(seq: number): Promise<{ id: string; title: string; machineName: string }[]> {
  return getDb().select(
    `SELECT r.id, d.title, m.name AS machineName FROM record_chain c JOIN sheets r ON r.id = c.subject_id
     JOIN duties d ON d.id = r.duty_id JOIN machines m ON m.id = r.machine_id WHERE c.seq = :seq AND c.kind = 'record'`,
    { seq },
  );
}
