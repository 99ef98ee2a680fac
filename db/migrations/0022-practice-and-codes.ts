import type { Migration } from "../migrate";
import { UUID } from "./key-types";

const PLAIN = "CHARACTER SET utf8mb4 COLLATE utf8mb4_bin";
const TABLE = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci";

/** Practice on machines that do not exist, what an authorisation asks of it; a firm's fault codes; drafts of fault guides. */
export const practiceAndCodes: Migration = {
  name: "0022-practice-and-codes",
  async up(query) {
    await query(
      `CREATE TABLE practice_runs (
        id ${UUID} NOT NULL PRIMARY KEY,
        person_id ${UUID} NOT NULL,
        kind VARCHAR(8) ${PLAIN} NOT NULL,
        family VARCHAR(60) ${PLAIN} NOT NULL,
        procedure_id VARCHAR(80) ${PLAIN} NOT NULL,
        version INT NOT NULL,
        title VARCHAR(200) NOT NULL,
        seed INT NOT NULL,
        is_new TINYINT(1) NOT NULL,
        acts JSON NOT NULL,
        acts_count INT NOT NULL DEFAULT 0,
        started_at DATETIME(3) NOT NULL,
        finished_at DATETIME(3) NULL,
        passed TINYINT(1) NULL,
        result JSON NULL,
        KEY practice_runs_person (person_id, started_at),
        KEY practice_runs_started (started_at)
      ) ${TABLE}`,
    );
    await query(
      `CREATE TABLE authorisation_practices (
        authorisation VARCHAR(60) ${PLAIN} NOT NULL,
        family VARCHAR(60) ${PLAIN} NOT NULL,
        days INT NOT NULL,
        set_by ${UUID} NOT NULL,
        set_at DATETIME(3) NOT NULL,
        PRIMARY KEY (authorisation, family)
      ) ${TABLE}`,
    );
    await query(
      `CREATE TABLE fault_codes (
        id ${UUID} NOT NULL PRIMARY KEY,
        family VARCHAR(60) ${PLAIN} NOT NULL,
        model VARCHAR(120) NOT NULL DEFAULT '',
        kind VARCHAR(4) ${PLAIN} NOT NULL,
        code VARCHAR(60) NOT NULL,
        says VARCHAR(500) NOT NULL,
        symptom VARCHAR(40) ${PLAIN} NULL,
        added_by ${UUID} NOT NULL,
        added_at DATETIME(3) NOT NULL,
        ended_by ${UUID} NULL,
        ended_at DATETIME(3) NULL,
        KEY fault_codes_family (family, ended_at)
      ) ${TABLE}`,
    );
    await query("ALTER TABLE machines ADD KEY machines_model (family, model)");
    // What counts is in the index: nothing is looked up row by row.
    await query(
      `ALTER TABLE fault_outcomes DROP KEY fault_outcomes_family,
        ADD KEY fault_outcomes_counts (family, symptom, cause, outcome, machine_id),
        ADD KEY fault_outcomes_latest (family, found_at),
        ADD KEY fault_outcomes_day (on_day, family, cause, outcome)`,
    );
    await query(
      `CREATE TABLE fault_guide_drafts (
        family VARCHAR(60) ${PLAIN} NOT NULL PRIMARY KEY,
        base_version INT NOT NULL,
        body JSON NOT NULL,
        by_person ${UUID} NOT NULL,
        made_at DATETIME(3) NOT NULL,
        changed_at DATETIME(3) NOT NULL,
        revision INT NOT NULL DEFAULT 1
      ) ${TABLE}`,
    );
  },
};
