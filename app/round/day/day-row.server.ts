import { must } from "@core";
import { type DayEventRow, type DayRow, getDb, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import { minutesOf } from "~/kit/days/day-time";
import { Refusal } from "~/kit/refusal";

import * as sql from "./day.sql";
import { standing } from "./day-events";

export async function findDay(personId: string, on: string, tx?: Transaction, lock = false): Promise<DayRow | null> {
  const [row] = await sql.lockDay({ personId, on }, lock, tx);
  if (row && lock && tx) await getDb().takeTurns([`days ${row.id}`], tx);
  return row ?? null;
}

export function freshDay(personId: string, on: string, person: { dayFrom: string; dayTo: string }): DayRow {
  return {
    id: "",
    personId,
    onDay: on,
    status: "open",
    startMinute: minutesOf(person.dayFrom),
    endMinute: minutesOf(person.dayTo),
    technicians: 1,
    fixedOrder: null,
    problem: null,
    plan: null,
    risk: null,
    figures: null,
    plannedAt: null,
    sequence: 0,
  };
}

/** The day's row, made when there is none; locked, so that two changes of one day come one after the other. */
export async function lockedDay(personId: string, on: string, tx: Transaction): Promise<DayRow> {
  const db = getDb();
  const found = await findDay(personId, on, tx, true);
  if (found) return found;
  const [person] = await db.models.Person.findAll({
    attributes: ["dayFrom", "dayTo"],
    where: { id: personId },
    raw: true,
    transaction: tx,
  });
  if (!person) throw new Refusal(404, "no-such-person", "This person does not exist.");
  const fresh = freshDay(personId, on, person);
  await sql.beginDay({ id: uuidv7(), personId, on, startMinute: fresh.startMinute, endMinute: fresh.endMinute }, tx);
  return must(await findDay(personId, on, tx, true));
}

/** What happened on a day and was not taken back, in its order. */
export async function eventsOf(dayId: string, tx?: Transaction): Promise<DayEventRow[]> {
  if (!dayId) return [];
  return standing(
    await getDb().models.DayEvent.findAll({ where: { dayId }, order: ["seq"], raw: true, transaction: tx }),
  );
}

export async function addDayEvent(entry: Omit<DayEventRow, "seq" | "id">, tx: Transaction): Promise<void> {
  await getDb().models.DayEvent.create({ id: uuidv7(), ...entry }, { transaction: tx });
}
