/** Statements of visit that Sequelize's models cannot say well. */
import type { Procedure } from "@core";
import { getDb } from "@db";

/** More open sheets than that in one person's hands are a mistake, not a visit. */
export const MOST = 16;

export interface OpenSheetRow {
  sheetId: string;
  dutyId: string;
  siteId: string;
  openedBy: string;
  body: Procedure;
  expanded: Procedure | null;
  options: string[];
  title: string;
  machineName: string;
  machineTag: string;
  siteName: string;
}

/** Joins. */
export function openSheets(values: { personId: string }): Promise<OpenSheetRow[]> {
  return getDb().select<OpenSheetRow>(
    `SELECT r.id AS sheetId, r.duty_id AS dutyId, m.site_id AS siteId, r.opened_by AS openedBy, x.body, x.expanded, m.options, p.title, m.name AS machineName, m.tag AS machineTag, s.name AS siteName
     FROM sheets r JOIN duties p ON p.id = r.duty_id JOIN procedures x ON x.id = r.procedure_id AND x.version = r.procedure_version
       JOIN machines m ON m.id = r.machine_id JOIN sites s ON s.id = m.site_id
     WHERE r.status = 'open' AND r.held_by = :personId ORDER BY r.opened_at DESC, r.id DESC LIMIT ${MOST}`,
    values,
  );
}
