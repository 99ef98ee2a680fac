/** Statements of open items that Sequelize's models cannot say well. */
import { getDb } from "@db";

import type { OpenItemView } from "./open-items.server";

const COLUMNS = `o.id, o.name, o.machine_id AS machineId, o.sheet_id AS sheetId, o.work_duty_id AS workDutyId, o.kind, o.severity, o.title, o.because,
  o.item, o.slot, o.who, o.authorisation, o.wanted_by AS wantedBy, o.arisen_at AS arisenAt, o.asked_whom AS askedWhom, o.asked_on AS askedOn,
  o.booked_for AS bookedFor, o.closed_at AS closedAt, o.closed_note AS closedNote, o.closed_sheet_id AS closedSheetId, o.owner_id AS ownerId, JSON_VALUE(o.body, '$.thing') AS thing,
  w.name AS ownerName, c.name AS closedByName, i.name AS itemName, a.name AS heldAt, l.order_id AS orderId, r.status AS orderStatus,
  d.planned_on AS plannedOn, f.name AS plannedForName
  FROM open_items o LEFT JOIN persons w ON w.id = o.owner_id LEFT JOIN persons c ON c.id = o.closed_by LEFT JOIN items i ON i.id = o.item
  LEFT JOIN reservations h ON h.open_item_id = o.id AND h.ended_at IS NULL LEFT JOIN places a ON a.id = h.place_id
  LEFT JOIN order_lines l ON l.id = o.order_line_id LEFT JOIN orders r ON r.id = l.order_id
  LEFT JOIN duties d ON d.id = o.work_duty_id LEFT JOIN persons f ON f.id = d.planned_for`;

/** Joins. */
export function openItemsOf(values: { machineId: string }): Promise<OpenItemView[]> {
  return getDb().select<OpenItemView>(
    `SELECT ${COLUMNS} WHERE o.machine_id = :machineId AND o.closed_at IS NULL
     ORDER BY FIELD(o.severity, 'unsafe', 'major', 'minor'), o.wanted_by, o.arisen_at, o.id LIMIT 200`,
    values,
  );
}

/** Joins. */
export function closedItemsOf(values: { machineId: string; fetch: number }): Promise<OpenItemView[]> {
  return getDb().select<OpenItemView>(
    `SELECT ${COLUMNS} WHERE o.machine_id = :machineId AND o.closed_at IS NOT NULL ORDER BY o.closed_at DESC, o.id LIMIT :fetch`,
    values,
  );
}
