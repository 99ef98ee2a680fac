import {
  addDays,
  type DatedValue,
  explodeDemand,
  type ItemDemand,
  type ItemUse,
  must,
  type Procedure,
  procedureNeeds,
  type UseShare,
  useShare,
} from "@core";
import type { DutyRow } from "@db";

import { isForetold } from "~/duties/foretold";
import { recentMeters, repeatsAfter } from "~/duties/repeats.server";
import { newestProcedures } from "~/procedures/procedures.server";

import * as sql from "./needs.sql";
import { PAGE } from "./needs.sql";
import { wantedBy, type WornPart, wornParts } from "./worn-parts.server";

/** A duty with what is needed to see when it falls due and what it takes. */
export interface DutySql extends Pick<DutyRow, "id" | "startOn" | "rules" | "dueOn" | "projected"> {
  procedureId: string;
  machineId: string;
  siteId: string;
  options: string[];
  plannedOn: string | null;
  plannedFor: string | null;
}

export interface LikelyUse {
  item: string;
  qty: number;
  share: UseShare;
  used: number;
  services: number;
}

export interface Takes {
  sure: ItemUse[];
  /** What something found would take besides, however often it did. */
  possible: { item: string }[];
  likely: LikelyUse[];
}

/** Services looked back on for how often a part was needed: the latest of each procedure, not older than two years. */
const PAST_SERVICES = 200;
const PAST_DAYS = 730;
/** Fewer say nothing. */
const FEWEST_SERVICES = 3;

/** The newest version of every procedure, by id. */
export async function proceduresById(): Promise<Map<string, Procedure>> {
  const families = (await sql.newestProcedures()).map((row) => row.family);
  return new Map((await newestProcedures(families)).map((one) => [one.id, one]));
}

export interface PastUse {
  /** By `procedure item`: services that used the part. */
  used: Map<string, number>;
  /** By procedure: services looked at. */
  services: Map<string, number>;
}

/** How often each part was used in the latest services of procedures. */
export async function pastUse(procedureIds: readonly string[], today: string): Promise<PastUse> {
  if (procedureIds.length === 0) return { used: new Map(), services: new Map() };
  // The latest services of each procedure by its index, then what they took by theirs: the ledger's length does not matter.
  const latest = procedureIds
    .map(
      (_, i) =>
        `(SELECT procedure_id, sheet_id FROM sheet_minutes WHERE procedure_id = :p${i} AND done_on >= :since ORDER BY done_on DESC LIMIT ${PAST_SERVICES})`,
    )
    .join(" UNION ALL ");
  const rows = await sql.usesInLatestServices(
    { since: addDays(today, -PAST_DAYS), ...Object.fromEntries(procedureIds.map((id, i) => [`p${i}`, id])) },
    latest,
  );
  return {
    used: new Map(
      rows.flatMap((row): [string, number][] =>
        row.itemId === null ? [] : [[`${row.procedureId} ${row.itemId}`, row.total]],
      ),
    ),
    services: new Map(
      rows.flatMap((row): [string, number][] => (row.itemId === null ? [[row.procedureId, row.total]] : [])),
    ),
  };
}

/** What a service of a procedure takes on a machine with these options: surely, and by how often past services needed it. */
export function takesOf(procedure: Procedure, options: readonly string[], past: PastUse): Takes {
  const { sure, possible } = procedureNeeds(procedure, { options: [...options] });
  const services = past.services.get(procedure.id) ?? 0;
  return {
    sure: sure.map(({ item, qty }) => ({ item, qty })),
    possible,
    likely: possible.flatMap(({ item, qty }) => {
      const used = Math.min(services, past.used.get(`${procedure.id} ${item}`) ?? 0);
      return services < FEWEST_SERVICES || used === 0
        ? []
        : [{ item, qty, share: useShare(used, services), used, services }];
    }),
  };
}

export interface PlacedDemand extends ItemDemand {
  dutyId: string;
  siteId: string;
  machineId: string;
  /** Person it is planned for, or who did it last; null when nobody has yet. */
  personId: string | null;
}
const BREATH = 100;
/** Nothing that is foreseen is sure; what is hardly likely is left out. */
export const MOST_LIKELY = 0.999;
export const LEAST_LIKELY = 0.01;

/** What all duties that come due take until a day, as a list: for a span, or a few items. See `eachDemand`. */
export async function demandUntil(
  until: string,
  today: string,
  now: Date,
  itemIds?: readonly string[],
): Promise<PlacedDemand[]> {
  const all: PlacedDemand[] = [];
  await eachDemand({ until, today, now, ...(itemIds ? { itemIds } : {}) }, (one) => all.push(one));
  return all;
}

/**
 * Visits what all duties that come due take until a day: each occurrence projected by the engine, late ones counted today, and the
 * parts that machines' open items wait for.
 * Operators' own duties take from the customer's stock and are left out. Goes through the duties page by page and lets other
 * requests through in between, as a large firm has hundreds of thousands.
 */
export async function eachDemand(
  input: { until: string; today: string; now: Date; itemIds?: readonly string[] },
  visit: (one: PlacedDemand) => void,
): Promise<void> {
  const { until, today, now, itemIds } = input;
  const procedures = await proceduresById();
  const cache = new Map<string, Takes>();
  const takes = (procedureId: string, options: readonly string[]): Takes | null => {
    const procedure = procedures.get(procedureId);
    if (!procedure) return null;
    const key = `${procedureId} ${options.join(" ")}`;
    let found = cache.get(key);
    if (!found) {
      const { sure, likely, possible } = takesOf(procedure, options, past);
      const wanted = (one: { item: string }): boolean => !itemIds || itemIds.includes(one.item);
      found = { sure: sure.filter(wanted), likely: likely.filter(wanted), possible: possible.filter(wanted) };
      cache.set(key, found);
    }
    return found;
  };
  const using = [...procedures.values()]
    .filter(
      (one) =>
        !itemIds ||
        one.materials.some((material) => itemIds.includes(material.item)) ||
        one.parts.some((part) => itemIds.includes(part.item)),
    )
    .map((one) => one.id);
  for (const one of await sql.partsOfOpenItems({ until }))
    if (!itemIds || itemIds.includes(one.item))
      visit({ ...one, on: one.on < today ? today : one.on, qty: 1, chance: 1 });
  if (using.length === 0) return;
  const past = await pastUse(using, today);
  const worn = await wornParts({ itemIds });
  /** Whose visit brings a worn part, by machine and item. */
  const visits = new Map<string, DutySql>();
  for (let after = "", more = true; more;) {
    const duties = await sql.dutiesPage({ after, until, today, using });
    more = duties.length === PAGE;
    after = duties.at(-1)?.id ?? after;
    const meters = await recentMeters(duties, now);
    for (const [i, duty] of duties.entries()) {
      if (i % BREATH === BREATH - 1) await new Promise(setImmediate);
      const found = takes(duty.procedureId, duty.options);
      if (!found || (found.sure.length === 0 && found.likely.length === 0 && found.possible.length === 0)) continue;
      /** Of what is measured it is known when it is wanted: neither by how often it was before, nor by a day foretold from it. */
      const isMeasured = ({ item }: { item: string }): boolean => worn.isMeasured(duty.machineId, item);
      const sure = isForetold(duty) ? found.sure.filter((one) => !isMeasured(one)) : found.sure;
      for (const { item } of [...found.sure, ...found.possible]) {
        const key = `${duty.machineId} ${item}`;
        if (worn.find(duty.machineId, item) && !visits.has(key)) visits.set(key, duty);
      }
      const uses = {
        [duty.id]: [
          ...sure,
          ...found.likely
            .filter((one) => !isMeasured(one))
            .map(({ item, qty, share }) => ({ item, qty, chance: Math.min(MOST_LIKELY, share.share) })),
        ],
      };
      const days = occurrences(duty, today, until, meters.get(duty.machineId) ?? {});
      for (const one of explodeDemand({ occurrences: days.map((on) => ({ on, planId: duty.id })), uses }))
        visit({ ...one, dutyId: duty.id, siteId: duty.siteId, machineId: duty.machineId, personId: duty.plannedFor });
    }
  }
  visitWorn(worn.all, { visits, procedures, today, until }, visit);
}

/** What is worn by then, each piece once, on the day it is foretold for. */
function visitWorn(
  parts: readonly WornPart[],
  {
    visits,
    procedures,
    today,
    until,
  }: {
    visits: ReadonlyMap<string, DutySql>;
    procedures: ReadonlyMap<string, Procedure>;
    today: string;
    until: string;
  },
  visit: (one: PlacedDemand) => void,
): void {
  for (const part of parts) {
    const { machineId, item } = part;
    const duty = visits.get(`${machineId} ${item}`);
    const places = duty && procedures.get(duty.procedureId)?.parts.find((one) => one.item === item);
    if (!duty || !places) continue;
    for (const { qty, chance, slot } of wantedBy(part, places, until)) {
      if (chance < LEAST_LIKELY || slot.crossesOn === null) continue;
      const on = slot.crossesOn < today ? today : slot.crossesOn > until ? until : slot.crossesOn;
      const who = { dutyId: duty.id, siteId: duty.siteId, machineId, personId: duty.plannedFor };
      visit({ on, item, qty: qty * (places.uses ?? 1), chance: Math.min(MOST_LIKELY, chance), ...who });
    }
  }
}

function occurrences(duty: DutySql, today: string, until: string, meters: Record<string, DatedValue[]>): string[] {
  const first = duty.plannedOn ?? (must(duty.dueOn) < today ? today : must(duty.dueOn));
  if (first > until) return [];
  return [first, ...repeatsAfter(duty, first, today, until, meters)];
}
