import { getDb, Op, type Transaction } from "@db";

import type { Actor } from "~/kit/actor";
import { firmDay } from "~/kit/days/firm-day.server";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { endReservations } from "~/stores/ledger/end-reservations.server";

import * as sql from "./put-on-day.sql";

/** Most duties put on a day in one go. */
export const MAX_PLANNED = 200;

/** A day, and whose: null is no day, and whoever goes. */
export interface Place {
  on: string | null;
  personId: string | null;
}

export interface PutOnDay extends Place {
  /** A duty pinned to another day is moved too. */
  evenPinned?: boolean;
  /**
   * Where the duties were when they were chosen: nobody's, on one day, or each where the page showed it. What is elsewhere
   * by now is somebody else's doing, and stays.
   */
  from?: "nobody" | Place | ReadonlyMap<string, Place>;
  /** Leaves alone what is elsewhere by now, instead of refusing all of it. */
  leaveMoved?: boolean;
  /** Somebody hands their own day over: the one place where duties go to another's day without a lead. */
  handedOver?: boolean;
}

export interface PlacedDuty extends Place {
  dutyId: string;
}

/** Where duties were before a change, and where they are since: what undoes it. */
export interface Moved {
  before: PlacedDuty[];
  duties: PlacedDuty[];
}

interface DutyRow extends PlacedDuty {
  title: string;
  pinned: boolean;
  active: boolean;
}

/** The transaction that a move is part of, and the firm's day. */
export interface Within {
  tx: Transaction;
  today: string;
}

/**
 * Puts duties on a day, for a person or for whoever goes; null takes them off again. An undo gets what was there before.
 * A duty pinned to a day stays there unless `evenPinned`; another person may take it over on that day. A day's duties are
 * moved by the person whose day it is, or by a lead.
 *
 * @returns where those were that were moved
 */
export async function putOnDay(
  actor: Actor,
  dutyIds: readonly string[],
  input: PutOnDay,
  now: Date,
): Promise<PlacedDuty[]> {
  if (dutyIds.length > MAX_PLANNED)
    throw new Refusal(413, "too-many", `Put at most ${MAX_PLANNED} duties on a day in one go.`);
  if (dutyIds.length === 0) throw new Refusal(422, "none", "Choose at least one duty.");
  const { on: today } = await firmDay(now);
  return getDb().transact((tx) => moveDuties(actor, dutyIds, input, now, { tx, today }));
}

/** {@link putOnDay}, as part of more. */
export async function moveDuties(
  actor: Actor,
  dutyIds: readonly string[],
  input: PutOnDay,
  now: Date,
  { tx, today }: Within,
): Promise<PlacedDuty[]> {
  const { on, personId } = input;
  const found = dutyIds.length === 0 ? [] : await placesOf(dutyIds, tx);
  const gone = found.filter((row) => hasMoved(row, input, today));
  if (gone[0] && !input.leaveMoved) throw await movedMeanwhile(gone[0], tx);
  const rows = found.filter((row) => !gone.includes(row));
  if (rows.length === 0) return [];
  if (!input.handedOver) refuseOthers(actor, rows, input, today);
  const stays = rows.find((row) => row.pinned && row.on !== on);
  if (stays && !input.evenPinned)
    throw new Refusal(409, "pinned", `“${stays.title}” is pinned to ${stays.on}. Unpin it there first.`);
  const ids = rows.map((row) => row.dutyId);
  await sql.putOnDay({ dutyIds: ids, on, personId: on === null ? null : personId }, tx);
  await sql.markWearStale({ dutyIds: ids }, tx);
  await voidFigures([...rows, { on, personId }], tx);
  // What was held for a duty on that day is free again when it goes elsewhere.
  const moved = rows
    .filter((row) => row.on !== null && (row.on !== on || row.personId !== personId))
    .map((row) => row.dutyId);
  if (moved.length > 0) await endReservations({ dutyId: moved }, "released", now, tx);
  const before = rows.map((row) => ({ dutyId: row.dutyId, on: row.on, personId: row.personId }));
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
}

/** What a day's plan came to holds no more when its duties change: nothing is told of it until it is planned anew. */
async function voidFigures(places: readonly Place[], tx: Transaction): Promise<void> {
  const days = new Map(
    places.flatMap(({ on, personId }) =>
      on === null || personId === null ? [] : [[`${personId} ${on}`, { personId, onDay: on }] as const],
    ),
  );
  if (days.size === 0) return;
  await getDb().models.Day.update({ figures: null }, { where: { [Op.or]: [...days.values()] }, transaction: tx });
}

/** Puts duties back where they were, all or none, unless somebody has moved one since. */
export async function moveBack(
  actor: Actor,
  duties: readonly PlacedDuty[],
  before: readonly PlacedDuty[],
  now: Date,
): Promise<void> {
  const from = new Map(duties.map((one) => [one.dutyId, one]));
  const { on: today } = await firmDay(now);
  await getDb().transact(async (tx) => {
    for (const { dutyId, on, personId } of before)
      await moveDuties(actor, [dutyId], { on, personId, from }, now, { tx, today });
  });
}

/** Where duties are, their rows locked. */
async function placesOf(dutyIds: readonly string[], tx: Transaction): Promise<DutyRow[]> {
  const rows = await getDb().models.Duty.findAll({
    attributes: ["id", "plannedOn", "plannedFor", "pinned", "title", "active"],
    where: { id: [...dutyIds] },
    order: ["id"],
    lock: tx.LOCK.UPDATE,
    raw: true,
    transaction: tx,
  });
  return rows.map(({ id, plannedOn, plannedFor, pinned, title, active }) => ({
    dutyId: id,
    on: plannedOn,
    personId: plannedFor,
    pinned,
    title,
    active,
  }));
}

/** Somebody has put it elsewhere since it was chosen. A day that has passed holds nothing any more. */
function hasMoved(row: DutyRow, { from, on, personId }: PutOnDay, today: string): boolean {
  if (!row.active && on !== null) return true;
  if (from === undefined || (row.on === on && row.personId === personId)) return false;
  if (from === "nobody") return row.on !== null && row.on >= today;
  const place = "get" in from ? (from.get(row.dutyId) ?? { on: null, personId: null }) : from;
  return row.on !== place.on || row.personId !== place.personId;
}

async function movedMeanwhile(row: DutyRow, tx: Transaction): Promise<Refusal> {
  if (!row.active) return new Refusal(409, "not-in-force", `“${row.title}” is not in force any more.`);
  if (row.on === null) return new Refusal(409, "moved", `“${row.title}” was taken off the day meanwhile.`);
  const person =
    row.personId === null
      ? null
      : await getDb().models.Person.findByPk(row.personId, { attributes: ["name"], raw: true, transaction: tx });
  return new Refusal(
    409,
    "moved",
    `“${row.title}” was put on ${person ? `${person.name}'s day, ` : ""}${row.on} meanwhile. Nothing was moved.`,
  );
}

/** What is on another's day, and what would be put there, is theirs and a lead's business. */
function refuseOthers(actor: Actor, rows: readonly DutyRow[], to: Place, today: string): void {
  if (actor.role === "lead") return;
  const others = (place: Place): boolean =>
    place.on !== null && place.on >= today && place.personId !== null && place.personId !== actor.id;
  if (others(to)) throw new Refusal(403, "not-yours", "This is another person's day. Ask them or a lead.");
  const theirs = rows.find(others);
  if (theirs) throw new Refusal(403, "not-yours", `“${theirs.title}” is on another person's day. Ask them or a lead.`);
}

/** Pins duties to the day they are on, or lets them go again: those that are on the person's day by now. */
export async function pinToDay(
  actor: Actor,
  dutyIds: readonly string[],
  pinned: boolean,
  day: { on: string; personId: string },
  now: Date,
): Promise<void> {
  if (dutyIds.length === 0) throw new Refusal(422, "none", "Choose at least one duty.");
  const db = getDb();
  await db.transact(async (tx) => {
    const rows = await db.models.Duty.findAll({
      attributes: ["id", "plannedOn"],
      where: { id: [...dutyIds], plannedOn: day.on, plannedFor: day.personId, pinned: !pinned },
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
