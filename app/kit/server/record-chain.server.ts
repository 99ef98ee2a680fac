import type { RunEvent } from "@core";
import { must } from "@core";
import { getDb, type MachineHoldRow, type RecordChainRow, type Transaction } from "@db";

import { contentHash } from "./content-hash.server";
import * as sql from "./record-chain.sql";

/** Where the chain begins. */
const NOTHING = "0".repeat(64);

type Entry = Pick<RecordChainRow, "seq" | "kind" | "subjectId" | "at" | "contentHash" | "previousHash">;

/** Hash of an entry: canonical JSON (RFC 8785), SHA-256, the previous entry's hash included. */
function entryHash({ seq, kind, subjectId, at, contentHash: content, previousHash }: Entry): string {
  return contentHash({ seq: seq, kind, subjectId, at: at.toISOString(), contentHash: content, previousHash });
}

interface NewInChain {
  kind: RecordChainRow["kind"];
  subjectId: string;
  /** Names what is vouched for. */
  content: Record<string, unknown>;
  /** The thing itself, of which the hash is kept. */
  vouched: object;
  at: Date;
}

/** Adds to the chain of records within the caller's transaction. */
export async function addToChain(entry: NewInChain, tx: Transaction): Promise<void> {
  await addAllToChain([entry], tx);
}

/** Adds many entries at once, in their order: for a history that is taken over. */
export async function addAllToChain(entries: readonly NewInChain[], tx: Transaction): Promise<void> {
  const db = getDb();
  const heldEnd = () =>
    db.models.RecordChainEnd.findAll({
      attributes: ["seq", "hash"],
      where: { id: 1 },
      lock: tx.LOCK.UPDATE,
      raw: true,
      transaction: tx,
    });
  let [end] = await heldEnd();
  // Only the first of all makes it: a row that is inserted though it is there is shared first, and two who share it cannot both hold it.
  if (!end) {
    await sql.beginChain({ hash: NOTHING }, tx);
    [end] = await heldEnd();
  }
  let last = { seq: must(end).seq, hash: must(end).hash };
  const rows = entries.map(({ kind, subjectId, content, vouched, at }): RecordChainRow => {
    const entry = {
      seq: last.seq + 1,
      kind,
      subjectId,
      at,
      contentHash: contentHash(vouched),
      previousHash: last.hash,
    };
    last = { seq: entry.seq, hash: entryHash(entry) };
    return { ...entry, content, hash: last.hash };
  });
  await db.models.RecordChain.bulkCreate(rows, { transaction: tx });
  await db.models.RecordChainEnd.update({ seq: last.seq, hash: last.hash }, { where: { id: 1 }, transaction: tx });
}

/**
 * What a signature vouches for: the version worked on, and every fact of the log. Its names are part of what is hashed: they
 * never change, whatever the tables are called.
 */
export function vouchedFor(
  sheet: { id: string; procedureId: string; procedureVersion: number },
  entries: readonly RunEvent[],
): object {
  return {
    runId: sheet.id,
    procedureId: sheet.procedureId,
    procedureVersion: sheet.procedureVersion,
    events: [...entries].sort((a, b) => (a.id < b.id ? -1 : 1)),
  };
}

/** What a lead vouches for who returns a machine to service; its names never change either. */
export function vouchedReturn({ sheetId, entryId, since, clearedAt, ...hold }: MachineHoldRow): object {
  return {
    ...hold,
    runId: sheetId,
    eventId: entryId,
    since: since.toISOString(),
    clearedAt: clearedAt?.toISOString() ?? null,
  };
}

export interface ChainFault {
  seq: number;
  subjectId: string;
  what: string;
}

/** Where the chain ends; null before its first record. */
export async function chainEnd(): Promise<Pick<RecordChainRow, "seq" | "hash"> | null> {
  const end = await getDb().models.RecordChainEnd.findByPk("1", { attributes: ["seq", "hash"], raw: true });
  return end && end.seq > 0 ? { seq: end.seq, hash: end.hash } : null;
}

/**
 * What was kept of the chain's end outside the database.
 *
 * @throws Error when it is nothing that was kept
 */
export function readKeptEnd(text: string): Pick<RecordChainRow, "seq" | "hash"> {
  const kept = parsed(text);
  if (Number.isInteger(kept?.seq) && /^[0-9a-f]{64}$/.test(String(kept?.hash)))
    return { seq: Number(kept?.seq), hash: String(kept?.hash) };
  throw new Error("This is no kept end of a chain: nothing can be held against it.");
}

function parsed(text: string): { seq?: unknown; hash?: unknown } | null {
  try {
    return JSON.parse(text) as { seq?: unknown; hash?: unknown } | null;
  } catch {
    return null;
  }
}

/** What the chain has lost since its end was kept: it goes no further than before that, or another way. */
export async function lostSince({ seq, hash }: Pick<RecordChainRow, "seq" | "hash">): Promise<ChainFault[]> {
  const row = await getDb().models.RecordChain.findOne({
    attributes: ["hash", "subjectId"],
    where: { seq },
    raw: true,
  });
  if (row?.hash === hash) return [];
  const end = (await chainEnd())?.seq ?? 0;
  const what = row
    ? "the chain went another way since its end was kept"
    : `the chain ends at ${end}, but ${seq} was kept: this is an older copy`;
  return [{ seq, subjectId: row?.subjectId ?? "", what }];
}

const PAGE = 200;

/** Goes through the whole chain and recomputes every hash from what the tables hold now. */
export async function verifyChain(): Promise<{ entries: number; faults: ChainFault[] }> {
  const db = getDb();
  const faults: ChainFault[] = [];
  let previous = { seq: 0, hash: NOTHING };
  let entries = 0;
  for (;;) {
    const page = await db.models.RecordChain.findAll({
      where: { seq: range(previous.seq + 1, previous.seq + PAGE) },
      order: [["seq", "ASC"]],
      raw: true,
    });
    const [end] = await db.models.RecordChainEnd.findAll({
      attributes: ["seq", "hash"],
      where: { id: 1 },
      raw: true,
    });
    if (page.length === 0) {
      if ((end?.seq ?? 0) > previous.seq)
        faults.push({
          seq: previous.seq + 1,
          subjectId: "",
          what: `the chain ends at ${previous.seq}, but ${must(end).seq} were written`,
        });
      else if (end && end.hash !== previous.hash)
        faults.push({ seq: previous.seq, subjectId: "", what: "the end of the chain is not the last entry" });
      return { entries, faults: [...faults, ...(await besideTheChain())] };
    }
    for (const row of page) {
      entries += 1;
      const fault = (what: string): number => faults.push({ seq: row.seq, subjectId: row.subjectId, what });
      if (row.seq !== previous.seq + 1) fault(`entry ${previous.seq + 1} is missing`);
      if (row.previousHash !== previous.hash) fault("it does not continue the entry before it");
      if (entryHash(row) !== row.hash) fault("the entry was changed");
      const now = await vouchedNow(row);
      if (now === null) fault("what it vouches for is not there any more");
      else if (now === "set aside") fault("what it vouches for was set aside, as if it had come late");
      else if (contentHash(now) !== row.contentHash) fault("what it vouches for was changed");
      previous = { seq: row.seq, hash: row.hash };
    }
  }
}

function range(from: number, to: number): number[] {
  return Array.from({ length: to - from + 1 }, (_, i) => from + i);
}

/** Logs of signed sheets that hold what no record and no addition vouches for, or less. */
async function besideTheChain(): Promise<ChainFault[]> {
  return (await sql.sheetsBesideTheChain()).map(({ sheetId, entries, vouched }) => ({
    seq: 0,
    subjectId: sheetId,
    what: `the log holds ${entries} entries, the chain vouches for ${vouched}`,
  }));
}

/** What an entry vouches for, as the tables hold it now; null when some of it is gone. */
async function vouchedNow(row: RecordChainRow): Promise<object | "set aside" | null> {
  const db = getDb();
  if (row.kind === "return-to-service") {
    const hold = await db.models.MachineHold.findByPk(row.subjectId, { raw: true });
    return hold && vouchedReturn(hold);
  }
  const ids = (row.content as { events: string[] }).events;
  const sheet = await db.models.Sheet.findByPk(row.subjectId, { raw: true });
  const entries = await db.models.LogEntry.findAll({ attributes: ["body", "late"], where: { id: ids }, raw: true });
  if (!sheet || entries.length !== ids.length) return null;
  if (row.kind === "record" && entries.some((one) => one.late)) return "set aside";
  return vouchedFor(
    sheet,
    entries.map((one) => one.body),
  );
}
