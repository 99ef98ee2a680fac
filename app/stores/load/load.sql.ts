/** Statements of load that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

import type { Item } from "~/stores/items/catalogue.server";
import { ITEM_COLUMNS } from "~/stores/items/catalogue.sql";

import type { DutySql } from "./load.server";

/** Joins. */
export function dutiesOfDay(values: { personId: string; on: string }): Promise<DutySql[]> {
  return getDb().select<DutySql>(
    `SELECT p.id AS dutyId, p.title, p.procedure_id AS procedureId, p.rules, m.id AS machineId, m.name AS machineName, m.options, m.site_id AS siteId, s.name AS siteName
     FROM duties p JOIN machines m ON m.id = p.machine_id JOIN sites s ON s.id = m.site_id
     WHERE p.planned_for = :personId AND p.planned_on = :on AND p.active = 1 ORDER BY s.name, m.name, p.title, p.id`,
    values,
  );
}

/** Its shape varies. */
export function itemsByKeys(values: { ids: string[] }): Promise<Item[]> {
  return getDb().select<Item>(`SELECT ${ITEM_COLUMNS} FROM items i WHERE i.id IN (:ids)`, values);
}

/** Sums. */
export function freeStock(values: { ids: string[]; personId: string; on: string; machineIds: string[] }): Promise<
  {
    itemId: string;
    placeId: string;
    onHand: number;
    reserved: number;
    own: number | null;
    forItems: number | null;
  }[]
> {
  return getDb().select(
    `SELECT k.item_id AS itemId, k.place_id AS placeId, k.on_hand AS onHand, k.reserved,
       (SELECT SUM(r.qty) FROM reservations r WHERE r.item_id = k.item_id AND r.place_id = k.place_id AND r.ended_at IS NULL AND r.person_id = :personId AND r.on_day = :on) AS own,
       (SELECT SUM(r.qty) FROM reservations r JOIN open_items o ON o.id = r.open_item_id
        WHERE r.item_id = k.item_id AND r.place_id = k.place_id AND r.ended_at IS NULL AND o.machine_id IN (:machineIds)) AS forItems
     FROM stock k WHERE k.item_id IN (:ids)`,
    values,
  );
}

/** Joins. */
export function partsOfOpenItems(values: { machineIds: string[] }): Promise<
  {
    machineId: string;
    item: string;
    who: string;
    workDutyId: string | null;
    plannedOn: string | null;
    plannedFor: string | null;
  }[]
> {
  return getDb().select(
    `SELECT o.machine_id AS machineId, o.item, o.who, o.work_duty_id AS workDutyId, d.planned_on AS plannedOn, d.planned_for AS plannedFor
     FROM open_items o LEFT JOIN duties d ON d.id = o.work_duty_id
     WHERE o.closed_at IS NULL AND o.item IS NOT NULL AND o.machine_id IN (:machineIds) ORDER BY o.wanted_by, o.id`,
    values,
  );
}

/** Adds or brings up to date. */
export function keepTick(values: Record<string, unknown>, tx?: Transaction): Promise<number> {
  return getDb().run(
    "INSERT INTO load_ticks (person_id, on_day, line, ticked_by, ticked_at) VALUES (:personId, :on, :line, :by, :now) ON DUPLICATE KEY UPDATE line = line",
    values,
    tx,
  );
}
