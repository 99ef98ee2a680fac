import type { Migration } from "../migrate";
import { HASH, UUID } from "./key-types";

/**
 * Logged facts (run_events, completions, meter_readings, readings, machine_events, audit_log) are only ever inserted.
 * Days are DATE in the site's own calendar, instants DATETIME(3) in UTC.
 */
const TABLES = [
  `CREATE TABLE persons (
    id ${UUID} NOT NULL PRIMARY KEY,
    name VARCHAR(120) NOT NULL,
    sign_in VARCHAR(120) NOT NULL,
    password_hash VARCHAR(255) NOT NULL,
    role ENUM('technician','lead') NOT NULL,
    active BOOLEAN NOT NULL DEFAULT TRUE,
    must_change_password BOOLEAN NOT NULL DEFAULT FALSE,
    demo BOOLEAN NOT NULL DEFAULT FALSE,
    created_at DATETIME(3) NOT NULL,
    UNIQUE KEY persons_sign_in (sign_in)
  )`,
  `CREATE TABLE authorisations (
    id ${UUID} NOT NULL PRIMARY KEY,
    person_id ${UUID} NOT NULL,
    kind VARCHAR(60) NOT NULL,
    expires_on DATE NULL,
    granted_by ${UUID} NOT NULL,
    granted_at DATETIME(3) NOT NULL,
    revoked_by ${UUID} NULL,
    revoked_at DATETIME(3) NULL,
    KEY authorisations_person (person_id),
    CONSTRAINT authorisations_person_fk FOREIGN KEY (person_id) REFERENCES persons (id)
  )`,
  `CREATE TABLE sessions (
    id ${HASH} NOT NULL PRIMARY KEY,
    person_id ${UUID} NOT NULL,
    device VARCHAR(200) NOT NULL,
    created_at DATETIME(3) NOT NULL,
    last_seen_at DATETIME(3) NOT NULL,
    expires_at DATETIME(3) NOT NULL,
    ended_at DATETIME(3) NULL,
    KEY sessions_person (person_id, ended_at),
    KEY sessions_expires (expires_at),
    CONSTRAINT sessions_person_fk FOREIGN KEY (person_id) REFERENCES persons (id)
  )`,
  `CREATE TABLE rate_limits (
    \`key\` VARCHAR(255) CHARACTER SET utf8 NOT NULL PRIMARY KEY,
    points INT(9) NOT NULL DEFAULT 0,
    expire BIGINT UNSIGNED
  )`,
  `CREATE TABLE audit_log (
    id ${UUID} NOT NULL PRIMARY KEY,
    at DATETIME(3) NOT NULL,
    by_person ${UUID} NULL,
    subject VARCHAR(40) NOT NULL,
    subject_id ${UUID} NOT NULL,
    action VARCHAR(60) NOT NULL,
    details JSON NOT NULL,
    KEY audit_subject (subject, subject_id, at)
  )`,
  `CREATE TABLE customers (
    id ${UUID} NOT NULL PRIMARY KEY,
    name VARCHAR(160) NOT NULL,
    UNIQUE KEY customers_name (name)
  )`,
  `CREATE TABLE sites (
    id ${UUID} NOT NULL PRIMARY KEY,
    customer_id ${UUID} NOT NULL,
    name VARCHAR(160) NOT NULL,
    address VARCHAR(300) NOT NULL DEFAULT '',
    time_zone VARCHAR(60) NOT NULL,
    water_hardness DOUBLE NULL,
    access_hours VARCHAR(200) NOT NULL DEFAULT '',
    notes TEXT NOT NULL DEFAULT '',
    UNIQUE KEY sites_name (customer_id, name),
    CONSTRAINT sites_customer_fk FOREIGN KEY (customer_id) REFERENCES customers (id)
  )`,
  `CREATE TABLE machines (
    id ${UUID} NOT NULL PRIMARY KEY,
    tag VARCHAR(32) NOT NULL,
    site_id ${UUID} NOT NULL,
    area VARCHAR(120) NOT NULL DEFAULT '',
    name VARCHAR(160) NOT NULL,
    family VARCHAR(60) NOT NULL,
    maker VARCHAR(120) NOT NULL DEFAULT '',
    model VARCHAR(120) NOT NULL DEFAULT '',
    serial VARCHAR(120) NOT NULL DEFAULT '',
    commissioned_on DATE NULL,
    duties_from DATE NULL,
    options JSON NOT NULL,
    notes TEXT NOT NULL DEFAULT '',
    created_at DATETIME(3) NOT NULL,
    UNIQUE KEY machines_tag (tag),
    KEY machines_site (site_id, name),
    KEY machines_family (family),
    KEY machines_name (name, id),
    KEY machines_serial (serial),
    FULLTEXT KEY machines_words (name, tag, serial, maker, model, area),
    CONSTRAINT machines_site_fk FOREIGN KEY (site_id) REFERENCES sites (id)
  )`,
  `CREATE TABLE procedures (
    id VARCHAR(80) NOT NULL,
    version INT UNSIGNED NOT NULL,
    family VARCHAR(60) NOT NULL,
    title VARCHAR(200) NOT NULL,
    body JSON NOT NULL,
    created_at DATETIME(3) NOT NULL,
    PRIMARY KEY (id, version),
    KEY procedures_family (family, id, version)
  )`,
  `CREATE TABLE plans (
    id ${UUID} NOT NULL PRIMARY KEY,
    machine_id ${UUID} NOT NULL,
    procedure_id VARCHAR(80) NOT NULL,
    title VARCHAR(200) NOT NULL,
    who ENUM('operator','technician','licensed') NOT NULL,
    authorisation VARCHAR(60) NULL,
    minutes INT UNSIGNED NOT NULL,
    start_on DATE NOT NULL,
    rules JSON NOT NULL,
    hard_stop BOOLEAN NOT NULL DEFAULT FALSE,
    active BOOLEAN NOT NULL DEFAULT TRUE,
    due_on DATE NULL,
    warning_from DATE NULL,
    notice_from DATE NULL,
    projected BOOLEAN NOT NULL DEFAULT FALSE,
    firm_due_on DATE NULL,
    anchor_on DATE NULL,
    rivals JSON NOT NULL DEFAULT '[]',
    assessed_at DATETIME(3) NULL,
    UNIQUE KEY plans_machine_procedure (machine_id, procedure_id),
    KEY plans_notice (active, notice_from, due_on, machine_id),
    CONSTRAINT plans_machine_fk FOREIGN KEY (machine_id) REFERENCES machines (id)
  )`,
  `CREATE TABLE runs (
    id ${UUID} NOT NULL PRIMARY KEY,
    plan_id ${UUID} NOT NULL,
    machine_id ${UUID} NOT NULL,
    procedure_id VARCHAR(80) NOT NULL,
    procedure_version INT UNSIGNED NOT NULL,
    opened_by ${UUID} NOT NULL,
    opened_at DATETIME(3) NOT NULL,
    status ENUM('open','signed','ended') NOT NULL DEFAULT 'open',
    closed_at DATETIME(3) NULL,
    closed_by ${UUID} NULL,
    done_on DATE NULL,
    outcome VARCHAR(20) NULL,
    outcome_reason VARCHAR(1000) NULL,
    KEY runs_plan (plan_id, opened_at),
    KEY runs_machine (machine_id, opened_at),
    KEY runs_closed (status, closed_at, id),
    CONSTRAINT runs_plan_fk FOREIGN KEY (plan_id) REFERENCES plans (id),
    CONSTRAINT runs_procedure_fk FOREIGN KEY (procedure_id, procedure_version) REFERENCES procedures (id, version)
  )`,
  `CREATE TABLE run_events (
    seq BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    id ${UUID} NOT NULL,
    run_id ${UUID} NOT NULL,
    by_person ${UUID} NOT NULL,
    type VARCHAR(30) NOT NULL,
    body JSON NOT NULL,
    content_hash ${HASH} NOT NULL,
    received_at DATETIME(3) NOT NULL,
    UNIQUE KEY run_events_id (id),
    KEY run_events_run (run_id, seq),
    CONSTRAINT run_events_run_fk FOREIGN KEY (run_id) REFERENCES runs (id)
  )`,
  `CREATE TABLE completions (
    id ${UUID} NOT NULL PRIMARY KEY,
    plan_id ${UUID} NOT NULL,
    machine_id ${UUID} NOT NULL,
    done_on DATE NOT NULL,
    meters JSON NOT NULL,
    run_id ${UUID} NULL,
    UNIQUE KEY completions_run (plan_id, run_id),
    KEY completions_machine (machine_id, done_on),
    CONSTRAINT completions_plan_fk FOREIGN KEY (plan_id) REFERENCES plans (id)
  )`,
  `CREATE TABLE meter_readings (
    id ${UUID} NOT NULL PRIMARY KEY,
    machine_id ${UUID} NOT NULL,
    meter VARCHAR(60) NOT NULL,
    value DOUBLE NOT NULL,
    read_on DATE NOT NULL,
    read_at DATETIME(3) NOT NULL,
    by_person ${UUID} NULL,
    source ENUM('run','hand','import') NOT NULL,
    run_id ${UUID} NULL,
    KEY meter_readings_machine (machine_id, meter, read_at),
    CONSTRAINT meter_readings_machine_fk FOREIGN KEY (machine_id) REFERENCES machines (id)
  )`,
  `CREATE TABLE readings (
    id ${UUID} NOT NULL PRIMARY KEY,
    machine_id ${UUID} NOT NULL,
    reading VARCHAR(60) NOT NULL,
    value DOUBLE NOT NULL,
    unit VARCHAR(20) NOT NULL,
    read_on DATE NOT NULL,
    read_at DATETIME(3) NOT NULL,
    by_person ${UUID} NULL,
    run_id ${UUID} NULL,
    KEY readings_machine (machine_id, reading, read_at),
    CONSTRAINT readings_machine_fk FOREIGN KEY (machine_id) REFERENCES machines (id)
  )`,
  `CREATE TABLE machine_events (
    id ${UUID} NOT NULL PRIMARY KEY,
    machine_id ${UUID} NOT NULL,
    event VARCHAR(60) NOT NULL,
    happens_on DATE NOT NULL,
    note VARCHAR(500) NOT NULL DEFAULT '',
    by_person ${UUID} NULL,
    logged_at DATETIME(3) NOT NULL,
    KEY machine_events_machine (machine_id, happens_on),
    CONSTRAINT machine_events_machine_fk FOREIGN KEY (machine_id) REFERENCES machines (id)
  )`,
  `CREATE TABLE imports (
    id ${UUID} NOT NULL PRIMARY KEY,
    by_person ${UUID} NOT NULL,
    file_name VARCHAR(255) NOT NULL,
    content LONGTEXT NOT NULL,
    created_at DATETIME(3) NOT NULL,
    status ENUM('checked','running','done','failed') NOT NULL DEFAULT 'checked',
    started_at DATETIME(3) NULL,
    good_rows INT UNSIGNED NOT NULL,
    faults JSON NOT NULL,
    rows_done INT UNSIGNED NOT NULL DEFAULT 0,
    message VARCHAR(500) NOT NULL DEFAULT ''
  )`,
];

export const start: Migration = {
  name: "0001-start",
  async up(query) {
    for (const table of TABLES)
      await query(`${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`);
  },
};
