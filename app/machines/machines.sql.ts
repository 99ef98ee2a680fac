/** Statements of machines that Sequelize's models cannot say well. */
import { getDb } from "@db";

import type { MachineRecord } from "~/machines/register/machine-csv.server";

import type { MachineHead, MachineListRow, MachineView } from "./machines.server";

export const PAGE = 50;

/** Most machines that one way of finding brings: a word that fits thousands wants another beside it. */
const FOUND_LIMIT = 300;

/** Each branch has an index of its own; one WHERE with OR would read the whole register. */
const BY_ITS_OWN_WORDS = [
  "SELECT id FROM machines WHERE MATCH (name, tag, serial, maker, model, area) AGAINST (:words IN BOOLEAN MODE)",
  "SELECT id FROM machines WHERE name LIKE :prefix",
  "SELECT id FROM machines WHERE tag LIKE :prefix",
  "SELECT id FROM machines WHERE serial LIKE :prefix",
];
const BY_ITS_SITE = "SELECT x.id FROM sites y JOIN machines x ON x.site_id = y.id WHERE y.name LIKE :prefix";

const foundBy = (branches: readonly string[], most: number): string =>
  branches.map((branch) => `(${branch} LIMIT ${most})`).join(" UNION ");

const FOUND_BY_WORDS = foundBy([...BY_ITS_OWN_WORDS, BY_ITS_SITE], FOUND_LIMIT);

/** How a list of machines is narrowed. */
export interface MachineFilter {
  q?: string | null;
  family?: string | null;
  /** Of one of these sites; none of none. */
  siteIds?: readonly string[] | null;
  state?: Exclude<keyof typeof STATES, "in"> | null;
  after?: string | null;
}

const STATES = {
  in: "m.retired_on IS NULL",
  stopped:
    "m.retired_on IS NULL AND EXISTS (SELECT 1 FROM machine_holds x WHERE x.cleared_at IS NULL AND x.machine_id = m.id)",
  "left-open":
    "m.retired_on IS NULL AND EXISTS (SELECT 1 FROM open_items x WHERE x.machine_id = m.id AND x.closed_at IS NULL)",
  "to-check": "m.to_check = 1",
  "taken-out": "m.retired_on IS NOT NULL",
};

/** Joins, an index by name, asks for absence. */
export function machinePage(
  values: {
    words: string;
    prefix: string;
    family: string;
    siteIds: readonly string[];
    afterName: string;
    afterId: string;
  },
  filter: MachineFilter,
  afterId: string,
): Promise<MachineListRow[]> {
  // Left to itself the database begins at the customers and sorts the whole register; of what few machines are, it begins there.
  const inOrder = filter.state === "stopped" || filter.state === "left-open" ? "JOIN" : "STRAIGHT_JOIN";
  return getDb().select<MachineListRow>(
    `SELECT m.id, m.tag, m.name, m.family, m.area, m.serial, s.name AS siteName, c.name AS customerName,
       EXISTS (SELECT 1 FROM machine_holds h WHERE h.cleared_at IS NULL AND h.machine_id = m.id) AS outOfService,
       (SELECT COUNT(*) FROM open_items o WHERE o.machine_id = m.id AND o.closed_at IS NULL) AS leftOpen
     FROM ${(filter.q ?? "").trim() !== "" ? `(${FOUND_BY_WORDS}) found STRAIGHT_JOIN machines m ON m.id = found.id` : "machines m"}
       ${inOrder} sites s ON s.id = m.site_id ${inOrder} customers c ON c.id = s.customer_id
     WHERE ${STATES[filter.state ?? "in"]}
       ${filter.family ? "AND m.family = :family" : ""}
       ${filter.siteIds ? "AND m.site_id IN (:siteIds)" : ""}
       ${afterId ? "AND (m.name > :afterName OR (m.name = :afterName AND m.id > :afterId))" : ""}
     ORDER BY m.name, m.id LIMIT ${PAGE + 1}`,
    values,
  );
}

/** Each way has an index of its own. */
export function machinesLike(
  values: { words: string; prefix: string },
  most: number,
): Promise<{ id: string; name: string; tag: string }[]> {
  return getDb().select(
    `SELECT m.id, m.name, m.tag FROM (${foundBy(BY_ITS_OWN_WORDS, most)}) found JOIN machines m ON m.id = found.id ORDER BY m.name, m.id LIMIT ${most}`,
    values,
  );
}

/** Each once. */
export function families(): Promise<{ family: string }[]> {
  return getDb().select<{ family: string }>("SELECT DISTINCT family FROM machines ORDER BY family");
}

/** Joins, sums. */
export function latestMeters(values: { id: string }): Promise<MachineView["meters"][number][]> {
  return getDb().select<MachineView["meters"][number]>(
    `SELECT r.meter, r.value, r.read_at AS readAt FROM meter_readings r
     JOIN (SELECT meter, MAX(read_at) AS read_at FROM meter_readings WHERE machine_id = :id GROUP BY meter) last
       ON last.meter = r.meter AND last.read_at = r.read_at
     WHERE r.machine_id = :id ORDER BY r.meter, r.id`,
    values,
  );
}

/** Joins. */
export function latestSheets(values: { id: string }): Promise<MachineView["sheets"][number][]> {
  return getDb().select<MachineView["sheets"][number]>(
    `SELECT r.id, p.title, r.status, r.outcome, r.closed_at AS closedAt, r.opened_at AS openedAt FROM sheets r JOIN duties p ON p.id = r.duty_id
     WHERE r.machine_id = :id ORDER BY r.opened_at DESC LIMIT 12`,
    values,
  );
}

/** Joins. */
export function registerPage(): Promise<MachineRecord[]> {
  return getDb()
    .select<MachineRecord>(`SELECT c.name AS customer, s.name AS site, s.address, s.time_zone, s.water_hardness AS water_hardness_mg_l, s.access_hours,
       m.area, m.tag, m.name, m.family, m.maker, m.model, m.serial, m.commissioned_on, m.duties_from, m.options, m.notes,
       s.latitude, s.longitude, s.holiday_region, s.drain_rules, s.waste_rules, m.position
     FROM machines m JOIN sites s ON s.id = m.site_id JOIN customers c ON c.id = s.customer_id WHERE m.retired_on IS NULL ORDER BY m.tag`);
}

/** Joins. */
export function machineHead(values: { id: string }): Promise<MachineHead[]> {
  return getDb().select<MachineHead>(
    "SELECT m.id, m.name, m.tag, m.area, s.name AS siteName, s.time_zone AS timeZone FROM machines m JOIN sites s ON s.id = m.site_id WHERE m.id = :id",
    values,
  );
}
