import {
  addedMinutesAYear,
  BY_CHANCE,
  BY_WEAR,
  daysBetweenServices,
  type FoundAfter,
  poorChance,
  tuneRules,
  usageRate,
} from "@core";
import { type AsFoundRow, type DutyRow, getDb, type IntervalRules, Op, type PoorChances, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import { intervalsOf, sameIntervals } from "~/duties/intervals";
import { lockMachines } from "~/duties/lock-machines.server";
import { recentMeters } from "~/duties/repeats.server";
import { dayInZone } from "~/kit/days/site-day";
import { zoneOf } from "~/kit/server/audit.server";

import * as sql from "./intervals.sql";
import { boundsOf, isTuned, repeating } from "./tuned-duties";

/** Findings of a duty that are looked back on. */
const LOOKED_BACK = 60;
/** Services of a machine from which on they speak for themselves; of fewer, machines of its kind are asked as well. */
const OWN_FROM = 5;
const LIKE_IT = 300;

/**
 * Proposes the interval that a duty's findings ask for; a lead accepts or refuses it. Each finding asks once: what was decided on it
 * stands, and one that came later takes the place of an open proposal. Findings from before its rules were changed by hand count no
 * more.
 */
export async function proposeInterval(
  { id: dutyId, machineId }: Pick<DutyRow, "id" | "machineId">,
  now: Date,
  tx: Transaction,
): Promise<void> {
  const { models } = getDb();
  // Two sheets of one duty take turns; the machine first, as whoever assesses it does.
  await lockMachines([machineId], tx);
  const duty = await models.Duty.findByPk(dutyId, { raw: true, transaction: tx, lock: tx.LOCK.UPDATE });
  if (!duty || !isTuned(duty)) return;
  const [changed] = await sql.rulesChangedAt({ dutyId }, tx);
  const newest = await models.AsFound.findAll({
    where: { dutyId, foundAt: { [Op.gt]: changed?.at ?? new Date(0) } },
    order: [["foundAt", "DESC"]],
    limit: LOOKED_BACK,
    raw: true,
    transaction: tx,
  });
  const found = newest.reverse();
  const last = found[found.length - 1];
  const open = await models.IntervalProposal.findOne({ where: { openDutyId: dutyId }, raw: true, transaction: tx });
  const decided = last
    ? await models.IntervalProposal.findOne({
        attributes: ["id"],
        where: { dutyId, sheetId: last.sheetId, status: ["accepted", "refused"] },
        raw: true,
        transaction: tx,
      })
    : null;
  const tuned =
    last && !decided
      ? tuneRules(
          duty.rules,
          found.map((one) => one.found),
          boundsOf(duty),
        )
      : null;
  const newRules: IntervalRules | null = tuned && { triggers: tuned.triggers };
  if (open) {
    const stands = !newRules && found.some((one) => one.sheetId === open.sheetId && one.found === open.found);
    const same = newRules && open.sheetId === last?.sheetId && sameIntervals(open.newRules, newRules);
    if ((stands || same) && sameIntervals(open.oldRules, duty.rules)) return;
    await models.IntervalProposal.update(
      { status: "replaced", openDutyId: null },
      { where: { id: open.id }, transaction: tx },
    );
  }
  if (!last || !newRules) return;
  const effect = await effectOf(duty, newRules, now, tx);
  await models.IntervalProposal.create(
    {
      id: uuidv7(),
      ...{ sheetId: last.sheetId, dutyId, openDutyId: dutyId, machineId: duty.machineId, siteId: duty.siteId },
      ...{ found: last.found, because: becauseOf(found), oldRules: intervalsOf(duty.rules), newRules, ...effect },
      ...{ madeAt: now, status: "open", decidedAt: null, decidedBy: null, reason: null },
    },
    { transaction: tx },
  );
}

function becauseOf(found: readonly AsFoundRow[]): string {
  const last = found[found.length - 1];
  const row = found.length - 1 - found.findLastIndex((one) => one.found !== "clean");
  const at = last ? last.found : "clean";
  return at === "clean" ? `Found clean ${row} times in a row.` : `Found ${at} at the last service.`;
}

/** What the other interval does: days between services, minutes a year, and how likely the machine is found poor. */
async function effectOf(
  duty: DutyRow,
  newRules: IntervalRules,
  now: Date,
  tx: Transaction,
): Promise<{ oldDays: number; newDays: number; minutesAYear: number; chance: PoorChances | null }> {
  const oldRules = intervalsOf(duty.rules);
  const read = (await recentMeters([duty], now, tx)).get(duty.machineId) ?? {};
  const today = dayInZone(now, await zoneOf(duty.machineId, tx));
  const meters = repeating(duty.rules.triggers).flatMap((one) => (one.kind === "meter" ? [one.meter] : []));
  const rates = Object.fromEntries(meters.map((meter) => [meter, usageRate(read[meter] ?? [], today)]));
  const [oldDays, newDays] = [daysBetweenServices(oldRules, rates), daysBetweenServices(newRules, rates)];
  if (oldDays === null || newDays === null) return { oldDays: 0, newDays: 0, minutesAYear: 0, chance: null };
  return {
    oldDays,
    newDays,
    minutesAYear: addedMinutesAYear(duty.minutes, oldDays, newDays),
    chance: await chancesOf(duty, [oldDays, newDays], tx),
  };
}

async function chancesOf(
  duty: Pick<DutyRow, "id" | "procedureId">,
  [oldDays, newDays]: [number, number],
  tx: Transaction,
): Promise<PoorChances | null> {
  const { models } = getDb();
  const own = servicesOf(
    await models.AsFound.findAll({
      attributes: ["found", "afterDays"],
      where: { dutyId: duty.id, afterDays: { [Op.ne]: null } },
      order: [["foundAt", "DESC"]],
      limit: LOOKED_BACK,
      raw: true,
      transaction: tx,
    }),
  );
  const enough = own.length >= OWN_FROM;
  const seen = enough
    ? own
    : servicesOf(
        await models.AsFound.findAll({
          attributes: ["found", "afterDays"],
          where: { procedureId: duty.procedureId, afterDays: { [Op.ne]: null } },
          order: [["onDay", "DESC"]],
          limit: LIKE_IT,
          raw: true,
          transaction: tx,
        }),
      );
  if (seen.length === 0) return null;
  const between = (days: number): [number, number] => {
    const chances = [BY_CHANCE, BY_WEAR].map((shape) => poorChance(seen, days, shape));
    return [Math.min(...chances), Math.max(...chances)];
  };
  return {
    ...{ n: seen.length, poor: seen.filter((one) => one.poor).length, own: enough },
    ...{ old: between(oldDays), new: between(newDays) },
  };
}

const servicesOf = (rows: readonly Pick<AsFoundRow, "found" | "afterDays">[]): FoundAfter[] =>
  rows.flatMap(({ found, afterDays }) =>
    afterDays === null ? [] : [{ days: afterDays, poor: found === "poor" || found === "failed" }],
  );
