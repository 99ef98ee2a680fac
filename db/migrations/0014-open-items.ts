import type { Migration } from "../migrate";
import { UUID } from "./key-types";

/** What sheets leave to be done, with what is held for it; and operators' reports that become work and are answered. */
export const openItems: Migration = {
  name: "0014-open-items",
  async up(query) {
    await query(
      `CREATE TABLE open_items (
        id ${UUID} NOT NULL PRIMARY KEY,
        name VARCHAR(300) NOT NULL,
        machine_id ${UUID} NOT NULL,
        sheet_id ${UUID} NOT NULL,
        duty_id ${UUID} NOT NULL,
        work_duty_id ${UUID} NULL,
        kind VARCHAR(20) NOT NULL,
        severity VARCHAR(10) NOT NULL,
        title VARCHAR(200) NOT NULL,
        because VARCHAR(4000) NOT NULL,
        item VARCHAR(80) NULL,
        slot VARCHAR(80) NULL,
        minutes INT NOT NULL,
        who VARCHAR(10) NOT NULL,
        authorisation VARCHAR(60) NULL,
        owner_id ${UUID} NULL,
        wanted_by DATE NOT NULL,
        arisen_at DATETIME(3) NOT NULL,
        asked_whom VARCHAR(160) NULL,
        asked_on DATE NULL,
        booked_for DATE NULL,
        closed_at DATETIME(3) NULL,
        closed_by ${UUID} NULL,
        closed_sheet_id ${UUID} NULL,
        closed_note VARCHAR(1000) NOT NULL DEFAULT '',
        order_line_id ${UUID} NULL,
        body JSON NOT NULL,
        KEY open_items_machine (machine_id, closed_at),
        KEY open_items_work (work_duty_id, closed_at),
        KEY open_items_wanted (closed_at, wanted_by, id),
        KEY open_items_sheet (sheet_id),
        KEY open_items_closed_sheet (closed_sheet_id),
        CONSTRAINT open_items_machine_fk FOREIGN KEY (machine_id) REFERENCES machines (id)
      )`,
    );
    await query(
      `ALTER TABLE reservations MODIFY person_id ${UUID} NULL, MODIFY on_day DATE NULL,
         ADD COLUMN open_item_id ${UUID} NULL, ADD KEY reservations_open_item (open_item_id, ended_at)`,
    );
    await query(
      `ALTER TABLE problem_reports ADD COLUMN work_duty_id ${UUID} NULL, ADD COLUMN seen_by ${UUID} NULL,
         ADD COLUMN seen_at DATETIME(3) NULL, ADD COLUMN answer VARCHAR(300) NOT NULL DEFAULT '',
         ADD KEY problem_reports_work (work_duty_id)`,
    );
  },
};
