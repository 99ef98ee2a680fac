import type { Migration } from "../migrate";
import { HASH, UUID } from "./key-types";

const PLAIN = "CHARACTER SET utf8mb4 COLLATE utf8mb4_bin";
const TABLE = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci";

/** Messages to customers and to the firm's own people, what customers were asked to do before somebody comes, and levelled years as they were worked out. */
export const beforeWeCome: Migration = {
  name: "0019-before-we-come",
  async up(query) {
    await query(
      "ALTER TABLE links MODIFY COLUMN kind ENUM('operator','person-calendar','site-calendar','answer') NOT NULL",
    );
    await query("ALTER TABLE persons ADD COLUMN email VARCHAR(160) NOT NULL DEFAULT ''");
    await query(
      `CREATE TABLE messages (
        id ${UUID} NOT NULL PRIMARY KEY,
        kind VARCHAR(12) ${PLAIN} NOT NULL,
        once_key VARCHAR(120) ${PLAIN} NULL,
        to_name VARCHAR(120) NOT NULL,
        to_address VARCHAR(160) NOT NULL,
        subject VARCHAR(200) NOT NULL,
        body TEXT NOT NULL,
        site_id ${UUID} NULL,
        sheet_id ${UUID} NULL,
        on_day DATE NULL,
        made_by ${UUID} NULL,
        made_at DATETIME(3) NOT NULL,
        state VARCHAR(8) ${PLAIN} NOT NULL,
        tries INT NOT NULL DEFAULT 0,
        next_try_at DATETIME(3) NULL,
        fault VARCHAR(500) NOT NULL DEFAULT '',
        sent_at DATETIME(3) NULL,
        UNIQUE KEY messages_once (once_key),
        KEY messages_waiting (state, next_try_at, id),
        KEY messages_site (site_id, made_at),
        KEY messages_sheet (sheet_id, made_at)
      ) ${TABLE}`,
    );
    await query(
      `CREATE TABLE workloads (
        filter_key ${HASH} NOT NULL PRIMARY KEY,
        marks ${HASH} NOT NULL,
        made_at DATETIME(3) NOT NULL,
        load52 JSON NOT NULL
      ) ${TABLE}`,
    );
    await query(
      `CREATE TABLE message_files (
        message_id ${UUID} NOT NULL,
        name VARCHAR(120) NOT NULL,
        type VARCHAR(80) ${PLAIN} NOT NULL,
        bytes MEDIUMBLOB NOT NULL,
        PRIMARY KEY (message_id, name)
      ) ${TABLE}`,
    );
    await query(
      `CREATE TABLE customer_requests (
        id ${UUID} NOT NULL PRIMARY KEY,
        message_id ${UUID} NOT NULL,
        person_id ${UUID} NOT NULL,
        site_id ${UUID} NOT NULL,
        machine_id ${UUID} NOT NULL,
        on_day DATE NOT NULL,
        ask VARCHAR(160) ${PLAIN} NOT NULL,
        words VARCHAR(300) NOT NULL,
        by_minute INT NOT NULL,
        saves INT NOT NULL,
        answer VARCHAR(3) ${PLAIN} NULL,
        answered_at DATETIME(3) NULL,
        answered_by VARCHAR(120) NOT NULL DEFAULT '',
        UNIQUE KEY customer_requests_once (machine_id, on_day, ask),
        KEY customer_requests_day (on_day, person_id),
        KEY customer_requests_message (message_id)
      ) ${TABLE}`,
    );
  },
};
