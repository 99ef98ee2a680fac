import { addDays, daysBetween, lineChance, must, type Procedure, useOn } from "@core";
import { getDb, Op, type StoredLine, type WearLineRow } from "@db";

import { grouped } from "~/kit/grouped";

/** A piece of which it is known when it will be worn. */
type WornSlot = Pick<
  WearLineRow,
  "slot" | "limitAt" | "useNow" | "rate" | "asOf" | "crossesOn" | "nextOn" | "secondOn" | "lastValue" | "unit"
> & { line: StoredLine };

/** What of one item is worn on a machine. */
export interface WornPart {
  machineId: string;
  item: string;
  slots: WornSlot[];
}

const ATTRIBUTES = [
  "machineId",
  "item",
  "slot",
  "limitAt",
  "useNow",
  "rate",
  "asOf",
  "crossesOn",
  "nextOn",
  "secondOn",
  "lastValue",
  "unit",
  "line",
] as const;

/** Values of a piece from which on it was followed as it wore. */
const FOLLOWED = 3;

const keyOf = (machineId: string, item: string): string => `${machineId} ${item}`;

export interface WornParts {
  find: (machineId: string, item: string) => WornPart | null;
  all: WornPart[];
  /** It is foreseen, or was followed until a new one went in: how often others were renewed says nothing then. */
  isMeasured: (machineId: string, item: string) => boolean;
}

/** Parts whose wear is measured and foreseen, by machine and item. */
export async function wornParts(of: {
  machineIds?: readonly string[];
  itemIds?: readonly string[] | undefined;
}): Promise<WornParts> {
  const where = {
    ...(of.machineIds ? { machineId: [...of.machineIds] } : {}),
    ...(of.itemIds ? { item: [...of.itemIds] } : {}),
  };
  const { WearLine } = getDb().models;
  const rows = await WearLine.findAll({ attributes: [...ATTRIBUTES], where: { ...where, current: true }, raw: true });
  const ended = await WearLine.findAll({
    attributes: ["machineId", "item"],
    where: { ...where, current: false, n: { [Op.gte]: FOLLOWED } },
    raw: true,
  });
  const inUse = new Set(rows.map((row) => keyOf(row.machineId, row.item)));
  const measured = new Set([
    ...rows.filter((row) => row.line !== null).map((row) => keyOf(row.machineId, row.item)),
    ...ended.map((row) => keyOf(row.machineId, row.item)).filter((key) => !inUse.has(key)),
  ]);
  const known = rows.flatMap((row) => (row.line && row.limitAt !== null ? [{ ...row, line: row.line }] : []));
  const parts = new Map(
    [...grouped(known, (row) => keyOf(row.machineId, row.item))].map(([key, slots]) => {
      const { machineId, item } = must(slots[0]);
      return [key, { machineId, item, slots }];
    }),
  );
  return {
    find: (machineId, item) => parts.get(keyOf(machineId, item)) ?? null,
    all: [...parts.values()],
    isMeasured: (machineId, item) => measured.has(keyOf(machineId, item)),
  };
}

/** The chance that a piece is past its limit on a day. */
const chanceOn = ({ line, limitAt, ...use }: WornSlot, on: string): number =>
  lineChance(line, must(limitAt), useOn(use, on));

/** When somebody comes again after a day: as far on as the visit after the next is from the next. */
function visitAfter({ nextOn, secondOn }: WornSlot, on: string): string {
  if (secondOn !== null && secondOn > on) return secondOn;
  const apart = nextOn === null || secondOn === null ? 30 : Math.max(1, daysBetween(nextOn, secondOn));
  return addDays(on, apart);
}

/** Pieces with the chance that they are renewed, and the slot that decides it. */
export interface WornNeed {
  qty: number;
  chance: number;
  slot: WornSlot;
}

/** One need where all places are renewed together, else one a place. */
function needsOf(
  part: WornPart,
  places: Procedure["parts"][number] | undefined,
  chance: (slot: WornSlot) => number,
): WornNeed[] {
  const each = part.slots.map((slot) => ({ qty: 1, chance: chance(slot), slot }));
  if (places?.pair !== true) return each;
  // They wear by the same use: the worst of them decides.
  const worst = each.reduce((a, b) => (b.chance > a.chance ? b : a), must(each[0]));
  return [{ ...worst, qty: places.slots.length }];
}

/** What a visit on a day will want: the chance that it would be past its limit before somebody comes again. */
export const wantedOn = (part: WornPart, places: Procedure["parts"][number] | undefined, on: string): WornNeed[] =>
  needsOf(part, places, (slot) => chanceOn(slot, visitAfter(slot, on)));

/** What will have been wanted by a day. */
export const wantedBy = (part: WornPart, places: Procedure["parts"][number] | undefined, until: string): WornNeed[] =>
  needsOf(part, places, (slot) => chanceOn(slot, until));
