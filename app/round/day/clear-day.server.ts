import { getDb } from "@db";

import type { Actor } from "~/kit/actor";

import { type Moved, putOnDay } from "./put-on-day.server";

/** Takes off a day everything that is neither pinned to it nor begun, so that it can be chosen anew. */
export async function clearDay(actor: Actor, personId: string, on: string, now: Date): Promise<Moved> {
  const db = getDb();
  const there = await db.models.Duty.findAll({
    attributes: ["id"],
    where: { plannedFor: personId, plannedOn: on, pinned: false, active: true },
    limit: 200,
    raw: true,
  });
  if (there.length === 0) return { before: [], duties: [] };
  const ids = there.map((one) => one.id);
  const begun = await db.models.Sheet.findAll({
    attributes: ["dutyId"],
    where: { dutyId: ids, status: "open" },
    raw: true,
  });
  const free = ids.filter((id) => !begun.some((sheet) => sheet.dutyId === id));
  if (free.length === 0) return { before: [], duties: [] };
  const before = await putOnDay(actor, free, { on: null, personId: null, from: { on, personId } }, now);
  return { before, duties: before.map(({ dutyId }) => ({ dutyId, on: null, personId: null })) };
}
