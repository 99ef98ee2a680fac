import { must, type Procedure, wearRules } from "@core";
import { getDb } from "@db";

import { recentMeters } from "~/duties/repeats.server";
import { dayInZone } from "~/kit/days/site-day";
import { namesOfItems } from "~/stores/items/names-of-items.server";

import { type MeasuredSlot, measuredSlots } from "./fit-lines.server";
import { costsFor, Pools } from "./foresee.server";
import { repeatsBy, visitDuties } from "./visit-duties.server";
import { LOOKED_AHEAD, nextVisits, type VisitDuty } from "./visits";
import * as sql from "./wear.sql";
import type { WearOnSheet } from "./wear-now";
import { wearProcedures } from "./wear-procedures.server";

/**
 * What a sheet needs of the wear of the parts that it measures. Its own duty is done with it: the next visit is one after that.
 */
export async function wearOnSheet(
  { machineId, dutyId, procedure }: { machineId: string; dutyId: string; procedure: Procedure },
  now: Date,
): Promise<WearOnSheet[]> {
  const rules = wearRules(procedure);
  if (rules.length === 0) return [];
  const [machine] = await sql.machinesWithZones({ machineIds: [machineId] });
  const { timeZone, criticality, family } = must(machine);
  const today = dayInZone(now, timeZone);
  const duties = await visitDuties([machineId]);
  const procedures = await wearProcedures(duties.map((one) => one.procedureId));
  const meters = (await recentMeters(duties, now)).get(machineId) ?? {};
  const repeats = repeatsBy(today, meters);
  const after = duties.map((duty): VisitDuty => {
    if (duty.id !== dutyId) return duty;
    const next = LOOKED_AHEAD.flatMap((days) => repeats(duty, today, days))[0] ?? null;
    return { ...duty, dueOn: next, plannedOn: null };
  });
  const measured = await measuredSlots([machineId], now);
  const pools = new Pools();
  const items = [...new Set(rules.map((one) => one.item))];
  const costsOf = await costsFor(items, criticality);
  const names = await namesOfItems(items);
  const all: WearOnSheet[] = [];
  for (const rule of rules) {
    const { reading, unit, item, per } = rule;
    const part = procedure.parts.find((one) => one.item === item);
    for (const slot of rule.slots) {
      const known = measured.find(({ of }) => of.slot === slot && of.reading === reading && of.unit === unit);
      const pool = known?.of.pool ?? [item, family, reading, per, unit].join(" ").slice(0, 250);
      all.push({
        ...{ slot, item, reading, unit, worse: rule.worse, limitAt: rule.limit, asOf: today },
        ...(await knownOf(known, machineId, per)),
        visits: nextVisits({ item, slot, reading }, after, procedures, today, repeats).filter((on) => on > today),
        costs: costsOf({ item, slot }, after, procedures),
        itemName: names[item] ?? part?.name ?? item,
        slotName: part?.slots.find(({ id }) => id === slot)?.name ?? slot,
        pool: await pools.of(pool),
      });
    }
  }
  return all;
}

/** What was measured of a slot up to now. */
async function knownOf(
  known: MeasuredSlot | undefined,
  machineId: string,
  per: string,
): Promise<Pick<WearOnSheet, "per" | "values" | "useNow" | "rate" | "face">> {
  if (!known) return { per, values: [], useNow: 0, rate: null, face: null };
  const { of, pieces, use } = known;
  const last = pieces.at(-1);
  const face = of.per === "day" ? null : await lastFace(machineId, of.per);
  return {
    ...{ per: of.per, useNow: of.useNow, rate: of.rate },
    values:
      last?.ended === null ? last.values.map(({ use: at, value, confirmed }) => ({ use: at, value, confirmed })) : [],
    face: face && { value: face.value, use: use.at(face.readAt.getTime()) },
  };
}

function lastFace(machineId: string, meter: string): Promise<{ value: number; readAt: Date } | null> {
  return getDb().models.MeterReading.findOne({
    attributes: ["value", "readAt"],
    where: { machineId, meter },
    order: [["readAt", "DESC"]],
    raw: true,
  });
}
