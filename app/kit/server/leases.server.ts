import { getDb } from "@db";

import * as sql from "./leases.sql";

/** Clocks of servers differ by less. */
const CLOCKS_DIFFER_MS = 60_000;

/**
 * Takes or renews a lease: of all app processes, also over a cluster, one at a time does the work it names. Named locks
 * of a database server do not span a cluster's nodes; a row does.
 *
 * @param ttlMs how long it holds if the process dies
 */
export async function takeLease(name: string, holder: string, ttlMs: number, now: Date): Promise<boolean> {
  const db = getDb();
  await sql.knowLease({ name });
  await sql.takeLease({
    name,
    holder,
    now,
    until: new Date(now.getTime() + ttlMs),
    // Another process's clock may have been ahead when it took it.
    beyond: new Date(now.getTime() + 2 * ttlMs + CLOCKS_DIFFER_MS),
  });
  const [row] = await db.models.Lease.findAll({ attributes: ["holder"], where: { name }, raw: true });
  return row?.holder === holder;
}

export async function dropLease(name: string, holder: string): Promise<void> {
  await getDb().models.Lease.update({ heldUntil: new Date(0) }, { where: { name, holder } });
}

/** Writes a row that nobody reads, to learn whether anything can be written. */
export async function probeWriting(holder: string, now: Date): Promise<void> {
  await getDb().transact((tx) => sql.writeProbe({ holder, now }, tx));
}
