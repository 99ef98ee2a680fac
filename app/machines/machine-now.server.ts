import { getDb } from "@db";

import { REPORTS_SHOWN } from "./reports.sql";

/** What is open on a machine that others may change meanwhile: holds and reports, by id. */
export interface MachineNow {
  open: string[];
}

/** Two small indexed reads: asked for every few seconds by every page that shows the machine. */
export async function machineNow(machineId: string): Promise<MachineNow> {
  const { models } = getDb();
  const [holds, reports] = await Promise.all([
    models.MachineHold.findAll({ attributes: ["id"], where: { machineId, clearedAt: null }, raw: true }),
    models.ProblemReport.findAll({
      attributes: ["id"],
      where: { machineId, closedAt: null },
      order: [["loggedAt", "DESC"]],
      limit: REPORTS_SHOWN,
      raw: true,
    }),
  ]);
  return { open: [...holds, ...reports].map((row) => row.id) };
}
