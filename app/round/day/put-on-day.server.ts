import { getDb, Op } from "@db";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { endReservations } from "~/stores/ledger/stock.server";

import * as sql from "./put-on-day.sql";

/** Most duties put on a day in one go. */
export const MAX_PLANNED = 200;

/**
 * Puts duties on a day, for a person or for whoever goes; null takes them off again. An undo gets what was there before.
 * A duty pinned to a day stays there unless `evenPinned`; another person may take it over on that day.
 */
export async function putOnDay(
  actor: Actor,
  dutyIds: readonly string[],
  input: { on: string | null; personId: string | null; evenPinned?: boolean },
  now: Date,
): Promise<{ dutyId: string; on: string | null; personId: string | null }[]> {
  if (dutyIds.length > MAX_PLANNED)
    throw new Refusal(413, "too-many", `Put at most ${MAX_PLANNED} duties on a day in one go.`);
  if (dutyIds.length === 0) throw new Refusal(422, "none", "Choose at least one duty.");
  const db = getDb();
  return db.transact(async (tx) => {
    const rows = (
      await db.models.Duty.findAll({
        attributes: ["id", "plannedOn", "plannedFor", "pinned", "title"],
        where: { id: [...dutyIds] },
        order: ["id"],
        lock: tx.LOCK.UPDATE,
        raw: true,
        transaction: tx,
      })
    ).map(({ id, plannedOn, plannedFor, ...row }) => ({ ...row, dutyId: id, on: plannedOn, personId: plannedFor }));
    const stays = rows.find((row) => row.pinned && row.on !== input.on);
    if (stays && !input.evenPinned)
      throw new Refusal(409, "pinned", `“${stays.title}” is pinned to ${stays.on}. Unpin it there first.`);
    const before = rows.map(({ dutyId, on, personId }) => ({ dutyId, on, personId }));
    await sql.putOnDay({ dutyIds, on: input.on, personId: input.on === null ? null : input.personId }, tx);
    const { on, personId } = input;
    // What was held for a duty on that day is free again when it goes elsewhere.
    const moved = rows
      .filter((row) => row.on !== null && (row.on !== on || row.personId !== personId))
      .map((row) => row.dutyId);
    if (moved.length > 0) await endReservations({ dutyId: moved }, "released", now, tx);
    for (const one of before)
      await audit(
        {
          by: actor,
          subject: "duty",
          subjectId: one.dutyId,
          action: on ? "planned" : "unplanned",
          details: { old: one, new: { on, personId } },
          now,
        },
        tx,
      );
    return before;
  });
}

/** Pins duties to the day they are on, or lets them go again. */
export async function pinToDay(actor: Actor, dutyIds: readonly string[], pinned: boolean, now: Date): Promise<void> {
  if (dutyIds.length === 0) throw new Refusal(422, "none", "Choose at least one duty.");
  const db = getDb();
  await db.transact(async (tx) => {
    const rows = await db.models.Duty.findAll({
      attributes: ["id", "plannedOn"],
      where: { id: [...dutyIds], plannedOn: { [Op.not]: null }, pinned: !pinned },
      order: ["id"],
      lock: tx.LOCK.UPDATE,
      raw: true,
      transaction: tx,
    });
    if (rows.length === 0) return;
    await db.models.Duty.update({ pinned }, { where: { id: rows.map((row) => row.id) }, transaction: tx });
    for (const { id, plannedOn } of rows)
      await audit(
        {
          by: actor,
          subject: "duty",
          subjectId: id,
          action: pinned ? "pinned" : "unpinned",
          details: { on: plannedOn },
          now,
        },
        tx,
      );
  });
}
