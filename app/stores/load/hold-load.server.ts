import { addDays } from "@core";
import { getDb, Op } from "@db";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { isStanding } from "~/procedures/item-keys";
import { endReservations } from "~/stores/ledger/end-reservations.server";
import { exactQty } from "~/stores/ledger/exact-qty";
import { moveStock, reserve } from "~/stores/ledger/stock.server";

import { loadView, LOOKED_AT_DAYS } from "./load.server";
import * as sql from "./load.sql";

/**
 * Holds everything sure that lies in reach back for the day, so that nobody else takes it; what was held before is held anew.
 *
 * @returns things held, and those that somebody else got first
 */
export async function holdForDay(
  actor: Actor,
  personId: string,
  on: string,
  now: Date,
): Promise<{ held: number; gone: number }> {
  await giveBack(actor, personId, on, now);
  let [heldNow, gone] = [0, 0];
  for (const line of (await loadView(personId, on, now)).lines) {
    if (line.chance < 1 || line.carried) continue;
    for (const { placeId, qty: needed } of line.from) {
      const held = line.heldForItems.find((one) => one.placeId === placeId)?.qty ?? 0;
      const qty = exactQty(needed - held);
      if (qty <= 0) continue;
      try {
        await reserve(actor, { itemId: line.item.id, placeId, qty, personId, on, dutyId: line.duties[0] ?? null }, now);
        heldNow++;
      } catch (error) {
        if (!(error instanceof Refusal) || error.status !== 409) throw error;
        gone++;
      }
    }
  }
  return { held: heldNow, gone };
}

/** Moves something into the van for a day; what is held for the day is held there from then on. */
export async function fetchForDay(
  actor: Actor,
  personId: string,
  on: string,
  input: { itemId: string; from: string; to: string; qty: number },
  now: Date,
): Promise<void> {
  const [held] = await getDb().models.Reservation.findAll({
    attributes: ["id"],
    where: { personId, onDay: on, endedAt: null },
    limit: 1,
    raw: true,
  });
  if (held) await giveBack(actor, personId, on, now);
  try {
    const machines = await sql.dutiesOfDay({ personId, on });
    const machineIds = [...new Set(machines.map((one) => one.machineId))];
    await moveStock(actor, { ...input, note: `for ${on}`, machineIds }, now);
  } finally {
    if (held) await holdForDay(actor, personId, on, now);
  }
}

/** Lets go of everything that is held for a person's day. */
export async function giveBack(actor: Actor, personId: string, on: string, now: Date): Promise<void> {
  if (personId !== actor.id && actor.role !== "lead")
    throw new Refusal(403, "not-yours", "This is another person's day. Ask them or a lead.");
  await getDb().transact((tx) => endReservations({ personId, onDay: on }, "released", now, tx));
}

export interface LoadProgress {
  /** Sure lines, those ticked, those of which something is missing. */
  lines: number;
  ticked: number;
  short: number;
  /** Parts that its duties may turn out to need, as the load list has them. */
  likely: { name: string; duties: string[]; chance: number }[];
}

/** How far loading for a day has come. */
export async function loadProgress(personId: string, on: string, now: Date): Promise<LoadProgress> {
  const { lines: all } = await loadView(personId, on, now);
  const lines = all.filter((line) => line.chance === 1);
  return {
    lines: lines.length,
    ticked: lines.filter((line) => line.ticked).length,
    short: lines.filter((line) => line.short > 0).length,
    likely: all.flatMap(({ item, duties, chance }) => (chance < 1 ? [{ name: item.name, duties, chance }] : [])),
  };
}

/**
 * Ticks lines of a load list, or takes their ticks away. What stays in the van was looked at on the day of its tick, and counts
 * as looked at for a week: untick it, and it was not.
 */
export async function tickLoad(
  actor: Actor,
  { personId, on, lines, ticked }: { personId: string; on: string; lines: readonly string[]; ticked: boolean },
  now: Date,
): Promise<void> {
  if (personId !== actor.id && actor.role !== "lead")
    throw new Refusal(403, "not-yours", "This is another person's day. Ask them or a lead.");
  const keys = lines.map((line) => line.slice(0, 120));
  await getDb().transact(async (tx) => {
    if (!ticked) {
      const span = { [Op.between]: [addDays(on, 1 - LOOKED_AT_DAYS), on] } as const;
      const standing = keys.filter(isStanding);
      const days = keys.filter((key) => !isStanding(key));
      await getDb().models.LoadTick.destroy({ where: { personId, onDay: on, line: days }, transaction: tx });
      await getDb().models.LoadTick.destroy({ where: { personId, onDay: span, line: standing }, transaction: tx });
    } else for (const line of keys) await sql.keepTick({ personId, on, line, by: actor.id, now }, tx);
  });
}
