import type { Migration } from "../migrate";

/** What a day's plan comes to, beside it: a page about many days reads no plan of any. Plans of before are told of once planned anew. */
export const dayFigures: Migration = {
  name: "0018-day-figures",
  async up(query) {
    await query("ALTER TABLE days ADD COLUMN figures JSON NULL");
  },
};
