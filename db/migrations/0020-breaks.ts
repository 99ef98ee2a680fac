import type { Migration } from "../migrate";

/** When each person has breaks; nobody of before has any until somebody says so: plans stay as they are. */
export const breaks: Migration = {
  name: "0020-breaks",
  async up(query) {
    await query("ALTER TABLE persons ADD COLUMN breaks JSON NOT NULL DEFAULT ('[]')");
  },
};
