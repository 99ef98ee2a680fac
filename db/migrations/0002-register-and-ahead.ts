import type { Migration } from "../migrate";
import { HASH, UUID } from "./key-types";

/** Sites and machines in full, meters with their sources, pauses, planning, links without sign-in, reports, photos. */
const CHANGES = [
  `ALTER TABLE sites
    ADD COLUMN latitude DOUBLE NULL,
    ADD COLUMN longitude DOUBLE NULL,
    ADD COLUMN drain_rules TEXT NOT NULL DEFAULT '',
    ADD COLUMN waste_rules TEXT NOT NULL DEFAULT '',
    ADD COLUMN contacts JSON NOT NULL DEFAULT '[]',
    ADD COLUMN holiday_region VARCHAR(20) NOT NULL DEFAULT '',
    ADD KEY sites_by_name (name, id)`,
  `ALTER TABLE machines
    ADD COLUMN position VARCHAR(200) NOT NULL DEFAULT '',
    ADD COLUMN documents JSON NOT NULL DEFAULT '[]',
    ADD COLUMN photo_id ${UUID} NULL`,
  // A machine may have several duties of its own making, all on one general procedure.
  `ALTER TABLE plans
    ADD COLUMN site_id ${UUID} NULL,
    ADD COLUMN family VARCHAR(60) NOT NULL DEFAULT '',
    ADD COLUMN planned_on DATE NULL,
    ADD COLUMN planned_for ${UUID} NULL,
    ADD COLUMN sequence INT UNSIGNED NOT NULL DEFAULT 0,
    ADD KEY plans_machine (machine_id, procedure_id),
    ADD KEY plans_site_due (active, site_id, due_on, who, family),
    ADD KEY plans_due (active, due_on, id, site_id, who, family, notice_from),
    ADD KEY plans_planned (planned_for, planned_on)`,
  `ALTER TABLE plans DROP KEY plans_machine_procedure, DROP KEY plans_notice`,
  `UPDATE plans p JOIN machines m ON m.id = p.machine_id SET p.site_id = m.site_id, p.family = m.family`,
  `ALTER TABLE meter_readings
    MODIFY COLUMN source ENUM('run','hand','import','gateway','operator') NOT NULL,
    ADD COLUMN replaced BOOLEAN NOT NULL DEFAULT FALSE,
    ADD COLUMN note VARCHAR(500) NOT NULL DEFAULT '',
    ADD COLUMN external_id VARCHAR(80) NULL,
    ADD UNIQUE KEY meter_readings_external (external_id),
    ADD KEY meter_readings_line (machine_id, meter, read_at, id, read_on, value),
    DROP KEY meter_readings_machine`,
];

const TABLES = [
  `CREATE TABLE site_closures (
    id ${UUID} NOT NULL PRIMARY KEY,
    site_id ${UUID} NOT NULL,
    from_on DATE NOT NULL,
    to_on DATE NOT NULL,
    reason VARCHAR(200) NOT NULL,
    by_person ${UUID} NOT NULL,
    logged_at DATETIME(3) NOT NULL,
    cancelled_by ${UUID} NULL,
    cancelled_at DATETIME(3) NULL,
    KEY site_closures_site (site_id, from_on),
    CONSTRAINT site_closures_site_fk FOREIGN KEY (site_id) REFERENCES sites (id)
  )`,
  `CREATE TABLE pauses (
    id ${UUID} NOT NULL PRIMARY KEY,
    machine_id ${UUID} NOT NULL,
    plan_id ${UUID} NULL,
    from_on DATE NOT NULL,
    to_on DATE NULL,
    reason VARCHAR(300) NOT NULL,
    by_person ${UUID} NOT NULL,
    logged_at DATETIME(3) NOT NULL,
    resumed_by ${UUID} NULL,
    resumed_at DATETIME(3) NULL,
    KEY pauses_machine (machine_id, from_on),
    CONSTRAINT pauses_machine_fk FOREIGN KEY (machine_id) REFERENCES machines (id)
  )`,
  `CREATE TABLE machine_meters (
    machine_id ${UUID} NOT NULL,
    meter VARCHAR(60) NOT NULL,
    name VARCHAR(120) NOT NULL,
    unit VARCHAR(20) NOT NULL,
    basis VARCHAR(40) NOT NULL DEFAULT '',
    gateway_ref VARCHAR(120) NULL,
    PRIMARY KEY (machine_id, meter),
    UNIQUE KEY machine_meters_gateway (gateway_ref),
    CONSTRAINT machine_meters_machine_fk FOREIGN KEY (machine_id) REFERENCES machines (id)
  )`,
  `CREATE TABLE parked_readings (
    id ${UUID} NOT NULL PRIMARY KEY,
    external_id VARCHAR(80) NOT NULL,
    gateway_ref VARCHAR(120) NOT NULL,
    payload JSON NOT NULL,
    reason VARCHAR(300) NOT NULL,
    parked_at DATETIME(3) NOT NULL,
    settled_by ${UUID} NULL,
    settled_at DATETIME(3) NULL,
    settled_as ENUM('taken','dropped') NULL,
    UNIQUE KEY parked_external (external_id),
    KEY parked_open (settled_at, parked_at)
  )`,
  `CREATE TABLE gateways (
    name VARCHAR(60) NOT NULL PRIMARY KEY,
    read_to VARCHAR(80) NOT NULL DEFAULT '',
    failures INT UNSIGNED NOT NULL DEFAULT 0,
    next_try_at DATETIME(3) NULL,
    last_ok_at DATETIME(3) NULL,
    message VARCHAR(300) NOT NULL DEFAULT ''
  )`,
  `CREATE TABLE leases (
    name VARCHAR(60) NOT NULL PRIMARY KEY,
    holder VARCHAR(80) NOT NULL,
    held_until DATETIME(3) NOT NULL
  )`,
  `CREATE TABLE links (
    id ${UUID} NOT NULL PRIMARY KEY,
    kind ENUM('operator','person-calendar','site-calendar') NOT NULL,
    subject_id ${UUID} NOT NULL,
    token_hash ${HASH} NOT NULL,
    made_by ${UUID} NOT NULL,
    made_at DATETIME(3) NOT NULL,
    revoked_by ${UUID} NULL,
    revoked_at DATETIME(3) NULL,
    UNIQUE KEY links_token (token_hash),
    KEY links_subject (kind, subject_id)
  )`,
  `CREATE TABLE operator_ticks (
    id ${UUID} NOT NULL PRIMARY KEY,
    link_id ${UUID} NOT NULL,
    machine_id ${UUID} NOT NULL,
    plan_id ${UUID} NOT NULL,
    done_on DATE NOT NULL,
    name VARCHAR(60) NOT NULL,
    logged_at DATETIME(3) NOT NULL,
    KEY operator_ticks_machine (machine_id, logged_at),
    CONSTRAINT operator_ticks_plan_fk FOREIGN KEY (plan_id) REFERENCES plans (id)
  )`,
  `CREATE TABLE photos (
    id ${UUID} NOT NULL PRIMARY KEY,
    mime VARCHAR(40) NOT NULL,
    bytes MEDIUMBLOB NOT NULL,
    width INT UNSIGNED NOT NULL,
    height INT UNSIGNED NOT NULL,
    made_at DATETIME(3) NOT NULL
  )`,
  `CREATE TABLE problem_reports (
    id ${UUID} NOT NULL PRIMARY KEY,
    machine_id ${UUID} NOT NULL,
    link_id ${UUID} NULL,
    name VARCHAR(60) NOT NULL,
    text VARCHAR(2000) NOT NULL,
    stopped BOOLEAN NOT NULL,
    photo_id ${UUID} NULL,
    logged_at DATETIME(3) NOT NULL,
    closed_by ${UUID} NULL,
    closed_at DATETIME(3) NULL,
    closed_note VARCHAR(500) NOT NULL DEFAULT '',
    KEY problem_reports_open (closed_at, logged_at),
    KEY problem_reports_machine (machine_id, logged_at),
    CONSTRAINT problem_reports_machine_fk FOREIGN KEY (machine_id) REFERENCES machines (id)
  )`,
  `CREATE TABLE saved_views (
    id ${UUID} NOT NULL PRIMARY KEY,
    person_id ${UUID} NOT NULL,
    place VARCHAR(20) NOT NULL,
    name VARCHAR(80) NOT NULL,
    query VARCHAR(1000) NOT NULL,
    made_at DATETIME(3) NOT NULL,
    UNIQUE KEY saved_views_name (person_id, place, name)
  )`,
];

export const registerAndAhead: Migration = {
  name: "0002-register-and-ahead",
  async up(query) {
    for (const change of CHANGES) await query(change);
    for (const table of TABLES)
      await query(`${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`);
  },
};
