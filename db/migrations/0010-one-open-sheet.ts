import type { Migration } from "../migrate";
import { UUID } from "./key-types";

/** A duty has one sheet that is gone on with: the database itself holds to it, whichever process asks. */
export const oneOpenSheet: Migration = {
  name: "0010-one-open-sheet",
  async up(query) {
    await query(
      `ALTER TABLE sheets ADD COLUMN open_duty_id ${UUID} NULL, ADD UNIQUE KEY sheets_open_duty (open_duty_id)`,
    );
    // Of several that were opened at once, people go on with the newest; the others stay open and can be ended.
    await query(`UPDATE sheets s JOIN (SELECT duty_id, MAX(id) AS id FROM sheets o WHERE status = 'open'
      AND opened_at = (SELECT MAX(opened_at) FROM sheets n WHERE n.duty_id = o.duty_id AND n.status = 'open') GROUP BY duty_id) newest
      ON newest.id = s.id SET s.open_duty_id = s.duty_id`);
  },
};
