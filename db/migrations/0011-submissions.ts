import type { Migration } from "../migrate";
import { UUID } from "./key-types";

/** What was sent by a form, by its key: sent again, it is not done again. */
export const submissions: Migration = {
  name: "0011-submissions",
  async up(query) {
    await query(`CREATE TABLE submissions (
      id ${UUID} NOT NULL PRIMARY KEY,
      person_id ${UUID} NULL,
      at DATETIME(3) NOT NULL,
      answer JSON NULL,
      KEY submissions_at (at)
    )`);
  },
};
