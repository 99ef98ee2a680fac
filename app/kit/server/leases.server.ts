import { getDb } from "@db";

import * as sql from "./leases.sql";

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
  });
  const [row] = await db.models.Lease.findAll({ attributes: ["holder"], where: { name }, raw: true });
  return row?.holder === holder;
}

export async function dropLease(name: string, holder: string): Promise<void> {
  await getDb().models.Lease.update({ heldUntil: new Date(0) }, { where: { name, holder } });
}
