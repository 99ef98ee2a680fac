import type { Migration } from "../migrate";

/** What arrives when a sheet is closed already is kept beside the record. */
export const lateEntries: Migration = {
  name: "0009-late-entries",
  async up(query) {
    await query("ALTER TABLE log_entries ADD COLUMN late TINYINT(1) NOT NULL DEFAULT 0");
  },
};
