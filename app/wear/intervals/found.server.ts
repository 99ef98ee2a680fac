import { addDays, usageRate } from "@core";
import { getDb } from "@db";

import { recentMeters } from "~/duties/repeats.server";
import { csvText } from "~/kit/server/csv-table.server";
import { newestProcedures } from "~/procedures/procedures.server";

import { bySite, explained, type Explains, type FoundAtSite } from "./found-by-site";
import * as sql from "./intervals.sql";

/** Findings of so many days are held beside each other: three years. */
const DAYS = 1096;
/** Machines of one table; more are not looked through by eye. */
const MOST = 2000;

export interface FoundTable {
  procedures: { id: string; title: string; n: number }[];
  procedureId: string | null;
  sites: FoundAtSite[];
  explained: Explains[];
}

/** How machines of one procedure were found, machine by machine, and which procedures there are. */
async function foundOf(asked: string | null, today: string) {
  const since = addDays(today, -DAYS);
  const known = await sql.foundProcedures({ since });
  const procedureId = known.find((one) => one.procedureId === asked)?.procedureId ?? known[0]?.procedureId ?? null;
  const rows = procedureId === null ? [] : await sql.foundByMachine({ procedureId, since, limit: MOST });
  return { known, procedureId, rows };
}

/** How machines of one procedure were found, site beside site, and whether water, dust or load goes with it. */
export async function foundTable(asked: string | null, today: string, now: Date): Promise<FoundTable> {
  const { known, procedureId, rows } = await foundOf(asked, today);
  const titles = new Map(
    (await newestProcedures([...new Set(known.map((one) => one.family))])).map((one) => [one.id, one.title]),
  );
  const procedures = known.map(({ procedureId: id, n }) => ({ id, n, title: titles.get(id) ?? id }));
  if (procedureId === null) return { procedures, procedureId, sites: [], explained: [] };
  const machines = rows.map((one) => one.machineId);
  const load = await loadOf(machines, procedureId, today, now);
  return { procedures, procedureId, sites: bySite(rows), explained: explained(rows, load) };
}

/** Use a day of machines whose duty goes by a meter. */
async function loadOf(
  machineIds: readonly string[],
  procedureId: string,
  today: string,
  now: Date,
): Promise<Map<string, number>> {
  const duties = await getDb().models.Duty.findAll({
    attributes: ["machineId", "rules"],
    where: { machineId: [...machineIds], procedureId },
    raw: true,
  });
  const meters = await recentMeters(duties, now);
  return new Map(
    duties.flatMap(({ machineId, rules }) => {
      const trigger = rules.triggers.find((one) => one.kind === "meter");
      const rate = trigger && usageRate(meters.get(machineId)?.[trigger.meter] ?? [], today);
      return rate === null || rate === undefined ? [] : [[machineId, rate] as const];
    }),
  );
}

/** The sites as a table. */
export async function foundCsv(asked: string | null, today: string): Promise<string> {
  const sites = bySite((await foundOf(asked, today)).rows);
  return csvText(
    ["site", "water_mg_l", "dust", "machines", "services", "clean", "fair", "poor", "failed", "mean_days_between"],
    sites.map((one) => [
      ...[one.siteName, one.water, one.dust, one.machines, one.n, one.clean, one.fair, one.poor, one.failed],
      one.meanDays === null ? null : Math.round(one.meanDays * 10) / 10,
    ]),
  );
}
