import type { Migration } from "../migrate";
import { UUID } from "./key-types";

/** Values of sheets that nobody was asked about wait for a person too: with the machine and the sheet that they are of. */
export const parkedFromSheets: Migration = {
  name: "0013-parked-from-sheets",
  async up(query) {
    await query(
      `ALTER TABLE parked_readings ADD COLUMN machine_id ${UUID} NULL, ADD COLUMN sheet_id ${UUID} NULL,
         ADD KEY parked_machine (machine_id, settled_at),
         ADD CONSTRAINT parked_machine_fk FOREIGN KEY (machine_id) REFERENCES machines (id)`,
    );
  },
};
