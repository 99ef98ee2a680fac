import { addDays } from "@core";
import { getDb, Op } from "@db";

import { openHolds } from "~/duties/holds.server";
import { minuteOfDay, shortDay } from "~/kit/days/day-time";
import { firmDay } from "~/kit/days/firm-day.server";
import { dayInZone } from "~/kit/days/site-day";
import { queueMessage } from "~/kit/messages/messages.server";

import { type Digest, digestText, isEmpty } from "./digest-text";
import * as sql from "./firm-today.sql";

/** Minute of the firm's day from which it goes out. */
const FROM_MINUTE = 6 * 60;
const MOST = 200;

/** What nobody has taken up: overdue, hard stop by tomorrow, unsafe, majors without a day. */
export async function digestOf(now: Date): Promise<Digest> {
  const { on: today, timeZone } = await firmDay(now);
  const [overdue, hardStops, holds, items] = await Promise.all([
    sql.overdueWithoutDay({ today, fetch: MOST }),
    sql.hardStopsBy({ today, by: addDays(today, 1), fetch: MOST }),
    openHolds(MOST),
    sql.itemsWithoutDay({ today, fetch: MOST }),
  ]);
  const duty = (one: sql.WaitingDuty, when: string): Digest["overdue"][number] => ({
    what: `${one.machineName}: ${one.title}`,
    where: one.siteName,
    when: `${when} ${shortDay(one.dueOn, today)}`,
  });
  return {
    overdue: overdue.map((one) => duty(one, "due")),
    hardStops: hardStops.map((one) => duty(one, "stops")),
    unsafe: holds.map((one) => ({
      what: `${one.machineName}: ${one.reason}`,
      where: one.siteName,
      when: `since ${shortDay(dayInZone(one.since, timeZone), today)}`,
    })),
    majors: items
      .filter((one) => one.severity === "major")
      .map((one) => ({
        what: `${one.machineName}: ${one.title}`,
        where: one.siteName,
        when: `wanted by ${shortDay(one.wantedBy, today)}`,
      })),
  };
}

/**
 * Keeps the day's digest for every lead who has an address, once a day however many processes ask; nothing when all is taken
 * up, and nothing before the morning.
 *
 * @returns messages that are new
 */
export async function sendDigests(now: Date): Promise<number> {
  const { on, timeZone } = await firmDay(now);
  if (minuteOfDay(now, timeZone) < FROM_MINUTE) return 0;
  const db = getDb();
  const leads = await db.models.Person.findAll({
    attributes: ["id", "name", "email"],
    where: { role: "lead", active: true, email: { [Op.ne]: "" } },
    order: ["id"],
    raw: true,
  });
  if (leads.length === 0) return 0;
  const keys = leads.map((lead) => keyOf(on, lead.id));
  const kept = await db.models.Message.findAll({ attributes: ["onceKey"], where: { onceKey: keys }, raw: true });
  const missing = leads.filter((lead) => !kept.some((one) => one.onceKey === keyOf(on, lead.id)));
  if (missing.length === 0) return 0;
  const digest = await digestOf(now);
  if (isEmpty(digest)) return 0;
  let made = 0;
  for (const { id, name, email } of missing)
    await db.transact(async (tx) => {
      const message = await queueMessage(
        {
          kind: "digest",
          onceKey: keyOf(on, id),
          to: { name, address: email },
          subject: `What nobody has taken up, ${shortDay(on, on)}`,
          body: digestText(digest, name, process.env.PUBLIC_URL ? `${process.env.PUBLIC_URL}/round` : ""),
          onDay: on,
          by: null,
        },
        now,
        tx,
      );
      if (message !== null) made++;
    });
  return made;
}

const keyOf = (on: string, person: string): string => `digest ${on} ${person}`;
