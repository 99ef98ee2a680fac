import { must } from "@core";
import { getDb, Op, type OpenItemRow, type Transaction } from "@db";

import type { Actor } from "~/kit/actor";

import { assessMachine } from "../assess.server";
import { itemId } from "./keep-items.server";
import { keepWork, lockMachine } from "./left-work.server";
import * as sql from "./open-items.sql";

export interface OpenItemView extends Pick<
  OpenItemRow,
  | "id"
  | "name"
  | "machineId"
  | "sheetId"
  | "workDutyId"
  | "kind"
  | "severity"
  | "title"
  | "because"
  | "item"
  | "slot"
  | "who"
  | "authorisation"
  | "wantedBy"
  | "arisenAt"
  | "askedWhom"
  | "askedOn"
  | "bookedFor"
  | "closedAt"
  | "closedNote"
  | "closedSheetId"
  | "ownerId"
> {
  /** What is the same on every sheet that finds it. */
  thing: string;
  ownerName: string | null;
  closedByName: string | null;
  itemName: string | null;
  /** Where a piece is held for it. */
  heldAt: string | null;
  /** The order that brings one. */
  orderId: string | null;
  orderStatus: string | null;
  plannedOn: string | null;
  plannedForName: string | null;
}

/** What is open on a machine, the worst first, and with `closed` the latest that was closed. */
export async function openItemsOf(machineId: string, { closed = 0 } = {}): Promise<OpenItemView[]> {
  return [
    ...(await sql.openItemsOf({ machineId })),
    ...(closed > 0 ? await sql.closedItemsOf({ machineId, fetch: closed }) : []),
  ];
}

/** Closes items by a person, without a sheet: who, when and why stay with them. */
export async function closeRows(
  rows: readonly Pick<OpenItemRow, "id" | "body">[],
  by: string,
  note: string,
  now: Date,
  tx: Transaction,
): Promise<void> {
  for (const { id, body } of rows)
    await getDb().models.OpenItem.update(
      {
        closedAt: now,
        closedBy: by,
        closedNote: note,
        body: { ...body, closed: { at: now.toISOString(), sheetId: null } },
      },
      { where: { id }, transaction: tx },
    );
}

/** What was cleared while its sheet was still open is no item any more. */
export async function closeCleared(added: readonly OpenItemRow[], now: Date, tx: Transaction): Promise<void> {
  const unsafe = new Map(
    added.flatMap((row) => (row.severity === "unsafe" && row.body.eventId ? [[row.body.eventId, row] as const] : [])),
  );
  if (unsafe.size === 0) return;
  const cleared = await getDb().models.MachineHold.findAll({
    where: { entryId: [...unsafe.keys()], clearedAt: { [Op.ne]: null } },
    raw: true,
    transaction: tx,
  });
  for (const { entryId, clearedBy, clearedNote } of cleared)
    await closeRows([must(unsafe.get(entryId ?? ""))], must(clearedBy), clearedNote, now, tx);
}

/** What a hold was about is settled with the signature that ends it. */
export async function closeWithHold(
  actor: Actor,
  { machineId, sheetId, entryId }: { machineId: string; sheetId: string | null; entryId: string | null },
  note: string,
  now: Date,
  tx: Transaction,
): Promise<void> {
  if (sheetId === null || entryId === null) return;
  await lockMachine(machineId, tx);
  const rows = await getDb().models.OpenItem.findAll({
    where: { id: itemId(`${sheetId} ${entryId}`), closedAt: null },
    raw: true,
    transaction: tx,
  });
  if (rows.length === 0) return;
  await closeRows(rows, actor.id, note, now, tx);
  await keepWork(machineId, now, tx);
  await assessMachine(machineId, now, tx);
}

/** The items of the findings that holds are about, by hold; none before their sheets are closed. */
export async function repairsOf(
  holds: readonly { id: string; sheetId: string | null; entryId: string | null }[],
  tx?: Transaction,
): Promise<Map<string, OpenItemRow>> {
  const held = new Map(
    holds.flatMap(({ id, sheetId, entryId }) =>
      sheetId === null || entryId === null ? [] : [[itemId(`${sheetId} ${entryId}`), id] as const],
    ),
  );
  if (held.size === 0) return new Map();
  const rows = await getDb().models.OpenItem.findAll({
    where: { id: [...held.keys()] },
    raw: true,
    transaction: tx ?? null,
  });
  return new Map(rows.map((row) => [must(held.get(row.id)), row]));
}
