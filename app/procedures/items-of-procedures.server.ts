import type { Procedure } from "@core";
import { getDb, Op, type Transaction } from "@db";

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

/** Where a procedure's materials and parts do not go with the stores: sums would mix units, and lists show one name twice. */
export async function itemFaults(procedure: Procedure, tx?: Transaction): Promise<string[]> {
  const named: { item: string; name: string; unit: string | null }[] = [
    ...procedure.materials,
    ...procedure.parts.map(({ item, name }) => ({ item, name, unit: null })),
  ];
  if (named.length === 0) return [];
  const known = await getDb().models.Item.findAll({
    attributes: ["id", "name", "unit"],
    where: { [Op.or]: [{ id: named.map((one) => one.item) }, { name: named.map((one) => one.name) }] },
    raw: true,
    ...(tx ? { transaction: tx } : {}),
  });
  return named.flatMap(({ item, name, unit }) => {
    const same = known.find((one) => one.id === item);
    if (same && unit !== null && same.unit !== unit)
      return [`The stores count “${same.name}” in ${same.unit}, not in ${unit}.`];
    const other = same ? undefined : known.find((one) => one.name.toLowerCase() === name.toLowerCase());
    return other
      ? [
          `The stores have another “${other.name}” already. Take that one, or give this one a name that tells them apart.`,
        ]
      : [];
  });
}
