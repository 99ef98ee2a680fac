import { must, type Procedure, type RunEvent } from "@core";
import { getDb, type RecordLinkRow, type RecordSummaryRow, type SheetRow, type Transaction } from "@db";

import { dayInZone } from "~/kit/days/site-day";
import { procedureOf, readEntries, type SheetContext, sheetContext } from "~/sheet/log/sheet-context.server";
import { sheetTitle } from "~/sheet/sheet-title";

import * as sql from "./summaries.sql";
import { summaryOfSheet } from "./summary-of";

/** A closed sheet with what its summary is made from. */
export interface ClosedSheet {
  sheet: Pick<SheetRow, "id" | "machineId" | "outcome"> & { closedAt: Date; closedBy: string };
  procedure: Procedure;
  title: string;
  options: readonly string[];
  timeZone: string;
  entries: readonly RunEvent[];
  /** What came when it was closed. */
  late: readonly RunEvent[];
}

/** Rows of one statement: long notes have very many words. */
const LINKS_AT_ONCE = 2000;

type Place = Pick<RecordSummaryRow, "siteId" | "customerId" | "family" | "tag" | "serial">;

/**
 * Writes what closed sheets are found by, anew where it is there: then what is not as it should be and what finds them is
 * brought up to date, and where and of whom they were stays as it was when they were closed.
 */
export async function storeSummaries(closed: readonly ClosedSheet[], tx: Transaction): Promise<void> {
  if (closed.length === 0) return;
  const { models } = getDb();
  const ids = closed.map((one) => one.sheet.id);
  const before = await models.RecordSummary.findAll({
    attributes: ["sheetId", "onDay", "closedAt"],
    where: { sheetId: ids },
    raw: true,
    transaction: tx,
  });
  const known = new Map(before.map((row) => [row.sheetId, row]));
  const places = await placesOf(
    ids.filter((id) => !known.has(id)),
    tx,
  );
  const rows = closed.map((one) => {
    const { sheet, procedure, title, entries, late, options, timeZone } = one;
    const { exceptions, links } = summaryOfSheet(procedure, { entries, late }, options);
    const { id: sheetId, closedBy, machineId, outcome } = sheet;
    const { onDay, closedAt } = known.get(sheetId) ?? {
      onDay: dayInZone(sheet.closedAt, timeZone),
      closedAt: sheet.closedAt,
    };
    const key = { sheetId, onDay, closedAt, exceptions };
    return {
      key,
      row: { ...key, closedBy, machineId, procedureId: procedure.id, title, outcome: outcome ?? "signed" },
      links: links.map((link): RecordLinkRow => ({ ...link, ...key })),
    };
  });
  await models.RecordSummary.bulkCreate(
    rows.flatMap(({ row }) => (known.has(row.sheetId) ? [] : [{ ...row, ...must(places.get(row.sheetId)) }])),
    { transaction: tx },
  );
  for (const { row } of rows)
    if (known.has(row.sheetId))
      await models.RecordSummary.update(
        { exceptions: row.exceptions },
        { where: { sheetId: row.sheetId }, transaction: tx },
      );
  if (known.size > 0) await models.RecordLink.destroy({ where: { sheetId: [...known.keys()] }, transaction: tx });
  const links = rows.flatMap((one) => one.links);
  for (let from = 0; from < links.length; from += LINKS_AT_ONCE)
    await models.RecordLink.bulkCreate(links.slice(from, from + LINKS_AT_ONCE), {
      transaction: tx,
      // What finds a record must never stand in the way of signing it.
      ignoreDuplicates: true,
    });
}

/** Where the machines of these sheets were: by what was kept when they were signed, else where they are now. */
async function placesOf(sheetIds: readonly string[], tx: Transaction): Promise<Map<string, Place>> {
  if (sheetIds.length === 0) return new Map();
  const rows = await sql.placesOfSheets({ ids: sheetIds }, tx);
  return new Map(rows.map(({ sheetId, ...place }) => [sheetId, place]));
}

/** Brings the summary of one closed sheet up to its log. */
export async function summarise(context: SheetContext, entries: readonly RunEvent[], tx: Transaction): Promise<void> {
  await storeSummaries([await closedOf(context, entries, tx)], tx);
}

async function closedOf(
  { sheet, duty, options, timeZone }: SheetContext,
  entries: readonly RunEvent[],
  tx: Transaction,
): Promise<ClosedSheet> {
  const procedure = await procedureOf(sheet, tx);
  return {
    sheet: { ...sheet, closedAt: must(sheet.closedAt), closedBy: must(sheet.closedBy) },
    procedure,
    title: sheetTitle(procedure, duty),
    options,
    timeZone,
    entries,
    late: await readEntries(sheet.id, tx, true),
  };
}

const AT_ONCE = 50;

/**
 * Writes the summaries of closed sheets that have none: those that an older version closed. Stopped in between, it goes on where
 * it was.
 *
 * @param since only of those closed since then
 * @param said is told how many are written so far
 */
export async function summariseMissing(
  since = new Date(0),
  said: (done: number) => void = () => undefined,
): Promise<number> {
  let after = { closedAt: since, id: "" };
  let done = 0;
  for (;;) {
    const found = await sql.withoutSummary({ ...after, limit: AT_ONCE });
    const last = found.at(-1);
    if (!last) return done;
    after = last;
    await getDb().transact(async (tx) => {
      // Locked one after the other, as whoever logs on them does: what they add meanwhile is not lost.
      const locked = await getDb().models.Sheet.findAll({
        attributes: ["id"],
        where: { id: found.map((one) => one.id) },
        order: ["id"],
        lock: tx.LOCK.UPDATE,
        raw: true,
        transaction: tx,
      });
      const closed: ClosedSheet[] = [];
      for (const { id } of locked)
        closed.push(await closedOf(await sheetContext(id, tx), await readEntries(id, tx), tx));
      await storeSummaries(closed, tx);
    });
    done += found.length;
    said(done);
  }
}
