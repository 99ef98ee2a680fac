import type { Transaction } from "sequelize";

/**
 * Locks of a cluster. `SELECT … FOR UPDATE` holds a row on the node that it was sent to, and no other node knows of it: two who
 * decide on the same row on two nodes both go on. What nodes do hold against each other at a commit is the rows that were written. So
 * whoever locks a row on a cluster writes its turn beside it: of two, the second to commit is told of a deadlock, and does it again
 * (`tryAgain`) with what the first has left.
 *
 * Turns are kept in so many rows, found by a hash: two things that meet in one of them by chance wait for each other and no more.
 */
const SLOTS = 16_384;
/** A turn is another number than the one before, and no more. */
const ROUND = 1_000_000;
/** Turns of one statement. */
const AT_ONCE = 1000;

/** FNV-1a. */
export function slotOf(subject: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < subject.length; i++) hash = Math.imul(hash ^ subject.charCodeAt(i), 0x01000193);
  return (hash >>> 0) % SLOTS;
}

/** Sends a statement within a transaction. */
export type Send = (sql: string, tx: Transaction) => Promise<unknown>;

/** Writes the turns of what was locked, each once, in one order. */
export async function takeTurns(subjects: readonly string[], tx: Transaction, send: Send): Promise<void> {
  const slots = [...new Set(subjects.map(slotOf))].sort((a, b) => a - b);
  for (let i = 0; i < slots.length; i += AT_ONCE) {
    const values = slots
      .slice(i, i + AT_ONCE)
      .map((slot) => `(${slot}, 1)`)
      .join(", ");
    await send(`INSERT INTO turns (slot, n) VALUES ${values} ON DUPLICATE KEY UPDATE n = (n + 1) % ${ROUND}`, tx);
  }
}

interface Reading {
  lock?: unknown;
  attributes?: string[];
  transaction?: Transaction | null;
}
type Row = Record<string, unknown>;
interface Lockable {
  findAll: (options?: Reading) => Promise<Row[] | Row | null>;
}

/** A model of which whoever locks rows takes their turns; every way to find leads through this one. */
export function withTurns<Model extends Lockable>(
  model: Model,
  {
    table,
    keys,
    take,
  }: { table: string; keys: readonly string[]; take: (subjects: string[], tx: Transaction) => Promise<void> },
): Model {
  const find = model.findAll.bind(model);
  model.findAll = async (options) => {
    const { lock, transaction, attributes } = options ?? {};
    if (!lock || !transaction) return find(options);
    const found = await find({ ...options, ...(attributes && { attributes: [...new Set([...attributes, ...keys])] }) });
    // One alone comes as it is.
    const rows = Array.isArray(found) ? found : found ? [found] : [];
    await take(
      rows.map((row) => [table, ...keys.map((key) => String(row[key]))].join(" ")),
      transaction,
    );
    return found;
  };
  return model;
}
