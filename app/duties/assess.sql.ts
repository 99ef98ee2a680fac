/** Statements of assess that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Joins, reads inside JSON, compares in the database. */
export function storeDue(values: { rows: string; now: Date }, tx?: Transaction | null): Promise<number> {
  return getDb().run(
    `UPDATE duties p JOIN JSON_TABLE(:rows, '$[*]' COLUMNS (
       id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin PATH '$.id',
       due_on DATE PATH '$.dueOn', warning_from DATE PATH '$.warningFrom', notice_from DATE PATH '$.noticeFrom',
       projected INT PATH '$.projected', firm_due_on DATE PATH '$.firmDueOn', anchor_on DATE PATH '$.anchorOn',
       foretold_from DATE PATH '$.foretoldFrom', foretold_to DATE PATH '$.foretoldTo',
       rivals JSON PATH '$.rivals')) v ON v.id = p.id
     SET p.sequence = p.sequence + (NOT p.due_on <=> v.due_on),
       p.pinned = IF(p.anchor_on <=> v.anchor_on, p.pinned, 0),
       p.planned_for = IF(p.anchor_on <=> v.anchor_on, p.planned_for, NULL),
       p.planned_on = IF(p.anchor_on <=> v.anchor_on, p.planned_on, NULL),
       p.due_on = v.due_on, p.warning_from = v.warning_from, p.notice_from = v.notice_from, p.projected = v.projected,
       p.firm_due_on = v.firm_due_on, p.anchor_on = v.anchor_on,
       p.foretold_from = v.foretold_from, p.foretold_to = v.foretold_to, p.rivals = COALESCE(v.rivals, '[]'), p.assessed_at = :now`,
    values,
    tx,
  );
}
