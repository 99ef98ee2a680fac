import type { Migration } from "../migrate";
import { UUID } from "./key-types";

const PLAIN = "CHARACTER SET utf8mb4 COLLATE utf8mb4_bin";
/** As the catalogue has it: joined by its key. */
const ITEM = "VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin";
const TABLE = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci";

/** How far parts are worn, which pieces were in which slot, and what is foreseen of them. */
export const wear: Migration = {
  name: "0023-wear",
  async up(query) {
    await query(
      `CREATE TABLE slot_fits (
        id ${UUID} NOT NULL PRIMARY KEY,
        machine_id ${UUID} NOT NULL,
        slot VARCHAR(80) ${PLAIN} NOT NULL,
        item ${ITEM} NOT NULL,
        turned TINYINT(1) NOT NULL,
        came_out VARCHAR(8) ${PLAIN} NOT NULL,
        fitted_at DATETIME(3) NOT NULL,
        on_day DATE NOT NULL,
        sheet_id ${UUID} NOT NULL,
        KEY slot_fits_machine (machine_id, slot, fitted_at),
        KEY slot_fits_item (item, machine_id),
        KEY slot_fits_sheet (sheet_id)
      ) ${TABLE}`,
    );
    await query(
      `CREATE TABLE wear_values (
        entry_id ${UUID} NOT NULL,
        slot VARCHAR(80) ${PLAIN} NOT NULL,
        machine_id ${UUID} NOT NULL,
        item ${ITEM} NOT NULL,
        reading VARCHAR(60) ${PLAIN} NOT NULL,
        unit VARCHAR(20) NOT NULL,
        per VARCHAR(60) ${PLAIN} NOT NULL,
        worse VARCHAR(4) ${PLAIN} NOT NULL,
        limit_at DOUBLE NULL,
        value DOUBLE NOT NULL,
        stage VARCHAR(5) ${PLAIN} NOT NULL,
        confirmed TINYINT(1) NOT NULL,
        read_at DATETIME(3) NOT NULL,
        on_day DATE NOT NULL,
        sheet_id ${UUID} NOT NULL,
        PRIMARY KEY (entry_id, slot),
        KEY wear_values_machine (machine_id, slot, read_at),
        KEY wear_values_sheet (sheet_id)
      ) ${TABLE}`,
    );
    await query(
      `CREATE TABLE wear_lines (
        id ${UUID} NOT NULL PRIMARY KEY,
        machine_id ${UUID} NOT NULL,
        slot VARCHAR(80) ${PLAIN} NOT NULL,
        item ${ITEM} NOT NULL,
        reading VARCHAR(60) ${PLAIN} NOT NULL,
        unit VARCHAR(20) NOT NULL,
        per VARCHAR(60) ${PLAIN} NOT NULL,
        worse VARCHAR(4) ${PLAIN} NOT NULL,
        limit_at DOUBLE NULL,
        pool VARCHAR(250) ${PLAIN} NOT NULL,
        began_at DATETIME(3) NULL,
        begun_by VARCHAR(10) ${PLAIN} NULL,
        ended_at DATETIME(3) NULL,
        current TINYINT(1) NOT NULL,
        n INT NOT NULL,
        mean_at DOUBLE NOT NULL,
        level DOUBLE NOT NULL,
        slope DOUBLE NULL,
        sum_squares DOUBLE NOT NULL,
        residual DOUBLE NOT NULL,
        first_use DOUBLE NOT NULL,
        first_on DATE NOT NULL,
        last_use DOUBLE NOT NULL,
        last_on DATE NOT NULL,
        last_value DOUBLE NOT NULL,
        use_now DOUBLE NOT NULL,
        rate DOUBLE NULL,
        as_of DATE NOT NULL,
        line JSON NULL,
        crosses_on DATE NULL,
        crosses_from DATE NULL,
        crosses_to DATE NULL,
        next_on DATE NULL,
        next_chance DOUBLE NULL,
        second_on DATE NULL,
        second_chance DOUBLE NULL,
        planned_cost INT NULL,
        cost_now INT NULL,
        cost_next INT NULL,
        break_even DOUBLE NULL,
        advice VARCHAR(6) ${PLAIN} NULL,
        slot_name VARCHAR(160) NOT NULL DEFAULT '',
        listed_by DOUBLE NOT NULL DEFAULT -1,
        listed_on DATE NOT NULL DEFAULT '9999-12-31',
        stale TINYINT(1) NOT NULL DEFAULT 0,
        KEY wear_lines_machine (machine_id, current, slot),
        KEY wear_lines_pool (pool, machine_id, n, slope, sum_squares, residual),
        KEY wear_lines_listed (current, listed_by DESC, listed_on, id),
        KEY wear_lines_item (current, item, next_on),
        KEY wear_lines_stale (current, stale, next_on)
      ) ${TABLE}`,
    );
    // What it costs when a part of it fails: little, what is usual, or much.
    await query(`ALTER TABLE machines ADD COLUMN criticality VARCHAR(6) ${PLAIN} NOT NULL DEFAULT 'usual'`);
    // When it runs out with what is expected besides, and by when it is ordered then.
    await query("ALTER TABLE stock_outlook ADD COLUMN likely_out_on DATE NULL, ADD COLUMN likely_order_by DATE NULL");
    // Sheets that were closed before are taken up once.
    await query(
      "ALTER TABLE sheets ADD COLUMN wear_kept TINYINT(1) NOT NULL DEFAULT 0, ADD KEY sheets_wear (wear_kept, closed_at)",
    );
  },
};
