import { itemMinutes, must, type OpenItem, type Procedure, severityOf, wantedBy } from "@core";
import { type DutyRow, getDb, type OpenItemRow, type Transaction } from "@db";
import { v5 as uuidv5 } from "uuid";

import { dayInZone } from "~/kit/days/site-day";

import { itemTitle } from "./left-words";

/** Names rows of items after what the core calls them. */
const ITEMS = "7c1de7a6-6b4c-5c0e-9a55-0d7c5d6f0f4e";
const WITHDRAWN = "Corrected on its sheet: it was not so.";

/** What the sheet that left an item says of it. */
export interface LeftBy {
  procedure: Procedure;
  duty: Pick<DutyRow, "id" | "who" | "authorisation">;
  timeZone: string;
  /** Who closed it. */
  by: string;
}

/** The row of an item. */
export const itemId = (name: string): string => uuidv5(name, ITEMS);

export interface ToldItems {
  machineId: string;
  /** As the core works it out. */
  told: readonly OpenItem[];
  /** Those that the sheets could have changed. */
  rows: readonly OpenItemRow[];
  /** Sheets by id, at least of items that have no row yet. */
  from: ReadonlyMap<string, LeftBy>;
}

/**
 * Brings the items of a machine to what its sheets tell: new ones are added, settled ones closed, and what a correction has
 * made untrue is closed as that. The caller holds the machine's row.
 *
 * @returns what is new or open again, and what has closed
 */
export async function keepItems(
  { machineId, told, rows, from }: ToldItems,
  now: Date,
  tx: Transaction,
): Promise<{ added: OpenItemRow[]; closed: OpenItemRow[] }> {
  const db = getDb();
  const known = new Map(rows.map((row) => [row.name, row]));
  const names = await itemNames(told, tx);
  const added: OpenItemRow[] = [];
  const closed: OpenItemRow[] = [];
  for (const one of told) {
    const row = known.get(one.id);
    known.delete(one.id);
    const state = stateOf(one, row);
    const by = from.get(one.sheetId);
    const words = by && {
      title: itemTitle(one, by.procedure, one.item === undefined ? null : (names.get(one.item) ?? null)),
      because: one.because,
    };
    if (row) {
      if (row.closedAt === null && state.closedAt !== null) closed.push(row);
      if (row.closedAt !== null && state.closedAt === null) added.push(row);
      if (isSame(row, one, state)) continue;
      await db.models.OpenItem.update(
        { ...state, ...words, ...worse(one, row), body: one },
        { where: { id: row.id }, transaction: tx },
      );
      continue;
    }
    const { procedure, duty, timeZone, by: closer } = must(by);
    const made: OpenItemRow = {
      id: itemId(one.id),
      name: one.id,
      machineId,
      sheetId: one.sheetId,
      dutyId: duty.id,
      workDutyId: null,
      kind: one.kind,
      severity: severityOf(one),
      ...must(words),
      item: one.item ?? null,
      slot: one.slot ?? null,
      minutes: itemMinutes(one, procedure),
      who: duty.who === "licensed" ? "licensed" : "technician",
      authorisation: duty.authorisation,
      ownerId: closer,
      wantedBy: wantedBy(one, dayInZone(new Date(one.since), timeZone)),
      arisenAt: new Date(one.since),
      askedWhom: null,
      askedOn: null,
      bookedFor: null,
      ...state,
      orderLineId: null,
      body: one,
    };
    await db.models.OpenItem.bulkCreate([made], { transaction: tx, ignoreDuplicates: true });
    if (made.closedAt === null) added.push(made);
  }
  for (const row of known.values()) {
    if (row.closedAt !== null) continue;
    const withdrawn = {
      closedAt: now,
      closedBy: null,
      closedSheetId: row.sheetId,
      closedNote: WITHDRAWN,
      // What is worked out later from other sheets takes it as over.
      body: { ...row.body, closed: { at: now.toISOString(), sheetId: row.sheetId } },
    };
    await db.models.OpenItem.update(withdrawn, { where: { id: row.id }, transaction: tx });
    closed.push(row);
  }
  return { added, closed };
}

/** Found again, and worse, it is wanted sooner. */
function worse(one: OpenItem, row: OpenItemRow): Pick<OpenItemRow, "severity" | "wantedBy"> {
  const severity = severityOf(one);
  if (severity === row.severity) return { severity, wantedBy: row.wantedBy };
  const wanted = wantedBy(one, (one.again.at(-1)?.at ?? one.since).slice(0, 10));
  return { severity, wantedBy: wanted < row.wantedBy ? wanted : row.wantedBy };
}

type Closing = Pick<OpenItemRow, "closedAt" | "closedBy" | "closedSheetId" | "closedNote">;

/** How an item stands: what a person has closed keeps who and why. */
function stateOf(one: OpenItem, row: OpenItemRow | undefined): Closing {
  if (one.closed === null) return { closedAt: null, closedBy: null, closedSheetId: null, closedNote: "" };
  if (one.closed.sheetId === null && row) {
    const { closedAt, closedBy, closedSheetId, closedNote } = row;
    return { closedAt, closedBy, closedSheetId, closedNote };
  }
  return { closedAt: new Date(one.closed.at), closedBy: null, closedSheetId: one.closed.sheetId, closedNote: "" };
}

function isSame(row: OpenItemRow, one: OpenItem, state: Closing): boolean {
  return (
    row.closedAt?.getTime() === state.closedAt?.getTime() &&
    row.closedSheetId === state.closedSheetId &&
    JSON.stringify(row.body) === JSON.stringify(one)
  );
}

async function itemNames(told: readonly OpenItem[], tx: Transaction): Promise<Map<string, string>> {
  const ids = [...new Set(told.flatMap((one) => one.item ?? []))];
  if (ids.length === 0) return new Map();
  const rows = await getDb().models.Item.findAll({
    attributes: ["id", "name"],
    where: { id: ids },
    raw: true,
    transaction: tx,
  });
  return new Map(rows.map((row) => [row.id, row.name]));
}
