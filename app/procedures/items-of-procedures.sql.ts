/** Statements of items-of-procedures that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

import type { ItemKind } from "./item-keys";

/** Says whether it was new. */
export function addMissingItems(
  values: Record<string, unknown>,
  list: [id: string, name: string, kind: ItemKind, unit: string, uses: number][],
  tx?: Transaction | null,
): Promise<number> {
  return getDb().run(
    `INSERT IGNORE INTO items (id, name, kind, unit, uses_per_piece) VALUES ${list.map((_, i) => `(:r${i})`).join(", ")}`,
    values,
    tx,
  );
}
