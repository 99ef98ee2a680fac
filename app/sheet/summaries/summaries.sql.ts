/** Statements of summaries that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Joins; the site that a signed sheet's minutes were kept for is that at which it was worked. */
export function placesOfSheets(
  values: { ids: readonly string[] },
  tx: Transaction,
): Promise<{ sheetId: string; siteId: string; customerId: string; family: string; tag: string; serial: string }[]> {
  return getDb().select(
    `SELECT r.id AS sheetId, s.id AS siteId, s.customer_id AS customerId, m.family, m.tag, m.serial
     FROM sheets r JOIN machines m ON m.id = r.machine_id LEFT JOIN sheet_minutes x ON x.sheet_id = r.id
       JOIN sites s ON s.id = COALESCE(x.site_id, m.site_id)
     WHERE r.id IN (:ids)`,
    values,
    tx,
  );
}

/** Asks for absence, by the beginning of an index. */
export function withoutSummary(values: {
  closedAt: Date;
  id: string;
  limit: number;
}): Promise<{ id: string; closedAt: Date }[]> {
  return getDb().select(
    `SELECT s.id, s.closed_at AS closedAt FROM sheets s LEFT JOIN records r ON r.sheet_id = s.id
     WHERE s.closed_at >= :closedAt AND (s.closed_at > :closedAt OR s.id > :id) AND r.sheet_id IS NULL
     ORDER BY s.closed_at, s.id LIMIT :limit`,
    values,
  );
}
