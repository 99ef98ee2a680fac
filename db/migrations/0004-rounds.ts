import type { Migration } from "../migrate";
import { UUID } from "./key-types";

/** Days planned and driven, what they need to know of sites, machines and people, and what services took. */
const CHANGES = [
  // What machines at a site share, with how many there are; one of each when nothing is said.
  `ALTER TABLE sites ADD COLUMN shared_places JSON NOT NULL DEFAULT '{}'`,
  // When the machine may be worked on, written like access hours, and the time by which it must be ready again.
  `ALTER TABLE machines
    ADD COLUMN free_hours VARCHAR(200) NOT NULL DEFAULT '',
    ADD COLUMN ready_by VARCHAR(5) NOT NULL DEFAULT ''`,
  `ALTER TABLE persons
    ADD COLUMN day_from VARCHAR(5) NOT NULL DEFAULT '07:00',
    ADD COLUMN day_to VARCHAR(5) NOT NULL DEFAULT '16:00',
    ADD COLUMN families JSON NOT NULL DEFAULT '[]',
    ADD COLUMN territory JSON NOT NULL DEFAULT '[]'`,
  `ALTER TABLE runs ADD KEY runs_closed_by (closed_by, closed_at)`,
];

const TABLES = [
  `CREATE TABLE depots (
    id ${UUID} NOT NULL PRIMARY KEY,
    name VARCHAR(160) NOT NULL,
    time_zone VARCHAR(60) NOT NULL,
    latitude DOUBLE NOT NULL,
    longitude DOUBLE NOT NULL
  )`,
  // A person's day. What it holds is in plans.planned_on/planned_for; here is how it goes round.
  `CREATE TABLE days (
    id ${UUID} NOT NULL PRIMARY KEY,
    person_id ${UUID} NOT NULL,
    on_day DATE NOT NULL,
    status ENUM('open','started','ended') NOT NULL DEFAULT 'open',
    start_minute SMALLINT UNSIGNED NOT NULL,
    end_minute SMALLINT UNSIGNED NOT NULL,
    technicians TINYINT UNSIGNED NOT NULL DEFAULT 1,
    fixed_order JSON NULL,
    problem JSON NULL,
    plan JSON NULL,
    risk JSON NULL,
    planned_at DATETIME(3) NULL,
    sequence INT UNSIGNED NOT NULL DEFAULT 0,
    UNIQUE KEY days_person (person_id, on_day),
    KEY days_on (on_day),
    CONSTRAINT days_person_fk FOREIGN KEY (person_id) REFERENCES persons (id)
  )`,
  // What happened on the day: only ever inserted.
  `CREATE TABLE day_events (
    seq BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    id ${UUID} NOT NULL,
    day_id ${UUID} NOT NULL,
    at DATETIME(3) NOT NULL,
    by_person ${UUID} NOT NULL,
    type VARCHAR(30) NOT NULL,
    site_id ${UUID} NULL,
    body JSON NOT NULL,
    UNIQUE KEY day_events_id (id),
    KEY day_events_day (day_id, seq),
    CONSTRAINT day_events_day_fk FOREIGN KEY (day_id) REFERENCES days (id)
  )`,
  // Minutes between places that the firm knows better than any map; a place is a depot or a site.
  `CREATE TABLE travel_minutes (
    from_place ${UUID} NOT NULL,
    to_place ${UUID} NOT NULL,
    minutes SMALLINT UNSIGNED NOT NULL,
    PRIMARY KEY (from_place, to_place)
  )`,
  // Hands-on minutes that a signed sheet took, from its log.
  `CREATE TABLE run_minutes (
    run_id ${UUID} NOT NULL PRIMARY KEY,
    procedure_id VARCHAR(80) NOT NULL,
    site_id ${UUID} NOT NULL,
    person_id ${UUID} NOT NULL,
    done_on DATE NOT NULL,
    hands_minutes DOUBLE NOT NULL,
    KEY run_minutes_procedure (procedure_id, done_on, site_id, person_id, hands_minutes),
    CONSTRAINT run_minutes_run_fk FOREIGN KEY (run_id) REFERENCES runs (id)
  )`,
];

export const rounds: Migration = {
  name: "0004-rounds",
  async up(query) {
    for (const change of CHANGES) await query(change);
    for (const table of TABLES)
      await query(`${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`);
  },
};
