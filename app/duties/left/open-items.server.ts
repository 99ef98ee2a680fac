import { must } from "@core";
import { getDb, Op, type OpenItemRow, type Transaction } from "@db";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";

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

/** What a lead, or whose it is, changes on an open item. */
export interface ItemChange {
  ownerId: string | null;
  wantedBy: string;
  who: OpenItemRow["who"];
  authorisation: string | null;
  askedWhom: string | null;
  askedOn: string | null;
  bookedFor: string | null;
}

async function lockedItem(id: string, machineId: string, tx: Transaction): Promise<OpenItemRow> {
  // As a sheet that is settled does: the machine first.
  await lockMachine(machineId, tx);
  const row = await getDb().models.OpenItem.findByPk(id, { raw: true, transaction: tx, lock: tx.LOCK.UPDATE });
  if (row?.machineId !== machineId) throw new Refusal(404, "no-such-item", "This item is not there any more.");
  if (row.closedAt !== null) throw new Refusal(409, "closed", "This item was closed meanwhile. Load the page again.");
  return row;
}

/** Gives an item another owner, day, or who may do it; what a licensed service was asked is kept with it. */
export async function changeItem(
  actor: Actor,
  machineId: string,
  id: string,
  change: ItemChange,
  now: Date,
): Promise<void> {
  const db = getDb();
  await db.transact(async (tx) => {
    const row = await lockedItem(id, machineId, tx);
    if (actor.role !== "lead" && row.ownerId !== actor.id)
      throw new Refusal(403, "not-yours", "This is another person's item. Ask them or a lead.");
    if (change.ownerId !== null && !(await db.models.Person.findByPk(change.ownerId, { raw: true, transaction: tx })))
      throw new Refusal(422, "ownerId", "This colleague does not exist any more. Choose another.");
    const { ownerId, wantedBy: wanted, who, authorisation, askedWhom, askedOn, bookedFor } = row;
    const old: ItemChange = { ownerId, wantedBy: wanted, who, authorisation, askedWhom, askedOn, bookedFor };
    await db.models.OpenItem.update(change, { where: { id }, transaction: tx });
    await audit(
      {
        by: actor,
        subject: "machine",
        subjectId: machineId,
        action: "open item",
        details: { id, old, new: change },
        now,
      },
      tx,
    );
    await keepWork(machineId, now, tx);
    await assessMachine(machineId, now, tx);
  });
}

/** A lead closes an item without work, with the reason; what is unsafe takes the signature that returns the machine. */
export async function closeItem(
  actor: Actor,
  { machineId, id, reason }: { machineId: string; id: string; reason: string },
  now: Date,
  onClosed: (row: OpenItemRow, tx: Transaction) => Promise<void>,
): Promise<void> {
  if (actor.role !== "lead") throw new Refusal(403, "not-yours", "Only a lead closes an item without the work.");
  const db = getDb();
  await db.transact(async (tx) => {
    const row = await lockedItem(id, machineId, tx);
    if (row.severity === "unsafe" && (await isHeldBy(row, tx)))
      throw new Refusal(409, "unsafe", "It was unsafe: return the machine to service with your signature instead.");
    await closeRows([row], actor.id, reason, now, tx);
    await audit(
      {
        by: actor,
        subject: "machine",
        subjectId: machineId,
        action: "closed",
        details: { id, title: row.title, reason },
        now,
      },
      tx,
    );
    await onClosed(row, tx);
    await keepWork(machineId, now, tx);
    await assessMachine(machineId, now, tx);
  });
}

async function isHeldBy({ machineId, body }: OpenItemRow, tx: Transaction): Promise<boolean> {
  const where = { machineId, entryId: body.eventId ?? "", clearedAt: null };
  return (await getDb().models.MachineHold.count({ where, transaction: tx })) > 0;
}

async function closeRows(
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

/** The item of the finding that a hold is about; null before its sheet is closed. */
export async function repairOf(
  { sheetId, entryId }: { sheetId: string | null; entryId: string | null },
  tx?: Transaction,
): Promise<OpenItemRow | null> {
  if (sheetId === null || entryId === null) return null;
  const id = itemId(`${sheetId} ${entryId}`);
  return getDb().models.OpenItem.findByPk(id, { raw: true, transaction: tx ?? null });
}
