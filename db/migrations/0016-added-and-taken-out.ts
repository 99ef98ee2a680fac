import type { Migration } from "../migrate";
import { UUID } from "./key-types";

/**
 * Machines and sites that somebody added on the spot wait for a lead's look; a machine is taken out for good, its history kept;
 * a file to import is asked about.
 */
export const addedAndTakenOut: Migration = {
  name: "0016-added-and-taken-out",
  async up(query) {
    await query(
      `ALTER TABLE machines ADD COLUMN added_by ${UUID} NULL, ADD COLUMN to_check TINYINT(1) NOT NULL DEFAULT 0,
         ADD COLUMN retired_on DATE NULL, ADD COLUMN retired JSON NULL, ADD KEY machines_to_check (to_check, name, id),
         ADD KEY machines_retired (retired_on, name, id)`,
    );
    await query(
      `ALTER TABLE sites ADD COLUMN added_by ${UUID} NULL, ADD COLUMN to_check TINYINT(1) NOT NULL DEFAULT 0,
         ADD KEY sites_to_check (to_check, name, id)`,
    );
    await query("ALTER TABLE imports ADD COLUMN asks JSON NULL, ADD COLUMN answers JSON NULL");
  },
};
