import type { Migration } from "../migrate";
import { UUID } from "./key-types";

const PLAIN = "CHARACTER SET utf8mb4 COLLATE utf8mb4_bin";
const TABLE = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci";

/** Fault guides as they are written, and what the searches of closed sheets came to: chances are learned from those. */
export const faults: Migration = {
  name: "0021-faults",
  async up(query) {
    await query(
      `CREATE TABLE fault_guides (
        family VARCHAR(60) ${PLAIN} NOT NULL,
        version INT NOT NULL,
        title VARCHAR(200) NOT NULL,
        body JSON NOT NULL,
        created_at DATETIME(3) NOT NULL,
        published_by ${UUID} NULL,
        why VARCHAR(500) NOT NULL DEFAULT '',
        PRIMARY KEY (family, version)
      ) ${TABLE}`,
    );
    await query(
      `CREATE TABLE fault_outcomes (
        sheet_id ${UUID} NOT NULL,
        round INT NOT NULL,
        machine_id ${UUID} NOT NULL,
        site_id ${UUID} NOT NULL,
        family VARCHAR(60) ${PLAIN} NOT NULL,
        symptom VARCHAR(40) ${PLAIN} NOT NULL,
        cause VARCHAR(40) ${PLAIN} NOT NULL,
        found_by VARCHAR(40) ${PLAIN} NULL,
        outcome VARCHAR(12) ${PLAIN} NOT NULL,
        on_day DATE NOT NULL,
        found_at DATETIME(3) NOT NULL,
        by_person ${UUID} NOT NULL,
        PRIMARY KEY (sheet_id, round),
        KEY fault_outcomes_family (family, symptom, cause, machine_id),
        KEY fault_outcomes_machine (machine_id, found_at)
      ) ${TABLE}`,
    );
  },
};
