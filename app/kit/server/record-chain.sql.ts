/** Statements of record-chain that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Says whether it was new. */
export function beginChain(values: { hash: string }, tx?: Transaction): Promise<number> {
  return getDb().run("INSERT IGNORE INTO record_chain_end (id, seq, hash) VALUES (1, 0, :hash)", values, tx);
}
