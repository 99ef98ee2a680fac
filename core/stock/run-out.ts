import { formatDay } from "../days/format-day";
import { parseDay } from "../days/parse-day";
import { CoreError } from "../errors";
import { requireList, requireRecord, withoutNulls } from "../inputs";
import { must } from "../must";
import { ceilExact, requireFinite, requireNotNegative, requirePositive } from "../numbers";
import type { Demand, Lot } from "./types";

/** Nothing takes longer to come: a century. */
const MOST_LEAD_DAYS = 36_525;
/** Below this a quantity is a rounding error of the sums that made it. */
const NOTHING = 1e-9;

export interface RunOut {
  /** First day whose demand cannot be met in full. */
  runsOutOn: string | null;
  /** `runsOutOn` less the lead time, in calendar days; may be past. */
  orderBy: string | null;
  /** All demand that cannot be met, in whole packs. */
  orderQty: number;
  /** What will be left of lots when they expire, by day. */
  expiring: { on: string; qty: number }[];
}

/**
 * When an item runs out at a place, by when to order and how much: first expiry, first out.
 *
 * A lot may be used up to and including the day it expires. What is on hand beyond the lots' sum never expires; when the lots
 * say more than is on hand, the difference is taken from what expires first. Less than nothing on hand, as after two uses of
 * the last piece, is nothing. What a day can meet of its demand is used; reaching zero is not running out. Lots that expire
 * after the last demand count with what is left of them then.
 *
 * @param input.demand on or after `today`, in any order; quantities in the same unit as `onHand`
 * @param input.leadDays calendar days from ordering to having it
 * @param input.packSize how the item is sold, in its unit; 1 when absent
 * @throws CoreError for bad numbers or days, and for demand before `today`
 */
export function runOut(input: {
  item: string;
  onHand: number;
  lots?: readonly Lot[];
  demand: readonly Demand[];
  leadDays: number;
  packSize?: number;
  today: string;
}): RunOut {
  const read = withoutNulls(requireRecord(input, "input"));
  const today = parseDay(read.today, "today");
  const packSize = read.packSize === undefined ? 1 : requirePositive(read.packSize, "packSize");
  const leadDays = requireNotNegative(input.leadDays, "leadDays");
  if (!Number.isInteger(leadDays) || leadDays > MOST_LEAD_DAYS)
    throw new CoreError(
      "bad-number",
      "leadDays",
      `leadDays must be whole days, at most ${MOST_LEAD_DAYS}, not ${leadDays}.`,
    );
  const days = demandByDay(input.demand, today);
  const lots = lotsInOrder(requireFinite(input.onHand, "onHand"), read.lots ?? []);

  let runsOut: number | null = null;
  let unmet = 0;
  let next = 0;
  for (const [day, qty] of days) {
    let wanted = qty;
    while (next < lots.length && wanted > NOTHING) {
      const lot = must(lots[next]);
      if (lot.expires >= day) {
        const taken = Math.min(wanted, lot.qty);
        lot.qty -= taken;
        wanted -= taken;
      }
      // Lots stand by expiry: what is used up or past its day now is so for every later day.
      if (lot.expires < day || lot.qty <= NOTHING) next++;
    }
    if (wanted <= NOTHING) continue;
    runsOut ??= day;
    unmet += wanted;
  }
  return {
    runsOutOn: runsOut === null ? null : formatDay(runsOut),
    orderBy: runsOut === null ? null : formatDay(runsOut - leadDays),
    orderQty: unmet > NOTHING ? rounded(ceilExact(unmet / packSize) * packSize) : 0,
    expiring: leftOver(lots),
  };
}

function demandByDay(demand: readonly Demand[], today: number): [number, number][] {
  const byDay = new Map<number, number>();
  requireList(demand, "demand").forEach((one, i) => {
    const { on, qty } = requireRecord(one, `demand[${i}]`);
    const day = parseDay(on, `demand[${i}].on`);
    if (day < today)
      throw new CoreError(
        "out-of-range",
        `demand[${i}].on`,
        `Demand on ${on} lies before ${formatDay(today)}: what is past is no demand.`,
      );
    byDay.set(day, (byDay.get(day) ?? 0) + requireNotNegative(qty, `demand[${i}].qty`));
  });
  return [...byDay].sort((a, b) => a[0] - b[0]);
}

/** Lots by expiry, what has none last, with as much in them as is on hand. */
function lotsInOrder(onHand: number, lots: readonly Lot[]): { qty: number; expires: number }[] {
  const dated = requireList(lots, "lots")
    .map((lot, i) => {
      const { qty, expires } = withoutNulls(requireRecord(lot, `lots[${i}]`));
      return {
        qty: requireNotNegative(qty, `lots[${i}].qty`),
        expires: expires === undefined ? Infinity : parseDay(expires, `lots[${i}].expires`),
      };
    })
    .sort((a, b) => (a.expires < b.expires ? -1 : a.expires > b.expires ? 1 : 0));
  let beyond = dated.reduce((sum, lot) => sum + lot.qty, 0) - Math.max(0, onHand);
  if (beyond < 0) return [...dated, { qty: -beyond, expires: Infinity }];
  for (const lot of dated) {
    const gone = Math.min(beyond, lot.qty);
    lot.qty -= gone;
    beyond -= gone;
  }
  return dated;
}

function leftOver(lots: readonly { qty: number; expires: number }[]): { on: string; qty: number }[] {
  const byDay = new Map<number, number>();
  for (const { qty, expires } of lots)
    if (qty > NOTHING && expires < Infinity) byDay.set(expires, (byDay.get(expires) ?? 0) + qty);
  return [...byDay].map(([day, qty]) => ({ on: formatDay(day), qty: rounded(qty) }));
}

/** Without the rounding errors of sums such as 0.1 + 0.2. */
function rounded(qty: number): number {
  return Number(qty.toPrecision(12));
}
