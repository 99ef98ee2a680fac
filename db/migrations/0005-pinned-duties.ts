import type { Migration } from "../migrate";

/** A duty on a day may be pinned to it: no proposal and no slip of the hand moves it. */
export const pinnedDuties: Migration = {
  name: "0005-pinned-duties",
  async up(query) {
    await query("ALTER TABLE plans ADD COLUMN pinned TINYINT(1) NOT NULL DEFAULT 0");
  },
};
