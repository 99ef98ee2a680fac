import type { Migration } from "../migrate";

/** Rows that a transaction writes when it has locked others: on a cluster that is what two nodes see of each other's locks. */
export const turns: Migration = {
  name: "0025-turns",
  async up(query) {
    await query(
      "CREATE TABLE turns (slot INT UNSIGNED NOT NULL PRIMARY KEY, n INT UNSIGNED NOT NULL) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci",
    );
  },
};
