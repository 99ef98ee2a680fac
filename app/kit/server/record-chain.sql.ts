/** Statements of record-chain that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Says whether it was new. */
export function beginChain(values: { hash: string }, tx?: Transaction): Promise<number> {
  return getDb().run("INSERT IGNORE INTO record_chain_end (id, seq, hash) VALUES (1, 0, :hash)", values, tx);
}

/** Joins, sums. Signed sheets whose logs hold another number of entries than the chain vouches for. */
export function sheetsBesideTheChain(): Promise<{ sheetId: string; entries: number; vouched: number }[]> {
  return getDb().select<{ sheetId: string; entries: number; vouched: number }>(
    `SELECT s.id AS sheetId, l.entries, COALESCE(c.vouched, 0) AS vouched
     FROM sheets s
     JOIN (SELECT sheet_id, COUNT(*) AS entries FROM log_entries GROUP BY sheet_id) l ON l.sheet_id = s.id
     LEFT JOIN (SELECT subject_id, SUM(JSON_LENGTH(content, '$.events')) AS vouched FROM record_chain
       WHERE kind <> 'return-to-service' GROUP BY subject_id) c ON c.subject_id = s.id
     WHERE s.status = 'signed' AND l.entries <> COALESCE(c.vouched, 0) LIMIT 100`,
  );
}
