/** Statements of places that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

import { ITEM_COLUMNS } from "~/stores/items/catalogue.sql";

import type { Place, PlaceStock } from "./places.server";

export const COLUMNS = `p.id, p.kind, p.name, p.person_id AS personId, w.name AS personName, p.site_id AS siteId, s.name AS siteName
  FROM places p LEFT JOIN persons w ON w.id = p.person_id LEFT JOIN sites s ON s.id = p.site_id`;

export const PAGE = 60;

/** Compares in the database. */
export function allPlaces(tx?: Transaction | null): Promise<Place[]> {
  return getDb().select<Place>(
    `SELECT ${COLUMNS} WHERE p.active = 1 ORDER BY FIELD(p.kind, 'van', 'depot', 'shelf'), p.name LIMIT 500`,
    {},
    tx,
  );
}

/** Its shape varies. */
export function onePlace(values: { placeId: string }): Promise<Place[]> {
  return getDb().select<Place>(`SELECT ${COLUMNS} WHERE p.id = :placeId`, values);
}

/** Compares in the database. */
export function placeOfPerson(values: { personId: string }, tx?: Transaction | null): Promise<{ id: string }[]> {
  return getDb().select<{ id: string }>(
    `SELECT id FROM places WHERE active = 1 AND (person_id = :personId OR kind = 'depot') ORDER BY person_id <=> :personId DESC, name LIMIT 1`,
    values,
    tx,
  );
}

/** Joins, an index by name. */
export function stockPage(
  values: { placeId: string; after: string | null },
  filter: { after: string | null; counts?: boolean },
): Promise<PlaceStock[]> {
  return getDb().select<PlaceStock>(
    `SELECT ${ITEM_COLUMNS}, k.on_hand AS onHand, k.reserved, k.count_asked AS countAsked, o.runs_out_on AS runsOutOn
     FROM stock k FORCE INDEX (${filter.counts ? "stock_count" : "stock_place"}) STRAIGHT_JOIN items i ON i.id = k.item_id LEFT JOIN stock_outlook o ON o.item_id = k.item_id AND o.place_id = k.place_id
     WHERE k.place_id = :placeId ${filter.after ? "AND k.item_id > :after" : ""} ${filter.counts ? "AND k.count_asked = 1" : ""} ORDER BY k.item_id LIMIT ${PAGE + 1}`,
    values,
  );
}
