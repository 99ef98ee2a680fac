import type { Procedure } from "@core";
import type { Transaction } from "@db";

import { type ItemKind, protectionKey, toolKey } from "./item-keys";
import * as sql from "./items-of-procedures.sql";

/** Makes every item that procedures name known to the catalogue; what is there already stays as it is. */
export async function addItemsOf(procedures: readonly Procedure[], tx?: Transaction): Promise<void> {
  const rows = new Map<string, [id: string, name: string, kind: ItemKind, unit: string, uses: number]>();
  for (const procedure of procedures) {
    for (const { item, name, unit, chemical } of procedure.materials)
      rows.set(item, [item, name, chemical ? "chemical" : "consumable", unit, 1]);
    for (const { item, name, uses } of procedure.parts) rows.set(item, [item, name, "part", "pc", uses ?? 1]);
    for (const name of procedure.tools) rows.set(toolKey(name), [toolKey(name), name, "tool", "pc", 1]);
    for (const name of procedure.protective)
      rows.set(protectionKey(name), [protectionKey(name), name, "protective", "pc", 1]);
  }
  const list = [...rows.values()].filter(([id]) => id !== "");
  if (list.length === 0) return;
  await sql.addMissingItems(Object.fromEntries(list.map((row, i) => [`r${i}`, row])), list, tx);
}
