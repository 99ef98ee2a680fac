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

/** The next title in the index that begins so: very many duties may have one title. */
export function dutyTitleAfter(values: { after: string; like: string }): Promise<{ title: string }[]> {
  return getDb().select(
    "SELECT title FROM duties FORCE INDEX (duties_title) WHERE title > :after AND title LIKE :like AND active = 1 ORDER BY title LIMIT 1",
    values,
  );
}

export interface DutyFound {
  id: string;
  title: string;
  machineName: string;
  machineTag: string;
}

/** Joins; of each title the soonest and some that have no day, from the index alone. */
export function soonestDuties(titles: readonly string[], each: number): Promise<DutyFound[]> {
  const branch = (title: number, day: string): string =>
    `(SELECT id FROM duties FORCE INDEX (duties_title) WHERE title = :title${title} AND active = 1 AND due_on ${day} ORDER BY due_on LIMIT ${each})`;
  const branches = titles.flatMap((_, i) => [branch(i, "IS NOT NULL"), branch(i, "IS NULL")]);
  return getDb().select(
    `SELECT d.id, d.title, m.name AS machineName, m.tag AS machineTag FROM (${branches.join(" UNION ALL ")}) f
       JOIN duties d ON d.id = f.id JOIN machines m ON m.id = d.machine_id ORDER BY d.title, d.due_on IS NULL, d.due_on`,
    Object.fromEntries(titles.map((title, i) => [`title${i}`, title])),
  );
}

/** Joins; duties of machines whose tag begins so, with a word that begins so. */
export function dutiesOfTag(values: { tag: string; like: string }, limit: number): Promise<DutyFound[]> {
  return getDb().select(
    `SELECT d.id, d.title, m.name AS machineName, m.tag AS machineTag FROM (SELECT id, name, tag FROM machines WHERE tag LIKE :tag LIMIT 50) m
       JOIN duties d ON d.machine_id = m.id WHERE d.active = 1 AND CONCAT(' ', d.title) LIKE :like ORDER BY d.due_on IS NULL, d.due_on, d.id LIMIT ${limit}`,
    values,
  );
}
