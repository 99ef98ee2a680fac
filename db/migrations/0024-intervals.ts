import type { Migration } from "../migrate";
import { UUID } from "./key-types";

const PLAIN = "CHARACTER SET utf8mb4 COLLATE utf8mb4_bin";
const TABLE = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci";

/** How machines were found at services, which intervals that asks for, and how dusty a site is. */
export const intervals: Migration = {
  name: "0024-intervals",
  async up(query) {
    await query(
      `CREATE TABLE as_found (
        sheet_id ${UUID} NOT NULL PRIMARY KEY,
        duty_id ${UUID} NOT NULL,
        machine_id ${UUID} NOT NULL,
        site_id ${UUID} NOT NULL,
        family VARCHAR(60) ${PLAIN} NOT NULL,
        procedure_id VARCHAR(80) ${PLAIN} NOT NULL,
        found VARCHAR(6) ${PLAIN} NOT NULL,
        told VARCHAR(5) ${PLAIN} NOT NULL,
        because JSON NOT NULL,
        found_at DATETIME(3) NOT NULL,
        on_day DATE NOT NULL,
        after_days INT NULL,
        KEY as_found_duty (duty_id, found_at),
        KEY as_found_procedure (procedure_id, on_day, site_id),
        KEY as_found_family (family, on_day)
      ) ${TABLE}`,
    );
    await query(
      `CREATE TABLE interval_proposals (
        id ${UUID} NOT NULL PRIMARY KEY,
        sheet_id ${UUID} NOT NULL,
        duty_id ${UUID} NOT NULL,
        open_duty_id ${UUID} NULL,
        machine_id ${UUID} NOT NULL,
        site_id ${UUID} NOT NULL,
        found VARCHAR(6) ${PLAIN} NOT NULL,
        because VARCHAR(300) NOT NULL,
        old_rules JSON NOT NULL,
        new_rules JSON NOT NULL,
        old_days DOUBLE NOT NULL,
        new_days DOUBLE NOT NULL,
        minutes_a_year DOUBLE NOT NULL,
        chance JSON NULL,
        made_at DATETIME(3) NOT NULL,
        status VARCHAR(10) ${PLAIN} NOT NULL,
        decided_at DATETIME(3) NULL,
        decided_by ${UUID} NULL,
        reason VARCHAR(500) NULL,
        UNIQUE KEY interval_proposals_open (open_duty_id),
        KEY interval_proposals_duty (duty_id, made_at),
        KEY interval_proposals_listed (status, made_at, id)
      ) ${TABLE}`,
    );
    // Between which days the day lies that is foretold from what was measured.
    await query("ALTER TABLE duties ADD COLUMN foretold_from DATE NULL, ADD COLUMN foretold_to DATE NULL");
    await query(`ALTER TABLE sites ADD COLUMN dust VARCHAR(6) ${PLAIN} NOT NULL DEFAULT 'usual'`);
  },
};
