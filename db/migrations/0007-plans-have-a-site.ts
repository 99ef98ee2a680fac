import type { Migration } from "../migrate";
import { UUID } from "./key-types";

/** Every duty has a site, as its machine stands somewhere: the column says so too. */
export const plansHaveASite: Migration = {
  name: "0007-plans-have-a-site",
  async up(query) {
    await query(`ALTER TABLE plans MODIFY COLUMN site_id ${UUID} NOT NULL`);
  },
};
