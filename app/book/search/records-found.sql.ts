/**
 * Statements of finding records. One term leads, through an index that has the book's order and what is not as it should be
 * beside it; the others are asked of each record that it brings, by whole keys. So the database never sorts or reads what it
 * does not show.
 */
import { getDb, type LinkKind } from "@db";

import type { RecordRow } from "./records-found.server";
import type { Term } from "./terms.server";

type Values = Record<string, unknown>;

/** Where in the book a page goes on. */
export interface Place {
  onDay: string;
  closedAt: Date;
  id: string;
}

export interface Wanted {
  /** Null: the whole book leads. */
  lead: Term | null;
  others: Term[];
  from: string | null;
  to: string | null;
  after?: Place | null;
  /** None that was closed later. */
  until?: Date | null;
}

const COLUMN = {
  machine: "machine_id",
  site: "site_id",
  customer: "customer_id",
  family: "family",
  procedure: "procedure_id",
  outcome: "outcome",
} as const;

const SAME = "on_day = d.on_day AND x.closed_at = d.closed_at AND x.sheet_id = d.sheet_id";
const ORDER = "on_day DESC, closed_at DESC, sheet_id DESC";

function source(term: Term | null): string {
  if (term === null) return "records d FORCE INDEX (PRIMARY)";
  return term.of === "record"
    ? `records d FORCE INDEX (records_${term.field})`
    : "record_links d FORCE INDEX (PRIMARY)";
}

/** One value of the leading term, with everything else that is wanted. */
function branch(wanted: Wanted, value: number, columns: string, limit: number): string {
  const { lead, others, from, to, after, until } = wanted;
  const own = others.filter((one) => one.of === "record");
  const linked = others.filter((one) => one.of === "link");
  const conditions = [
    lead?.of === "record" ? `d.${COLUMN[lead.field]} = :lead${value}` : "",
    lead?.of === "link" ? `d.kind = :leadKind AND d.value = :lead${value}` : "",
    from === null ? "" : "d.on_day >= :from",
    to === null ? "" : "d.on_day <= :to",
    until ? "d.closed_at <= :until" : "",
    after
      ? "d.on_day <= :afterDay AND (d.on_day < :afterDay OR d.closed_at < :afterAt OR (d.closed_at = :afterAt AND d.sheet_id < :afterId))"
      : "",
    ...ownConditions(own, lead?.of === "link"),
    // A plain EXISTS would be turned into a join, and the join round.
    ...linked.map(
      (one) =>
        `(SELECT 1 FROM record_links x WHERE x.kind = :kind${others.indexOf(one)} AND x.value IN (:term${others.indexOf(one)}) AND x.${SAME} LIMIT 1) IS NOT NULL`,
    ),
  ].filter(Boolean);
  const where = conditions.length > 0 ? `WHERE ${conditions.join(" AND ")}` : "";
  return `(SELECT ${columns} FROM ${source(lead)} ${where} ORDER BY ${ORDER.replaceAll(/(?=on_day|closed_at|sheet_id)/g, "d.")} LIMIT ${limit})`;

  function ownConditions(terms: Term[], beside: boolean): string[] {
    const each = terms.map(
      (one) => `${beside ? "x" : "d"}.${COLUMN[one.field as keyof typeof COLUMN]} IN (:term${others.indexOf(one)})`,
    );
    if (!beside || each.length === 0) return each;
    return [`(SELECT 1 FROM records x WHERE x.${SAME} AND ${each.join(" AND ")} LIMIT 1) IS NOT NULL`];
  }
}

function valuesOf({ lead, others, from, to, after, until }: Wanted): Values {
  const values: Values = { from, to, until: until ?? null };
  if (lead?.of === "link") values.leadKind = lead.field;
  for (const [i, value] of (lead?.values ?? []).entries()) values[`lead${i}`] = value;
  for (const [i, one] of others.entries()) {
    values[`term${i}`] = one.values;
    if (one.of === "link") values[`kind${i}`] = one.field satisfies LinkKind;
  }
  if (after) Object.assign(values, { afterDay: after.onDay, afterAt: after.closedAt, afterId: after.id });
  return values;
}

/** All branches together, each record once. */
function together(wanted: Wanted, columns: string, limit: number): string {
  const branches = (wanted.lead?.values ?? [""]).map((_, i) => branch(wanted, i, columns, limit));
  return branches.length === 1 ? branches.join("") : `${branches.join(" UNION ")} ORDER BY ${ORDER} LIMIT ${limit}`;
}

/** The next records, the newest first, with their names. */
export function pageOfRecords(wanted: Wanted, limit: number): Promise<RecordRow[]> {
  return getDb().select<RecordRow>(
    `SELECT r.sheet_id AS id, r.title, r.outcome, r.exceptions, r.on_day AS onDay, r.closed_at AS closedAt, r.machine_id AS machineId,
       m.name AS machineName, r.tag AS machineTag, s.name AS siteName, p.name AS personName,
       (SELECT x.seq FROM record_chain x WHERE x.subject_id = r.sheet_id AND x.kind = 'record' ORDER BY x.seq LIMIT 1) AS number
     FROM (${together(wanted, "d.on_day, d.closed_at, d.sheet_id", limit)}) f
       STRAIGHT_JOIN records r ON r.on_day = f.on_day AND r.closed_at = f.closed_at AND r.sheet_id = f.sheet_id
       JOIN machines m ON m.id = r.machine_id JOIN sites s ON s.id = r.site_id JOIN persons p ON p.id = r.closed_by
     ORDER BY r.on_day DESC, r.closed_at DESC, r.sheet_id DESC`,
    valuesOf(wanted),
  );
}

/** How many there are, up to a limit, and how many of these have each of some bits of exceptions. */
export async function countRecords(
  wanted: Wanted,
  bits: readonly number[],
  limit: number,
): Promise<{ total: number; any: number; each: number[] }> {
  const sums = bits.map((bit, i) => `COALESCE(SUM(f.exceptions & ${bit} <> 0), 0) AS b${i}`).join(", ");
  const [row] = await getDb().select<Record<string, number | string>>(
    `SELECT COUNT(*) AS total, COALESCE(SUM(f.exceptions <> 0), 0) AS any_one, ${sums}
     FROM (${together(wanted, "d.on_day, d.closed_at, d.sheet_id, d.exceptions", limit)}) f`,
    valuesOf(wanted),
  );
  return {
    total: Number(row?.total),
    any: Number(row?.any_one),
    each: bits.map((_, i) => Number(row?.[`b${i}`])),
  };
}

/**
 * About how many records a term brings by itself, as the database reckons it from a look into its index: what leads has only to
 * be much less than the others.
 */
export async function weighTerm(term: Term, { from, to }: Pick<Wanted, "from" | "to">): Promise<number> {
  const own = term.of === "record" ? `d.${COLUMN[term.field]} IN (:values)` : "d.kind = :kind AND d.value IN (:values)";
  const span = `${from === null ? "" : " AND d.on_day >= :from"}${to === null ? "" : " AND d.on_day <= :to"}`;
  const [row] = await getDb().select<{ rows: number | string | null }>(
    `EXPLAIN SELECT d.sheet_id FROM ${source(term)} WHERE ${own}${span}`,
    { values: term.values, kind: term.field, from, to },
  );
  return Number(row?.rows ?? 0);
}

/** Each once, from the index alone; the newest title. */
export function proceduresWorked(): Promise<{ id: string; title: string }[]> {
  return getDb().select(
    `SELECT w.id, COALESCE((SELECT p.title FROM procedures p WHERE p.id = w.id ORDER BY p.version DESC LIMIT 1), w.id) AS title
     FROM (SELECT DISTINCT procedure_id AS id FROM records) w ORDER BY title, w.id LIMIT 1000`,
  );
}

/** Each once, from the index alone. */
export function familiesWorked(): Promise<{ family: string }[]> {
  return getDb().select("SELECT DISTINCT family FROM records ORDER BY family");
}
