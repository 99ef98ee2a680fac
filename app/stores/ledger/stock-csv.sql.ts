/** Statements of stock-csv that Sequelize's models cannot say well. */
import { getDb } from "@db";

/** Joins, sums, puts lists together, compares in the database. */
export function stockForCsv(): Promise<
  {
    place: string;
    item: string;
    name: string;
    lot: string | null;
    expiresOn: string | null;
    qty: number;
    unit: string;
  }[]
> {
  return getDb().select<{
    place: string;
    item: string;
    name: string;
    lot: string | null;
    expiresOn: string | null;
    qty: number;
    unit: string;
  }>(`SELECT p.name AS place, i.id AS item, i.name, l.lot, l.expires_on AS expiresOn, s.qty, i.unit
       FROM stock_lots s JOIN items i ON i.id = s.item_id JOIN places p ON p.id = s.place_id JOIN lots l ON l.id = s.lot_id WHERE s.qty <> 0
     UNION ALL
     SELECT p.name, i.id, i.name, NULL, NULL, k.on_hand - COALESCE((SELECT SUM(s.qty) FROM stock_lots s WHERE s.item_id = k.item_id AND s.place_id = k.place_id), 0), i.unit
       FROM stock k JOIN items i ON i.id = k.item_id JOIN places p ON p.id = k.place_id
     ORDER BY 1, 2, 4`);
}

/** Its shape varies. */
export function itemsByKeys(values: { named: string[] }): Promise<{ id: string; code: string | null }[]> {
  return getDb().select<{ id: string; code: string | null }>(
    "SELECT id, scan_code AS code FROM items WHERE id IN (:named) OR scan_code IN (:named)",
    values,
  );
}
