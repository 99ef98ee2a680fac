import type { Migration } from "../migrate";

/** Duties whose day waits for a meter are found by an index; those that have none yet are marked as forecasts to be. */
export const metersToRead: Migration = {
  name: "0015-meters-to-read",
  async up(query) {
    await query(`UPDATE duties SET projected = 1 WHERE due_on IS NULL AND rules LIKE '%"kind":"meter"%'`);
    await query("ALTER TABLE duties ADD KEY duties_forecast (active, projected, due_on, id)");
  },
};
