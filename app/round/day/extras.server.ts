import { addDays } from "@core";
import { getDb, Op } from "@db";

import { containedDuties } from "~/duties/contained-duties";
import { isRepair } from "~/duties/general-procedures";
import { heldAmong } from "~/duties/holds.server";
import { type Actor, whyNotWork } from "~/kit/actor";
import { firmDay } from "~/kit/days/firm-day.server";
import { search } from "~/kit/server/aside.server";

import { firmChance } from "../chance.server";
import { notBefore } from "./day.server";
import { buildDay } from "./day-problem.server";
import { eventsOf, findDay } from "./day-row.server";
import { spreadsOf } from "./spreads";

/** What comes due within so many days after is looked at, and so much of it. */
const AHEAD_DAYS = 28;
const MOST_LOOKED_AT = 40;
const MOST_TOLD = 8;

export interface Extra {
  dutyId: string;
  title: string;
  machineName: string;
  dueOn: string;
  /** By how much later one is back with it. */
  minutes: number;
  endAt: number;
  holds: number;
}

/**
 * What comes due before long on machines that a person is at on a day anyway, and that the day has room for: the fewest minutes
 * first. None while the day is not planned.
 */
export async function extrasOf(person: Actor, on: string, now: Date): Promise<Extra[]> {
  const clock = await firmDay(now);
  const day = await findDay(person.id, on);
  if (!day?.plan || !day.figures || day.status === "ended" || on < clock.on) return [];
  const { models } = getDb();
  const attributes = ["id", "machineId", "procedureId", "title", "rules", "who", "authorisation", "dueOn"] as const;
  const mine = await models.Duty.findAll({
    attributes: [...attributes],
    where: { plannedFor: person.id, plannedOn: on, active: true },
    raw: true,
  });
  if (mine.length === 0) return [];
  const machines = [...new Set(mine.map((duty) => duty.machineId))];
  const near = await models.Duty.findAll({
    attributes: [...attributes],
    where: {
      machineId: machines,
      active: true,
      who: { [Op.ne]: "operator" },
      dueOn: { [Op.lte]: addDays(on, AHEAD_DAYS) },
      // What was planned for a day that has passed is open again.
      plannedOn: { [Op.or]: [null, { [Op.lt]: clock.on }] },
    },
    order: ["dueOn", "id"],
    limit: MOST_LOOKED_AT,
    raw: true,
  });
  const held = await heldAmong(machines);
  const rows = [...mine, ...near].map((duty) => ({ ...duty, dutyId: duty.id }));
  const contained = containedDuties(rows);
  // What one duty contains is done with it; one that contains what is on the day is another day's matter.
  const contains = ({ rules, machineId }: (typeof rows)[number]): boolean =>
    (rules.covers ?? []).some((id) =>
      mine.some((own) => own.id === id || (own.machineId === machineId && own.procedureId === id)),
    );
  const candidates = rows.filter(
    (duty) =>
      near.some((one) => one.id === duty.id) &&
      !contained.has(duty.id) &&
      !contains(duty) &&
      (!held.has(duty.machineId) || isRepair(duty.procedureId)) &&
      whyNotWork(person, duty, on) === null,
  );
  if (candidates.length === 0) return [];
  const live = day.status === "started" && on === clock.on ? now : null;
  const { problem, duties } = await buildDay(
    notBefore(day, clock, now),
    await eventsOf(day.id),
    live,
    candidates.map((duty) => duty.id),
  );
  const own = mine.map((duty) => duty.id);
  const how = { chance: await firmChance(), spread: spreadsOf(duties) };
  const extras = await search("dayExtras", problem, own, day.plan, how);
  return extras.slice(0, MOST_TOLD).flatMap(({ job, minutes, endAt, holds }) => {
    const duty = duties.find((one) => one.dutyId === job);
    return duty?.dueOn
      ? [{ dutyId: job, title: duty.title, machineName: duty.machineName, dueOn: duty.dueOn, minutes, endAt, holds }]
      : [];
  });
}
