import type { Migration } from "../migrate";
import { HASH, UUID } from "./key-types";

/** Nested procedures, drafts, machines out of service, measuring instruments, slots, hand-over, and the chain of records. */
const CHANGES = [
  `ALTER TABLE procedures
    ADD COLUMN expanded JSON NULL,
    ADD COLUMN published_by ${UUID} NULL,
    ADD COLUMN why VARCHAR(500) NOT NULL DEFAULT ''`,
  `ALTER TABLE runs
    ADD COLUMN held_by ${UUID} NULL,
    ADD KEY runs_held (status, held_by, opened_at)`,
  `UPDATE runs SET held_by = opened_by WHERE status = 'open'`,
];

const TABLES = [
  `CREATE TABLE procedure_drafts (
    id ${UUID} NOT NULL PRIMARY KEY,
    procedure_id VARCHAR(80) NOT NULL,
    base_version INT NOT NULL,
    body JSON NOT NULL,
    by_person ${UUID} NOT NULL,
    made_at DATETIME(3) NOT NULL,
    changed_at DATETIME(3) NOT NULL,
    revision INT UNSIGNED NOT NULL DEFAULT 1,
    KEY procedure_drafts_procedure (procedure_id)
  )`,
  // A finding that makes a machine unsafe: it stays out of service until a lead clears it.
  `CREATE TABLE machine_holds (
    id ${UUID} NOT NULL PRIMARY KEY,
    machine_id ${UUID} NOT NULL,
    reason VARCHAR(4000) NOT NULL,
    run_id ${UUID} NULL,
    event_id ${UUID} NULL,
    by_person ${UUID} NOT NULL,
    since DATETIME(3) NOT NULL,
    cleared_by ${UUID} NULL,
    cleared_at DATETIME(3) NULL,
    cleared_note VARCHAR(1000) NOT NULL DEFAULT '',
    UNIQUE KEY machine_holds_event (event_id),
    KEY machine_holds_open (cleared_at, machine_id),
    KEY machine_holds_machine (machine_id, since),
    CONSTRAINT machine_holds_machine_fk FOREIGN KEY (machine_id) REFERENCES machines (id)
  )`,
  `CREATE TABLE instruments (
    id ${UUID} NOT NULL PRIMARY KEY,
    code VARCHAR(40) NOT NULL,
    kind VARCHAR(60) NOT NULL,
    name VARCHAR(200) NOT NULL,
    calibration_due DATE NULL,
    certificate VARCHAR(500) NOT NULL DEFAULT '',
    retired_at DATETIME(3) NULL,
    UNIQUE KEY instruments_code (code),
    KEY instruments_kind (kind, retired_at, calibration_due)
  )`,
  // What is in a machine's slots now; the story of each piece is in the run events.
  `CREATE TABLE machine_slots (
    machine_id ${UUID} NOT NULL,
    slot VARCHAR(80) NOT NULL,
    item VARCHAR(80) NOT NULL,
    uses_left INT NOT NULL,
    lot VARCHAR(60) NULL,
    fitted_at DATETIME(3) NOT NULL,
    changed_at DATETIME(3) NOT NULL,
    run_id ${UUID} NOT NULL,
    PRIMARY KEY (machine_id, slot),
    CONSTRAINT machine_slots_machine_fk FOREIGN KEY (machine_id) REFERENCES machines (id)
  )`,
  // Each signed record holds the hash of the one before: a row that is changed or taken out breaks the chain.
  `CREATE TABLE record_chain (
    seq BIGINT UNSIGNED NOT NULL PRIMARY KEY,
    kind ENUM('record','addition','return-to-service') NOT NULL,
    subject_id ${UUID} NOT NULL,
    at DATETIME(3) NOT NULL,
    content JSON NOT NULL,
    content_hash ${HASH} NOT NULL,
    previous_hash ${HASH} NOT NULL,
    hash ${HASH} NOT NULL,
    KEY record_chain_subject (subject_id)
  )`,
  // One row, locked while a record is added: two processes cannot both continue from the same end.
  `CREATE TABLE record_chain_end (
    id TINYINT UNSIGNED NOT NULL PRIMARY KEY,
    seq BIGINT UNSIGNED NOT NULL,
    hash ${HASH} NOT NULL
  )`,
];

export const sheetsForReal: Migration = {
  name: "0003-sheets-for-real",
  async up(query) {
    for (const change of CHANGES) await query(change);
    for (const table of TABLES)
      await query(`${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`);
  },
};
