/** Statements of wear that Sequelize's models cannot say well. */
import type { CameOut } from "@core";
import { type Criticality, getDb, type Transaction, type WearLineRow } from "@db";

/** Sums. */
export function newestVersions(
  values: { ids: string[] },
  tx?: Transaction,
): Promise<{ id: string; version: number }[]> {
  return getDb().select(
    "SELECT id, MAX(version) AS version FROM procedures WHERE id IN (:ids) GROUP BY id",
    values,
    tx,
  );
}

/** Joins. */
export function machinesWithZones(
  values: { machineIds: readonly string[] },
  tx?: Transaction,
): Promise<{ id: string; family: string; criticality: Criticality; retired: boolean; timeZone: string }[]> {
  return getDb().select(
    `SELECT m.id, m.family, m.criticality, m.retired_on IS NOT NULL AS retired, s.time_zone AS timeZone
     FROM machines m JOIN sites s ON s.id = m.site_id WHERE m.id IN (:machineIds)`,
    values,
    tx,
  );
}

/** Arithmetic: what one piece costs. */
export function piecePrices(values: { ids: string[] }, tx?: Transaction): Promise<{ id: string; cents: number }[]> {
  return getDb().select(
    "SELECT id, COALESCE(pack_price_cents, 0) / pack_size AS cents FROM items WHERE id IN (:ids)",
    values,
    tx,
  );
}

/** Each once. */
export function zonesInUse(): Promise<{ timeZone: string }[]> {
  return getDb().select("SELECT DISTINCT time_zone AS timeZone FROM sites");
}

/** Each once; two ranges of one index. */
export function staleMachines(values: { today: string; atMost: number }): Promise<{ machineId: string }[]> {
  return getDb().select(
    `(SELECT DISTINCT machine_id AS machineId FROM wear_lines WHERE current = 1 AND stale = 1 LIMIT :atMost)
     UNION
     (SELECT DISTINCT machine_id FROM wear_lines WHERE current = 1 AND stale = 0 AND next_on < :today LIMIT :atMost)`,
    values,
  );
}

/** Looks inside JSON: machines with a duty that waits for a reading. */
export function waitingMachines(
  values: { machineIds: readonly string[] },
  tx?: Transaction,
): Promise<{ machineId: string }[]> {
  return getDb().select(
    `SELECT DISTINCT machine_id AS machineId FROM duties WHERE machine_id IN (:machineIds) AND active = 1
       AND JSON_SEARCH(rules, 'one', 'condition', NULL, '$.triggers[*].kind') IS NOT NULL`,
    values,
    tx,
  );
}

/** What a line of the list shows. */
export interface ListedWear extends Pick<
  WearLineRow,
  | (
      | "id"
      | "machineId"
      | "slot"
      | "slotName"
      | "item"
      | "unit"
      | "per"
      | "worse"
      | "limitAt"
      | "n"
      | "lastValue"
      | "lastOn"
    )
  | ("crossesOn" | "crossesFrom" | "crossesTo" | "nextOn" | "nextChance" | "secondOn" | "secondChance" | "advice")
  | ("costNow" | "costNext" | "listedBy" | "listedOn" | "line" | "reading" | "rate" | "plannedCost" | "breakEven")
> {
  itemName: string | null;
  tag: string;
  machineName: string;
  siteName: string;
}

export interface WearFilter {
  siteIds: readonly string[] | null;
  family: string | null;
  /** Only what it pays to renew now. */
  now: boolean;
}

/** Joins; begins at the index that the list is in order of, or at the machines of a site. */
export function listedWear(
  values: { siteIds: readonly string[]; family: string; by: number; on: string; id: string; limit: number },
  filter: WearFilter,
  isAfter: boolean,
): Promise<ListedWear[]> {
  const from = filter.siteIds
    ? "machines m STRAIGHT_JOIN wear_lines w ON w.machine_id = m.id AND w.current = 1"
    : "wear_lines w FORCE INDEX (wear_lines_listed) STRAIGHT_JOIN machines m ON m.id = w.machine_id";
  return getDb().select(
    `SELECT w.id, w.machine_id AS machineId, w.slot, w.slot_name AS slotName, w.item, w.reading, w.unit, w.per, w.worse, w.limit_at AS limitAt, w.n,
       w.last_value AS lastValue, w.last_on AS lastOn, w.crosses_on AS crossesOn, w.crosses_from AS crossesFrom, w.crosses_to AS crossesTo,
       w.next_on AS nextOn, w.next_chance AS nextChance, w.second_on AS secondOn, w.second_chance AS secondChance, w.advice,
       w.cost_now AS costNow, w.cost_next AS costNext, w.listed_by AS listedBy, w.listed_on AS listedOn, w.line, w.rate, w.planned_cost AS plannedCost, w.break_even AS breakEven,
       i.name AS itemName, m.tag, m.name AS machineName, s.name AS siteName
     FROM ${from} STRAIGHT_JOIN sites s ON s.id = m.site_id LEFT JOIN items i ON i.id = w.item
     WHERE w.current = 1 AND m.retired_on IS NULL
       ${filter.siteIds ? "AND m.site_id IN (:siteIds)" : ""}
       ${filter.family ? "AND m.family = :family" : ""}
       ${filter.now ? "AND w.advice = 'now'" : ""}
       ${isAfter ? "AND w.listed_by <= :by AND (w.listed_by < :by OR w.listed_on > :on OR (w.listed_on = :on AND w.id > :id))" : ""}
     ORDER BY w.listed_by DESC, w.listed_on, w.id LIMIT :limit`,
    values,
  );
}

/** Joins: when pieces of items went into slots of a family's machines, and why those before came out. */
export function fitsOfFamily(values: {
  family: string;
  items: string[];
}): Promise<
  { machineId: string; slot: string; item: string; cameOut: CameOut; fittedAt: Date; retiredOn: string | null }[]
> {
  return getDb().select(
    `SELECT f.machine_id AS machineId, f.slot, f.item, f.came_out AS cameOut, f.fitted_at AS fittedAt, DATE_FORMAT(m.retired_on, '%Y-%m-%d') AS retiredOn
     FROM slot_fits f JOIN machines m ON m.id = f.machine_id WHERE f.item IN (:items) AND m.family = :family
     ORDER BY f.machine_id, f.slot, f.fitted_at`,
    values,
  );
}

/** Each once, by the beginning of an index. */
export function measuredMachines(values: { after: string; limit: number }): Promise<{ machineId: string }[]> {
  return getDb().select(
    "SELECT DISTINCT machine_id AS machineId FROM wear_values WHERE machine_id > :after ORDER BY machine_id LIMIT :limit",
    values,
  );
}

const ID = "CHAR(36) CHARACTER SET ascii COLLATE ascii_bin";
const WORDS = "VARCHAR(250) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin";

/** What its values decide of a line, by the types of its columns. */
const FITTED = {
  id: ID,
  machineId: ID,
  slot: WORDS,
  item: WORDS,
  reading: WORDS,
  unit: WORDS,
  per: WORDS,
  worse: WORDS,
  limitAt: "DOUBLE",
  pool: WORDS,
  beganAt: "DATETIME(3)",
  begunBy: WORDS,
  endedAt: "DATETIME(3)",
  current: "TINYINT",
  n: "INT",
  meanAt: "DOUBLE",
  level: "DOUBLE",
  slope: "DOUBLE",
  sumSquares: "DOUBLE",
  residual: "DOUBLE",
  firstUse: "DOUBLE",
  firstOn: "DATE",
  lastUse: "DOUBLE",
  lastOn: "DATE",
  lastValue: "DOUBLE",
  useNow: "DOUBLE",
  rate: "DOUBLE",
  asOf: "DATE",
  stale: "TINYINT",
};
/** What is foreseen of it. */
const FORESEEN = {
  line: "TEXT",
  crossesOn: "DATE",
  crossesFrom: "DATE",
  crossesTo: "DATE",
  nextOn: "DATE",
  nextChance: "DOUBLE",
  secondOn: "DATE",
  secondChance: "DOUBLE",
  plannedCost: "INT",
  costNow: "INT",
  costNext: "INT",
  breakEven: "DOUBLE",
  advice: WORDS,
  slotName: WORDS,
  listedBy: "DOUBLE",
  listedOn: "DATE",
  stale: "TINYINT",
};

const column = (name: string): string => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

/** Rows of JSON as a table: one statement for many lines. */
const tableOf = (columns: Record<string, string>): string =>
  `JSON_TABLE(:rows, '$[*]' COLUMNS (${Object.entries(columns)
    .map(([name, type]) => `${column(name)} ${type} PATH '$.${name}'`)
    .join(", ")})) j`;

type Rows<Columns> = Record<keyof Columns, string | number | null>[];

/** Adds or brings up to date, many in one statement. */
export function keepFitted(rows: Rows<typeof FITTED>, tx?: Transaction): Promise<number> {
  const names = Object.keys(FITTED).map(column);
  return getDb().run(
    `INSERT INTO wear_lines (${names.join(", ")}) SELECT ${names.map((one) => `j.${one}`).join(", ")} FROM ${tableOf(FITTED)}
     ON DUPLICATE KEY UPDATE ${names
       .slice(1)
       .map((one) => `${one} = VALUES(${one})`)
       .join(", ")}`,
    { rows: JSON.stringify(rows) },
    tx,
  );
}

/** Brings up to date, many in one statement. */
export function keepForeseen(rows: Rows<typeof FORESEEN & { id: string }>, tx?: Transaction): Promise<number> {
  return getDb().run(
    `UPDATE ${tableOf({ id: ID, ...FORESEEN })} STRAIGHT_JOIN wear_lines w ON w.id = j.id
     SET ${Object.keys(FORESEEN)
       .map(column)
       .map((one) => `w.${one} = j.${one}`)
       .join(", ")}`,
    { rows: JSON.stringify(rows) },
    tx,
  );
}
