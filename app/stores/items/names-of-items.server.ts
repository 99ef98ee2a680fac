import { getDb } from "@db";

/** Names of catalogue items, in one query. */
export async function namesOfItems(ids: readonly string[]): Promise<Record<string, string>> {
  if (ids.length === 0) return {};
  const rows = await getDb().models.Item.findAll({
    attributes: ["id", "name"],
    where: { id: [...new Set(ids)] },
    raw: true,
  });
  return Object.fromEntries(rows.map((row) => [row.id, row.name]));
}
