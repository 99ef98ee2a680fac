import type { PastValues } from "@core";
import type { Transaction } from "@db";

import * as sql from "./sheets.sql";

/**
 * The last few values of every reading and meter of a machine, oldest first: what a new one is held against, and ghosts for
 * the limit ruler.
 *
 * @param without ids of values that are left out
 */
export async function recentValues(
  machineId: string,
  without: ReadonlySet<string> = new Set(),
  tx?: Transaction,
): Promise<PastValues> {
  const values: Record<string, { on: string; value: number }[]> = {};
  for (const { id, name, value, on } of await sql.recentValues({ machineId }, tx))
    if (!without.has(id)) (values[name] ??= []).push({ on, value });
  return values;
}
