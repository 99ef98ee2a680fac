import { getDb } from "@db";

import { callOut } from "~/duties/emergency.server";
import type { Actor } from "~/kit/actor";
import { firmDay } from "~/kit/days/firm-day.server";
import { Refusal } from "~/kit/refusal";

import { lastToTakeBack, whereOne } from "./day-events";
import { addDayEvent, eventsOf, lockedDay } from "./day-row.server";
import { NEXT } from "./day-steps";
import { ownDay } from "./own-day";
import { moveDuties, type PutOnDay, type Within } from "./put-on-day.server";
import { stillOpen } from "./still-open.server";
import { stillOpenWords } from "./still-open-words";

/** Logs what happens on the day. A site that is skipped gives its duties back, with the reason kept. */
export async function logDay(
  actor: Actor,
  input: {
    personId: string;
    on: string;
    type: keyof typeof NEXT;
    siteId: string | null;
    reason?: string;
    /** Of a break: how long it is, and whether it is over already. */
    rest?: { minutes: number; over: boolean };
    /** Leaves although something is still open at the site. */
    sure?: boolean;
  },
  now: Date,
): Promise<void> {
  const { personId, on, type } = input;
  ownDay(personId)(actor);
  const { on: today } = await firmDay(now);
  if (type === "started" && on !== today) throw new Refusal(409, "other-day", "Only today can be started.");
  if (type === "skipped" && !input.reason?.trim())
    throw new Refusal(422, "reason", "Say why the site is left out today.");
  if (type === "left" && input.siteId !== null && !input.sure) {
    const open = await stillOpen(personId, input.siteId);
    if (open.length > 0) throw new Refusal(409, "still-open", stillOpenWords(open));
  }
  await getDb().transact(async (tx) => {
    const day = await lockedDay(personId, on, tx);
    const events = await eventsOf(day.id, tx);
    const refusal = NEXT[type](day, events, input.siteId);
    if (refusal) throw new Refusal(409, "not-now", refusal);
    await addDayEvent(
      {
        dayId: day.id,
        byPerson: actor.id,
        type,
        // Where one has a break is where one is.
        siteId: type === "rested" ? whereOne(events) : input.siteId,
        body: input.reason ? { reason: input.reason.trim().slice(0, 500) } : (input.rest ?? {}),
        at: now,
      },
      tx,
    );
    if (type === "started" || type === "ended")
      await getDb().models.Day.update({ status: type }, { where: { id: day.id }, transaction: tx });
    if (type === "skipped") {
      const off = { on: null, personId: null, evenPinned: true };
      await passOn(actor, { personId, on, siteId: input.siteId ?? "" }, off, now, { tx, today });
    }
  });
}

/**
 * Takes the day's last step back: a tap on the wrong site, or too early. What was logged stays readable beside it.
 *
 * @param eventId what the person saw as the last step
 */
export async function takeBack(
  actor: Actor,
  input: { personId: string; on: string; eventId: string },
  now: Date,
): Promise<void> {
  const { personId, on } = input;
  ownDay(personId)(actor);
  const { on: today } = await firmDay(now);
  if (on !== today) throw new Refusal(409, "other-day", "Only today's steps can be taken back.");
  await getDb().transact(async (tx) => {
    const day = await lockedDay(personId, on, tx);
    const last = lastToTakeBack(await eventsOf(day.id, tx));
    if (last?.id !== input.eventId)
      throw new Refusal(409, "not-now", "Something else has happened on this day since. Look at it again.");
    await addDayEvent(
      { dayId: day.id, byPerson: actor.id, type: "undone", siteId: last.siteId, body: { ref: last.id }, at: now },
      tx,
    );
    const before = { started: "open", ended: "started" } as const;
    if (last.type === "started" || last.type === "ended")
      await getDb().models.Day.update({ status: before[last.type] }, { where: { id: day.id }, transaction: tx });
  });
}

/** Hands what is left of a day to a colleague. */
export async function handOver(
  actor: Actor,
  personId: string,
  on: string,
  colleagueId: string,
  now: Date,
): Promise<number> {
  ownDay(personId)(actor);
  const db = getDb();
  if (colleagueId === personId) throw new Refusal(422, "to", "Choose somebody else.");
  const [colleague] = await db.models.Person.findAll({
    attributes: ["id"],
    where: { id: colleagueId, active: true },
    raw: true,
  });
  if (!colleague) throw new Refusal(422, "to", "This colleague does not exist or is not active any more.");
  const { on: today } = await firmDay(now);
  return db.transact(async (tx) => {
    const day = await lockedDay(personId, on, tx);
    const to = { on, personId: colleagueId, handedOver: true };
    const handed = await passOn(actor, { personId, on }, to, now, { tx, today });
    await addDayEvent(
      { dayId: day.id, byPerson: actor.id, type: "handed-over", siteId: null, body: { to: colleagueId }, at: now },
      tx,
    );
    if (day.status === "started")
      await db.models.Day.update({ status: "ended" }, { where: { id: day.id }, transaction: tx });
    return handed;
  });
}

/** Moves what is on a person's day by now, or on it at one site; how many. */
async function passOn(
  actor: Actor,
  { personId, on, siteId }: { personId: string; on: string; siteId?: string },
  to: Omit<PutOnDay, "from" | "leaveMoved">,
  now: Date,
  within: Within,
): Promise<number> {
  const rows = await getDb().models.Duty.findAll({
    attributes: ["id"],
    where: { plannedFor: personId, plannedOn: on, ...(siteId === undefined ? {} : { siteId }) },
    order: ["id"],
    raw: true,
    transaction: within.tx,
  });
  const ids = rows.map((row) => row.id);
  const moved = await moveDuties(actor, ids, { ...to, from: { on, personId }, leaveMoved: true }, now, within);
  return moved.length;
}

/** An emergency on the day: due today and never again, put on the day at once. */
export async function addEmergency(
  actor: Actor,
  personId: string,
  on: string,
  input: { tag: string; title: string; minutes: number },
  now: Date,
): Promise<string> {
  const db = getDb();
  const machine = await db.models.Machine.findOne({ where: { tag: input.tag }, raw: true });
  if (!machine) throw new Refusal(422, "tag", `There is no machine with the tag ${input.tag}.`);
  const { on: today } = await firmDay(now);
  return db.transact(async (tx) => {
    const dutyId = await callOut(actor, machine.id, input, now, tx);
    await moveDuties(actor, [dutyId], { on, personId }, now, { tx, today });
    return dutyId;
  });
}
