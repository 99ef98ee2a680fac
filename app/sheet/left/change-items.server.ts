import { getDb, type OpenItemRow, type Transaction } from "@db";

import { assessMachine } from "~/duties/assess.server";
import { keepWork, lockMachine } from "~/duties/left/left-work.server";
import { closeRows } from "~/duties/left/open-items.server";
import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { letGoOf } from "~/stores/ledger/held-for-items.server";

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
    await letGoOf([row], "released", now, tx);
    await keepWork(machineId, now, tx);
    await assessMachine(machineId, now, tx);
  });
}

async function isHeldBy({ machineId, body }: OpenItemRow, tx: Transaction): Promise<boolean> {
  const where = { machineId, entryId: body.eventId ?? "", clearedAt: null };
  return (await getDb().models.MachineHold.count({ where, transaction: tx })) > 0;
}
