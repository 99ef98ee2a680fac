import type { Migration } from "../migrate";
import { UUID } from "./key-types";

/** Plain bytes, as keys are: what is looked up is written in one way before it comes here. */
const PLAIN = "CHARACTER SET utf8mb4 COLLATE utf8mb4_bin";

const TABLE = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci";

/** The order of the book, and what every index of it carries along: counting never leaves the index. */
const ORDER = "on_day, closed_at, sheet_id";

/**
 * What a closed sheet is found by: one row of its own with where and of whom it was when it was closed, and a row for everything
 * of which it may have several. And long work, which any process goes on with.
 */
export const summariesAndJobs: Migration = {
  name: "0017-summaries-and-jobs",
  async up(query) {
    await query(
      `CREATE TABLE records (
        sheet_id ${UUID} NOT NULL,
        on_day DATE NOT NULL,
        closed_at DATETIME(3) NOT NULL,
        closed_by ${UUID} NOT NULL,
        machine_id ${UUID} NOT NULL,
        site_id ${UUID} NOT NULL,
        customer_id ${UUID} NOT NULL,
        family VARCHAR(60) ${PLAIN} NOT NULL,
        procedure_id VARCHAR(80) ${PLAIN} NOT NULL,
        title VARCHAR(200) NOT NULL,
        tag VARCHAR(32) NOT NULL,
        serial VARCHAR(120) NOT NULL,
        outcome VARCHAR(20) ${PLAIN} NOT NULL,
        exceptions INT NOT NULL,
        PRIMARY KEY (${ORDER}),
        UNIQUE KEY records_sheet (sheet_id),
        KEY records_machine (machine_id, ${ORDER}, exceptions),
        KEY records_site (site_id, ${ORDER}, exceptions),
        KEY records_customer (customer_id, ${ORDER}, exceptions),
        KEY records_family (family, ${ORDER}, exceptions),
        KEY records_procedure (procedure_id, ${ORDER}, exceptions),
        KEY records_outcome (outcome, ${ORDER}, exceptions),
        KEY records_tag (tag, machine_id),
        KEY records_serial (serial, machine_id)
      ) ${TABLE}`,
    );
    await query(
      `CREATE TABLE record_links (
        kind VARCHAR(12) ${PLAIN} NOT NULL,
        value VARCHAR(120) ${PLAIN} NOT NULL,
        on_day DATE NOT NULL,
        closed_at DATETIME(3) NOT NULL,
        sheet_id ${UUID} NOT NULL,
        exceptions INT NOT NULL,
        PRIMARY KEY (kind, value, ${ORDER}),
        KEY record_links_sheet (sheet_id)
      ) ${TABLE}`,
    );
    await query(
      `CREATE TABLE jobs (
        id ${UUID} NOT NULL PRIMARY KEY,
        kind VARCHAR(40) NOT NULL,
        title VARCHAR(300) NOT NULL,
        asked_by ${UUID} NOT NULL,
        asked_at DATETIME(3) NOT NULL,
        what JSON NOT NULL,
        state VARCHAR(10) NOT NULL,
        kept JSON NULL,
        done INT NOT NULL DEFAULT 0,
        total INT NOT NULL DEFAULT 0,
        tries INT NOT NULL DEFAULT 0,
        runner VARCHAR(80) NOT NULL DEFAULT '',
        ended_at DATETIME(3) NULL,
        message VARCHAR(500) NOT NULL DEFAULT '',
        KEY jobs_waiting (state, asked_at, id),
        KEY jobs_person (asked_by, asked_at, id),
        KEY jobs_ended (ended_at)
      ) ${TABLE}`,
    );
    await query(
      `CREATE TABLE job_pieces (
        job_id ${UUID} NOT NULL,
        name VARCHAR(80) NOT NULL,
        seq INT NOT NULL,
        bytes MEDIUMBLOB NOT NULL,
        PRIMARY KEY (job_id, name, seq)
      ) ${TABLE}`,
    );
    await query("ALTER TABLE sheets ADD KEY sheets_closed_at (closed_at, id)");
    // For a while the step before this one made it too.
    await query("ALTER TABLE sites ADD KEY IF NOT EXISTS sites_address (address(60), id)");
    await query("ALTER TABLE duties ADD KEY duties_title (title, active, due_on, id)");
  },
};
