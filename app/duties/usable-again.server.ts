import { addDays, inWords, must, usableAgain } from "@core";
import { getDb } from "@db";

import { dayInWords, minuteOfDay } from "~/kit/days/day-time";
import { dayInZone } from "~/kit/days/site-day";

import { creditedTo } from "./credited-to";
import { coveringOf } from "./machine-facts.server";
import * as sql from "./usable-again.sql";

/** Further back nothing keeps a machine from use. */
const DAYS_BACK = 60;

/** Why a machine is not to be used yet, a sentence each: what was done lately says so (`DutyRules.notUntil`). */
export async function notUsableYet(machineId: string, timeZone: string, now: Date): Promise<string[]> {
  const duties = await getDb().models.Duty.findAll({
    attributes: ["id", "procedureId", "title", "rules"],
    where: { machineId, active: true },
    raw: true,
  });
  if (duties.every((duty) => !duty.rules.notUntil)) return [];
  const since = addDays(dayInZone(now, timeZone), -DAYS_BACK);
  const ended = await sql.endedWork({ machineId, since });
  const counts = creditedTo(coveringOf(duties));
  // Without a sheet nobody knows when on that day: after all of it.
  const instant = ({ closedAt, doneOn }: sql.EndedWork): string =>
    closedAt?.toISOString() ?? `${addDays(doneOn, 1)}T00:00:00Z`;
  const doneFor = (dutyId: string): string[] =>
    ended
      .filter((work) => counts(work).includes(dutyId))
      .map(instant)
      .sort();
  return duties.flatMap(({ id, title, rules }) => {
    const last = doneFor(id).at(-1);
    if (!rules.notUntil || last === undefined) return [];
    const { done } = rules.notUntil;
    const other = done === undefined ? undefined : duties.find((one) => one.id === done || one.procedureId === done);
    const { from, waitsFor } = usableAgain(rules.notUntil, last, other ? doneFor(other.id) : []);
    const because = `“${title}” was done on ${dayInWords(dayInZone(new Date(last), timeZone))}.`;
    if (waitsFor !== null) return [`Not before “${other?.title ?? inWords(waitsFor)}” is done: ${because}`];
    if (new Date(must(from)) <= now) return [];
    return [`Not before ${inZone(new Date(must(from)), timeZone)}: ${because}`];
  });
}

/** `Monday 30 November, 07:30` */
function inZone(instant: Date, timeZone: string): string {
  const minute = minuteOfDay(instant, timeZone);
  const clock = [Math.floor(minute / 60), minute % 60].map((part) => String(part).padStart(2, "0")).join(":");
  return `${dayInWords(dayInZone(instant, timeZone))}, ${clock}`;
}
