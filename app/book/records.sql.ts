/** Statements of records that Sequelize's models cannot say well. */
import { getDb } from "@db";

/** Joins. */
export function placeThen(values: { sheetId: string }): Promise<
  {
    siteId: string;
    siteName: string;
    customerName: string;
    address: string;
    timeZone: string;
    tag: string;
    serial: string;
  }[]
> {
  return getDb().select(
    `SELECT r.site_id AS siteId, s.name AS siteName, c.name AS customerName, s.address, s.time_zone AS timeZone, r.tag, r.serial
     FROM records r JOIN sites s ON s.id = r.site_id JOIN customers c ON c.id = r.customer_id WHERE r.sheet_id = :sheetId`,
    values,
  );
}

/** A join, and sums by conditions: when the person who closed a sheet came to its site before that and left it after, that day. */
export function timeOnSite(values: {
  personId: string;
  siteId: string;
  closedAt: Date;
  on: string;
}): Promise<{ arrivedAt: Date | null; leftAt: Date | null }[]> {
  return getDb().select(
    `SELECT MAX(CASE WHEN e.type = 'arrived' AND e.at <= :closedAt THEN e.at END) AS arrivedAt,
       MIN(CASE WHEN e.type = 'left' AND e.at >= :closedAt THEN e.at END) AS leftAt
     FROM day_events e JOIN days d ON d.id = e.day_id
     WHERE d.person_id = :personId AND d.on_day = :on AND e.site_id = :siteId AND e.type IN ('arrived', 'left')
       AND NOT EXISTS (SELECT 1 FROM day_events u WHERE u.day_id = e.day_id AND u.type = 'undone' AND JSON_VALUE(u.body, '$.ref') = e.id)`,
    values,
  );
}
