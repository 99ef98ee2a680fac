import { lifeOf, type LifeSaid, pieceAges } from "@core";
import { getDb, type MachineRow } from "@db";

import { grouped } from "~/kit/grouped";
import { namesOfItems } from "~/stores/items/names-of-items.server";

import { costsFor } from "./foresee.server";
import { visitDuties } from "./visit-duties.server";
import * as sql from "./wear.sql";
import { wearProcedures } from "./wear-procedures.server";

const DAY_MS = 86_400_000;

/** A part that nothing measures, by how long its like has lasted. */
export interface AgedPart {
  item: string;
  itemName: string;
  /** Where it is on the machine, and how old. */
  places: { slot: string; slotName: string; days: number }[];
  life: LifeSaid | null;
  /** Of the family: ended by wear or failure, and all others. */
  failures: number;
  others: number;
}

/** Parts of a machine of which nothing is read: their ages, and what like pieces in the family have come to. */
export async function agedParts(
  { id: machineId, family, criticality }: Pick<MachineRow, "id" | "family" | "criticality">,
  measured: ReadonlySet<string>,
  now: Date,
): Promise<AgedPart[]> {
  const { models } = getDb();
  const slots = (await models.MachineSlot.findAll({ where: { machineId }, order: ["slot"], raw: true })).filter(
    (one) => !measured.has(one.slot),
  );
  if (slots.length === 0) return [];
  const items = [...new Set(slots.map((one) => one.item))];
  const duties = await visitDuties([machineId]);
  const procedures = await wearProcedures(duties.map((one) => one.procedureId));
  const parts = [...procedures.values()].flatMap((one) => one.parts);
  const costsOf = await costsFor(items, criticality);
  const fitted = (await sql.fitsOfFamily({ family, items })).map(({ fittedAt, retiredOn, ...one }) => ({
    ...one,
    at: fittedAt.getTime(),
    retiredAt: retiredOn === null ? null : Date.parse(retiredOn),
  }));
  const fits = grouped(fitted, (one) => one.item);
  const names = await namesOfItems(items);
  return [...grouped(slots, (one) => one.item)].map(([item, own]) => {
    const ages = pieceAges(fits.get(item) ?? [], now.getTime());
    const part = parts.find((one) => one.item === item);
    const costs = costsOf({ item, slot: own[0]?.slot ?? "" }, duties, procedures);
    return {
      item,
      itemName: names[item] ?? part?.name ?? item,
      places: own.map(({ slot, changedAt }) => ({
        slot,
        slotName: part?.slots.find(({ id }) => id === slot)?.name ?? slot.replaceAll("-", " "),
        days: Math.floor((now.getTime() - changedAt.getTime()) / DAY_MS),
      })),
      life: lifeOf(ages, { planned: costs.planned, failure: costs.failure + costs.visit }),
      failures: ages.failures.length,
      others: ages.suspensions.length,
    };
  });
}
