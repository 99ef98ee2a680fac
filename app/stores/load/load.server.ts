import {
  addDays,
  jugMl,
  type LikelyNeed,
  type LoadLine,
  loadList,
  type LoadNeed,
  type MachineFacts,
  must,
  type Procedure,
  recipeAmounts,
  usualSteps,
} from "@core";
import { type DutyRules, getDb, Op } from "@db";

import { containedDuties } from "~/duties/contained-duties";
import { firmDay } from "~/kit/days/firm-day.server";
import { quantity } from "~/kit/forms/quantity";
import { protectionKey, toolKey } from "~/procedures/item-keys";
import { proceduresOf } from "~/procedures/procedures.server";
import { type FailureFigures, failureFigures } from "~/stores/costs/failure-figures.server";
import { asItem, type Item } from "~/stores/items/catalogue.server";
import { LEAST_LIKELY, type LikelyUse, MOST_LIKELY, type PastUse, pastUse, takesOf } from "~/stores/items/needs.server";
import { wantedOn, type WornPart, type WornParts, wornParts } from "~/stores/items/worn-parts.server";
import { exactQty } from "~/stores/ledger/exact-qty";
import { listPlaces, type Place } from "~/stores/ledger/places.server";

import { carryOf, type CarryView, levelWords } from "./carry-view";
import * as sql from "./load.sql";
import { pieces, piecesOf } from "./pieces";
import { takeFromShelves } from "./take-from-shelves";

/** What stays in the van is looked at once in so many days. */
export const LOOKED_AT_DAYS = 7;

export interface LoadDuty {
  dutyId: string;
  title: string;
  machineName: string;
  siteName: string;
}

export interface LoadViewLine {
  /** What is ticked. */
  key: string;
  item: Pick<Item, "id" | "name" | "kind" | "unit" | "hazards" | "storage" | "usesPerPiece" | "scanCode">;
  qty: number;
  /** Renewed in pairs: two of it belong together. */
  pair: boolean;
  /** Plan ids of the duties that need it. */
  duties: string[];
  from: { placeId: string; qty: number }[];
  /** What of it is held there for the machines' open items already. */
  heldForItems: { placeId: string; qty: number }[];
  short: number;
  /** 1 = sure. */
  chance: number;
  /** In words, for likely ones: what they are expected from. */
  past: string[];
  /** How many of it are enough, and what comes of it; of sure ones null. */
  carry: CarryView | null;
  /** Nobody keeps books on it: tools and protection that are simply carried. */
  carried: boolean;
  ticked: boolean;
  /** Of what stays in the van: when it was looked at last, within a week. */
  lookedAt: string | null;
  /** Other items that would do, where there is enough of them in reach. */
  instead: { id: string; name: string; placeId: string; have: number }[];
}

export interface LoadView {
  lines: LoadViewLine[];
  /** What waits on the customers' own shelves and need not be taken along. */
  onSite: { itemName: string; unit: string; qty: number; siteName: string }[];
  solutions: { title: string; machineName: string; finalMl: number; parts: { name: string; ml: number }[] }[];
  duties: LoadDuty[];
  places: Place[];
  /** The van that is loaded; null when the person has none. */
  van: string | null;
  /** Quantities held back for the day. */
  held: number;
}

export interface DutySql extends LoadDuty {
  procedureId: string;
  machineId: string;
  siteId: string;
  rules: DutyRules;
  options: string[];
}

/**
 * What a person's day needs, item by item: sure needs added up, likely parts apart with how often they were needed, where each
 * lies (own van first, then the depot, then colleagues' vans), and what is missing.
 */
export async function loadView(personId: string, on: string, now: Date): Promise<LoadView> {
  const db = getDb();
  const rows = await sql.dutiesOfDay({ personId, on });
  const places = await listPlaces();
  const van = places.find((place) => place.kind === "van" && place.personId === personId)?.id ?? null;
  const contained = containedDuties(rows);
  const duties = rows.filter((row) => !contained.has(row.dutyId));
  const held = await db.models.Reservation.count({ where: { personId, onDay: on, endedAt: null } });
  const base = {
    duties: duties.map(({ dutyId, title, machineName, siteName }) => ({ dutyId, title, machineName, siteName })),
    places,
    van,
    held,
  };
  if (duties.length === 0) return { ...base, lines: [], onSite: [], solutions: [] };

  const procedureIds = [...new Set(duties.map((one) => one.procedureId))];
  const procedures = await proceduresOf(procedureIds);
  const past = await pastUse(procedureIds, (await firmDay(now)).on);
  const slots = await slotsByMachine(duties.map((one) => one.machineId));
  const worn = await wornParts({ machineIds: duties.map((one) => one.machineId) });
  const { needs, likely, solutions } = collectNeeds(duties, { procedures, past, slots, worn, on });
  const figures = await failureFigures();
  needs.push(...(await needsOfItems(duties, needs, { personId, on })));
  const pairs = new Set(
    [...procedures.values()].flatMap((one) => one.parts.flatMap((part) => (part.pair ? [part.item] : []))),
  );
  const ids = [...new Set([...needs, ...likely].map((one) => one.item))];
  const items = await itemsBy(ids);
  const machineIds = [...new Set(duties.map((one) => one.machineId))];
  const wanted = [...new Set([...ids, ...[...items.values()].flatMap((item) => item.alternatives)])];
  const stock = wanted.length === 0 ? [] : await freeStock({ ids: wanted, personId, on, machineIds });
  const tracked = new Set(stock.map((row) => row.itemId));
  const onSite = takeFromShelves(needs, duties, places, stock, items);
  const reach = [
    ...(van === null ? [] : [van]),
    ...places.filter((place) => place.kind === "depot").map((place) => place.id),
    ...places.filter((place) => place.kind === "van" && place.id !== van).map((place) => place.id),
  ];
  const stockByPlace = Object.fromEntries(
    reach.map((placeId) => [
      placeId,
      Object.fromEntries(stock.filter((row) => row.placeId === placeId).map((row) => [row.itemId, row.free])),
    ]),
  );
  const listed = loadList({
    visits: duties.map((duty) => ({
      id: duty.dutyId,
      needs: needs.filter((need) => need.dutyId === duty.dutyId && need.qty > 0),
    })),
    stockByPlace,
    likely,
  });
  const ticks = await db.models.LoadTick.findAll({
    attributes: ["line", "onDay"],
    where: { personId, onDay: { [Op.between]: [addDays(on, 1 - LOOKED_AT_DAYS), on] } },
    order: ["onDay"],
    raw: true,
  });
  const lines = listed.map((line): LoadViewLine => {
    const known = items.get(line.item);
    const key = line.chance < 1 ? `${line.item} likely` : line.item;
    const carried =
      (known === undefined || known.kind === "tool" || known.kind === "protective") && !tracked.has(line.item);
    return {
      key,
      item: known ?? unknownItem(line.item),
      qty: line.qty,
      pair: pairs.has(line.item),
      duties: line.why,
      from: line.from.map(({ place, qty }) => ({ placeId: place, qty })),
      heldForItems: stock.flatMap((row) =>
        row.itemId === line.item && row.forItems > 0 && line.chance === 1
          ? [{ placeId: row.placeId, qty: row.forItems }]
          : [],
      ),
      short: carried ? 0 : line.short,
      chance: line.chance,
      ...expected(line, likely, { item: carried ? null : known, figures }),
      carried,
      // What stays in the van was looked at this week, or not.
      ticked: ticks.some((one) => one.line === key && (carried || one.onDay === on)),
      lookedAt: carried ? (ticks.findLast((one) => one.line === key)?.onDay ?? null) : null,
      instead:
        line.short > 0 && !carried
          ? (known?.alternatives ?? []).flatMap((id) =>
              reach.flatMap((placeId) => {
                const free = stock.find((row) => row.itemId === id && row.placeId === placeId)?.free ?? 0;
                return free >= line.short ? [{ id, name: items.get(id)?.name ?? id, placeId, have: free }] : [];
              }),
            )
          : [],
    };
  });
  const named = await itemsBy(lines.flatMap((line) => line.instead.map((one) => one.id)));
  for (const line of lines) for (const one of line.instead) one.name = named.get(one.id)?.name ?? one.name;
  return {
    ...base,
    lines,
    onSite,
    solutions: solutions.map((one) => ({
      ...one,
      parts: one.parts.map(({ name, ml }) => ({
        name: items.get(name)?.name ?? (name === "water" ? "Water" : name),
        ml,
      })),
    })),
  };
}

export type PlacedNeed = LoadNeed & { dutyId: string; siteId: string };
type PlacedLikely = LikelyNeed & { dutyId: string; because: string };

/** What a likely line is expected from, and how many of it are enough; of what is simply carried that is not asked. */
function expected(
  line: LoadLine,
  likely: readonly PlacedLikely[],
  { item, figures }: { item: Item | null | undefined; figures: FailureFigures },
): Pick<LoadViewLine, "past" | "carry"> {
  if (line.chance === 1) return { past: [], carry: null };
  const needs = likely.filter((one) => one.item === line.item);
  const past = needs.map((one) => one.because);
  return item === null
    ? { past, carry: null }
    : { past: [...past, levelWords(figures)], carry: carryOf(needs, item, figures) };
}

/** What stands in no catalogue is named as it is written. */
const unknownItem = (id: string): LoadViewLine["item"] => ({
  ...{ id, name: id, kind: "consumable", unit: "", hazards: [], storage: "", usesPerPiece: 1, scanCode: null },
});

/** What the duties need one by one, with the solutions that are made up for them. */
function collectNeeds(
  duties: readonly DutySql[],
  known: {
    procedures: ReadonlyMap<string, Procedure>;
    past: PastUse;
    slots: ReadonlyMap<string, NonNullable<MachineFacts["slots"]>>;
    worn: WornParts;
    on: string;
  },
): { needs: PlacedNeed[]; likely: PlacedLikely[]; solutions: LoadView["solutions"] } {
  const { procedures, past, slots, worn, on } = known;
  /** A part is told once of a machine, however many of its duties would renew it. */
  const told = new Set<string>();
  const needs: PlacedNeed[] = [];
  const likely: PlacedLikely[] = [];
  const solutions: LoadView["solutions"] = [];
  for (const duty of duties) {
    const procedure = procedures.get(duty.procedureId);
    if (!procedure) continue;
    const takes = takesOf(procedure, duty.options, past);
    const at = { why: duty.dutyId, dutyId: duty.dutyId, siteId: duty.siteId };
    for (const one of takes.sure) {
      const qty = piecesOf(procedure, one, slots.get(duty.machineId) ?? {});
      if (qty > 0) needs.push({ item: one.item, qty, ...at });
    }
    for (const item of [...procedure.protective.map(protectionKey), ...procedure.tools.map(toolKey)])
      needs.push({ item, qty: 1, reusable: true, ...at });
    for (const use of takes.possible) {
      const part = worn.find(duty.machineId, use.item);
      const key = `${duty.machineId} ${use.item}`;
      if (part && !told.has(key)) likely.push(...wornLikely(part, procedure, duty, on));
      if (part) told.add(key);
    }
    for (const use of takes.likely)
      if (!worn.isMeasured(duty.machineId, use.item))
        likely.push({
          item: use.item,
          qty: pieces(procedure, use),
          why: duty.dutyId,
          chance: use.share.share,
          dutyId: duty.dutyId,
          because: pastWords(use),
        });
    solutions.push(...solutionsOf(procedure, duty));
  }
  return { needs, likely, solutions };
}

const pastWords = ({ used, services, share }: LikelyUse): string =>
  `${used} of the last ${services} services needed it; by that, between ${percent(share.low)} and ${percent(share.high)} do (90 %)`;

/** What is measured of a machine's part says how likely it is wanted on the day. */
function wornLikely(part: WornPart, procedure: Procedure, duty: DutySql, on: string): PlacedLikely[] {
  const places = procedure.parts.find((one) => one.item === part.item);
  return wantedOn(part, places, on)
    .filter(({ chance }) => chance >= LEAST_LIKELY)
    .map(({ qty, chance, slot }) => ({
      item: part.item,
      qty: Math.ceil(qty / (places?.uses ?? 1)),
      why: duty.dutyId,
      chance: Math.min(MOST_LIKELY, chance),
      dutyId: duty.dutyId,
      because: `${duty.machineName}: ${quantity(slot.lastValue, slot.unit)} when read last, limit ${quantity(must(slot.limitAt), slot.unit)}; ${percent(chance)} it is past by the visit after this one`,
    }));
}

const percent = (share: number): string => `${Math.round(100 * share)} %`;

function solutionsOf(procedure: Procedure, duty: DutySql): LoadView["solutions"] {
  return usualSteps(procedure, duty).steps.flatMap((step) => {
    if (step.kind !== "mix") return [];
    const { recipe } = step;
    const finalMl = recipe.by === "additive" ? recipe.tankMl : recipe.finalMl;
    const strength =
      recipe.by === "dilution" ? procedure.materials.find((one) => one.item === recipe.stock)?.stockPercent : undefined;
    // Without a known strength the sheet asks for it.
    if (recipe.by === "dilution" && strength === undefined) return [];
    return [
      {
        title: step.title,
        machineName: duty.machineName,
        finalMl,
        parts: recipeAmounts(recipe, finalMl, strength).map(({ item, ml }) => ({ name: item, ml: jugMl(ml) })),
      },
    ];
  });
}

async function slotsByMachine(ids: readonly string[]): Promise<Map<string, NonNullable<MachineFacts["slots"]>>> {
  const rows = await getDb().models.MachineSlot.findAll({
    attributes: ["machineId", "slot", "item", "usesLeft"],
    where: { machineId: [...ids] },
    raw: true,
  });
  const found = new Map<string, NonNullable<MachineFacts["slots"]>>();
  for (const { machineId, slot, item, usesLeft } of rows)
    found.set(machineId, { ...found.get(machineId), [slot]: { item, usesLeft } });
  return found;
}

async function itemsBy(ids: readonly string[]): Promise<Map<string, Item>> {
  if (ids.length === 0) return new Map();
  const rows = await sql.itemsByKeys({
    ids: [...new Set(ids)],
  });
  return new Map(rows.map((row) => [row.id, asItem(row)]));
}

/** What is there and not held for another day, person or machine's open item. */
async function freeStock(input: {
  ids: string[];
  personId: string;
  on: string;
  machineIds: string[];
}): Promise<{ itemId: string; placeId: string; free: number; forItems: number }[]> {
  const rows = await sql.freeStock(input);
  return rows.map((row) => ({
    itemId: row.itemId,
    placeId: row.placeId,
    free: exactQty(Math.max(0, row.onHand - row.reserved + (row.own ?? 0) + (row.forItems ?? 0))),
    forItems: exactQty(row.forItems ?? 0),
  }));
}

/**
 * Parts that open items of the day's machines take: surely, unless another day or colleague has the work, or the day's own work
 * fits the part anyway.
 */
async function needsOfItems(
  duties: readonly DutySql[],
  needs: readonly PlacedNeed[],
  { personId, on }: { personId: string; on: string },
): Promise<PlacedNeed[]> {
  const machineIds = [...new Set(duties.map((one) => one.machineId))];
  const rows = await sql.partsOfOpenItems({ machineIds });
  return rows.flatMap((row): PlacedNeed[] => {
    const elsewhere =
      row.plannedOn !== null && row.plannedOn >= on && (row.plannedOn !== on || row.plannedFor !== personId);
    const mine = duties.filter((one) => one.machineId === row.machineId);
    const own = mine.find((one) => one.dutyId === row.workDutyId);
    if (!own && (elsewhere || row.who === "licensed")) return [];
    const takenAnyway = needs.some((one) => one.item === row.item && mine.some(({ dutyId }) => dutyId === one.dutyId));
    const duty = own ?? mine[0];
    if (takenAnyway || !duty) return [];
    return [{ item: row.item, qty: 1, why: duty.dutyId, dutyId: duty.dutyId, siteId: duty.siteId }];
  });
}
