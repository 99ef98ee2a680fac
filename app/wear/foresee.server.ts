import { must, poolPieces, type WearPool } from "@core";
import { type Criticality, getDb, Op, type Transaction, type WearLineRow } from "@db";

import { assessForetold } from "~/duties/assess.server";
import { lockMachines } from "~/duties/lock-machines.server";
import { recentMeters } from "~/duties/repeats.server";
import { dayInZone, latestDay } from "~/kit/days/site-day";
import { grouped } from "~/kit/grouped";
import { zoneOf } from "~/kit/server/audit.server";
import { logError } from "~/kit/server/log.server";
import { hourlyRateCents } from "~/stores/costs/costs.server";
import { type FailureFigures, failureFigures } from "~/stores/costs/failure-figures.server";

import { fitMachines } from "./fit-lines.server";
import { foresee, type WearCosts } from "./foresee";
import { repeatsBy, visitDuties } from "./visit-duties.server";
import { nextVisits, type VisitDuty } from "./visits";
import * as sql from "./wear.sql";
import { type WearProcedure, wearProcedures } from "./wear-procedures.server";

/** Pieces that one is held against. */
const POOLED = 2000;

/** Pools by name, each read once however many ask for it. */
export class Pools {
  readonly #known = new Map<string, Promise<WearPool | null>>();
  readonly #tx: Transaction | null;

  constructor(tx?: Transaction) {
    this.#tx = tx ?? null;
  }

  of(name: string): Promise<WearPool | null> {
    const known = this.#known.get(name) ?? this.#read(name);
    this.#known.set(name, known);
    return known;
  }

  async #read(pool: string): Promise<WearPool | null> {
    const pieces = await getDb().models.WearLine.findAll({
      attributes: ["n", "slope", "sumSquares", "residual"],
      where: { pool },
      limit: POOLED,
      raw: true,
      transaction: this.#tx,
    });
    return poolPieces(pieces);
  }
}

interface Prices {
  prices: ReadonlyMap<string, number>;
  rate: number;
  figures: FailureFigures;
}

async function pricesOf(items: readonly string[], tx?: Transaction): Promise<Prices> {
  const rows = await sql.piecePrices({ ids: [...new Set(items)] }, tx);
  return {
    prices: new Map(rows.map((one) => [one.id, one.cents])),
    rate: await hourlyRateCents(tx),
    figures: await failureFigures(tx),
  };
}

/** What renewing parts of a machine costs, and when they fail before. */
export async function costsFor(items: readonly string[], criticality: Criticality) {
  const prices = await pricesOf(items);
  return (
    part: Pick<WearLineRow, "item" | "slot">,
    duties: readonly VisitDuty[],
    procedures: ReadonlyMap<string, WearProcedure>,
  ): WearCosts => costsOf(part, { duties, procedures }, criticality, prices);
}

/**
 * Works out anew what is foreseen of the parts of machines: from the lines' sums, their fellows, the machine's next visits and what
 * it costs.
 *
 * @returns how many lines that was
 */
export async function foreseeMachines(
  machineIds: readonly string[],
  now: Date,
  { tx, pools = new Pools(tx) }: { tx?: Transaction | undefined; pools?: Pools } = {},
): Promise<number> {
  if (machineIds.length === 0) return 0;
  const { models } = getDb();
  const transaction = tx ?? null;
  const lines = await models.WearLine.findAll({
    where: { machineId: [...machineIds], current: true },
    raw: true,
    transaction,
  });
  if (lines.length === 0) return 0;
  const ids = [...new Set(lines.map((one) => one.machineId))];
  const machines = new Map((await sql.machinesWithZones({ machineIds: ids }, tx)).map((one) => [one.id, one]));
  const duties = await visitDuties(ids, tx);
  const procedures = await wearProcedures(
    duties.map((one) => one.procedureId),
    tx,
  );
  const prices = await pricesOf(
    lines.map((one) => one.item),
    tx,
  );
  const meters = await recentMeters(duties, now, tx);
  const poolOf = new Map<string, WearPool | null>();
  for (const { pool } of lines) if (!poolOf.has(pool)) poolOf.set(pool, await pools.of(pool));
  const dutiesOf = grouped(duties, (one) => one.machineId);
  const zones = new Set([...machines.values()].map((one) => one.timeZone));
  const todays = new Map([...zones].map((zone) => [zone, dayInZone(now, zone)]));
  const rows = lines.map((line) => {
    const machine = must(machines.get(line.machineId));
    const own = dutiesOf.get(line.machineId) ?? [];
    const today = must(todays.get(machine.timeZone));
    const visits = machine.retired
      ? []
      : nextVisits(line, own, procedures, today, repeatsBy(today, meters.get(line.machineId)));
    const costs = costsOf(line, { duties: own, procedures }, machine.criticality, prices);
    const foreseen = foresee(line, { pool: poolOf.get(line.pool) ?? null, visits, costs });
    return {
      ...foreseen,
      id: line.id,
      line: foreseen.line && JSON.stringify(foreseen.line),
      slotName: slotName(line, own, procedures),
      listedBy: foreseen.nextChance === null ? -1 : Math.round(foreseen.nextChance * 1e4) / 1e4,
      listedOn: foreseen.crossesOn ?? NEVER,
      stale: 0,
    };
  });
  await sql.keepForeseen(rows, tx);
  return rows.length;
}

const NEVER = "9999-12-31";

function slotName(
  { item, slot }: Pick<WearLineRow, "item" | "slot">,
  duties: readonly VisitDuty[],
  procedures: ReadonlyMap<string, WearProcedure>,
): string {
  const named = duties
    .flatMap(({ procedureId }) => procedures.get(procedureId)?.parts ?? [])
    .filter((part) => part.item === item)
    .flatMap((part) => part.slots)
    .find(({ id }) => id === slot)?.name;
  return named ?? slot.replaceAll("-", " ");
}

/** What renewing the part costs by plan, and when it fails before; all pieces that are renewed together. */
function costsOf(
  { item, slot }: Pick<WearLineRow, "item" | "slot">,
  { duties, procedures }: { duties: readonly VisitDuty[]; procedures: ReadonlyMap<string, WearProcedure> },
  criticality: Criticality,
  { prices, rate, figures }: Prices,
): WearCosts {
  const told = duties.flatMap(({ procedureId }) => procedures.get(procedureId) ?? []);
  const renew = told
    .flatMap((one) => one.renews)
    .filter((one) => one.item === item && one.slots.includes(slot))
    .reduce<number | null>((least, { minutes }) => Math.min(least ?? minutes, minutes), null);
  const part = told
    .flatMap((one) => one.parts)
    .find((one) => one.item === item && one.slots.some(({ id }) => id === slot));
  const pieces = part?.pair ? part.slots.length : 1;
  const planned = Math.round((prices.get(item) ?? 0) * pieces + ((renew ?? USUAL_MINUTES) * rate) / 60);
  return { planned, failure: planned + figures.failure[criticality], visit: figures.visit };
}

/** Where no sheet of the machine says how long it takes (common practice). */
const USUAL_MINUTES = 15;
/** Machines whose parts are foreseen anew before a list is shown; what is left of them is done in the background. */
const AT_ONCE = 50;

/** Duties that wait for a limit have their day from what is foreseen. */
export async function assessWaiting(machineIds: readonly string[], now: Date, tx: Transaction): Promise<void> {
  const waiting = await sql.waitingMachines({ machineIds }, tx);
  await assessForetold(
    waiting.map((one) => one.machineId),
    now,
    tx,
  );
}

/** The day of the site that is furthest behind: a visit of the day before is over everywhere. */
async function earliestToday(now: Date): Promise<string> {
  const days = (await sql.zonesInUse()).map(({ timeZone }) => dayInZone(now, timeZone));
  return days.reduce((a, b) => (a < b ? a : b), latestDay(now));
}

/** Whether anything waits to be foreseen anew. */
export async function anyStale(now: Date): Promise<boolean> {
  return (await sql.staleMachines({ today: await earliestToday(now), atMost: 1 })).length > 0;
}

/**
 * Works out anew what has changed since, or whose next visit has passed without one.
 *
 * @returns how many machines there were
 */
export async function foreseeStale(now: Date, atMost = AT_ONCE): Promise<number> {
  const stale = await sql.staleMachines({ today: await earliestToday(now), atMost });
  const ids = stale.map((one) => one.machineId).sort();
  await foreseeAnew(ids, now);
  return ids.length;
}

async function foreseeAnew(ids: readonly string[], now: Date): Promise<void> {
  if (ids.length === 0) return;
  await getDb().transact(async (tx) => {
    // Whoever changes a machine's facts holds its row: what comes after marks it again.
    await lockMachines(ids, tx);
    await fitMachines(ids, now, tx);
    await foreseeMachines(ids, now, { tx });
    await assessWaiting(ids, now, tx);
  });
}

/**
 * Before something is shown: the machine's own lines, or some of all that wait. What cannot be brought up to date now is shown as it
 * was, and waits for the next time.
 */
export async function freshWear(now: Date, machineId?: string): Promise<void> {
  try {
    if (machineId === undefined) {
      await foreseeStale(now);
      return;
    }
    const today = dayInZone(now, await zoneOf(machineId));
    const waits = { [Op.or]: [{ stale: true }, { nextOn: { [Op.lt]: today } }] };
    if ((await getDb().models.WearLine.count({ where: { machineId, current: true, ...waits } })) > 0)
      await foreseeAnew([machineId], now);
  } catch (error) {
    logError(`Wear: ${(error as Error).message}`);
  }
}
