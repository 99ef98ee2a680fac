import { addDays } from "../../core/index";
import { must } from "../../core/must";

/** A year of an invented store: what sheets used, and the deliveries and refills that made it possible. */

export interface YearUse {
  place: string;
  item: string;
  qty: number;
  on: string;
  at: Date;
  by: string;
  sheetId: string;
  entryId: string;
  machineId: string;
}

export interface YearItem {
  id: string;
  packSize: number;
  shelfLifeDays: number | null;
}

export interface YearMove {
  item: string;
  place: string;
  lot: string | null;
  kind: "opening" | "receive" | "move" | "use" | "scrap";
  qty: number;
  on: string;
  use?: YearUse;
  note?: string;
}

interface Batch {
  lot: string | null;
  expires: string | null;
  qty: number;
}

/** A van is refilled for about this many services of what it ran out of; of single parts it carries fewer. */
const REFILL_USES = 6;
const REFILL_PARTS = 2;

/**
 * Lives through a year of uses: a van that lacks something is refilled from the depot the day before, a depot that lacks
 * something gets a delivery; what expires is thrown away. Ends with everything on the shelves.
 */
export function stockYear(input: {
  uses: readonly YearUse[];
  items: readonly YearItem[];
  vans: readonly string[];
  depot: string;
  first: string;
  today: string;
}): {
  moves: YearMove[];
  lots: { item: string; lot: string; expires: string | null }[];
} {
  const { vans, depot, first, today } = input;
  const items = new Map(input.items.map((item) => [item.id, item]));
  const moves: YearMove[] = [];
  const lots: { item: string; lot: string; expires: string | null }[] = [];
  const stock = new Map<string, Batch[]>();
  const at = (place: string, item: string): Batch[] => {
    const key = `${place} ${item}`;
    if (!stock.has(key)) stock.set(key, []);
    return must(stock.get(key));
  };
  const sum = (place: string, item: string): number =>
    round(at(place, item).reduce((total, batch) => total + batch.qty, 0));
  const put = (place: string, item: string, batch: Batch): void => {
    const known = at(place, item).find((one) => one.lot === batch.lot);
    if (known) known.qty = round(known.qty + batch.qty);
    else at(place, item).push({ ...batch });
    at(place, item).sort((a, b) => ((a.expires ?? "9") < (b.expires ?? "9") ? -1 : 1));
  };
  const take = (place: string, item: string, qty: number): Batch[] => {
    const taken: Batch[] = [];
    let left = qty;
    for (const batch of at(place, item)) {
      const part = round(Math.min(left, batch.qty));
      if (part <= 0) continue;
      batch.qty = round(batch.qty - part);
      taken.push({ ...batch, qty: part });
      left = round(left - part);
    }
    return taken;
  };
  const deliver = (item: YearItem, packs: number, on: string, kind: "opening" | "receive"): void => {
    const expires = item.shelfLifeDays === null ? null : addDays(on, item.shelfLifeDays);
    const lot =
      expires === null ? null : `${item.id.slice(0, 2).toUpperCase()}${on.slice(2, 4)}${on.slice(5, 7)}${on.slice(8)}`;
    if (lot !== null && !lots.some((one) => one.item === item.id && one.lot === lot))
      lots.push({ item: item.id, lot, expires });
    const qty = round(packs * item.packSize);
    put(depot, item.id, { lot, expires, qty });
    moves.push({ item: item.id, place: depot, lot, kind, qty, on });
  };
  const refill = (van: string, item: YearItem, qty: number, on: string, kind: "opening" | "move" = "move"): void => {
    if (sum(depot, item.id) < qty)
      deliver(
        item,
        Math.ceil((qty * 2 - sum(depot, item.id)) / item.packSize),
        on,
        kind === "opening" ? "opening" : "receive",
      );
    for (const part of take(depot, item.id, qty)) {
      put(van, item.id, part);
      moves.push({ item: item.id, place: depot, lot: part.lot, kind: "move", qty: -part.qty, on, note: "refill" });
      moves.push({ item: item.id, place: van, lot: part.lot, kind: "move", qty: part.qty, on, note: "refill" });
    }
  };
  const discard = (on: string): void => {
    for (const [key, batches] of stock) {
      const [place, item] = key.split(" ") as [string, string];
      for (const batch of batches) {
        if (batch.expires === null || batch.expires >= on || batch.qty <= 0) continue;
        moves.push({
          item,
          place,
          lot: batch.lot,
          kind: "scrap",
          qty: -batch.qty,
          on: addDays(batch.expires, 1),
          note: "expired",
        });
        batch.qty = 0;
      }
    }
  };

  const usual = new Map<string, number>();
  for (const use of input.uses)
    usual.set(`${use.place} ${use.item}`, Math.max(usual.get(`${use.place} ${use.item}`) ?? 0, use.qty));
  for (const item of input.items) deliver(item, 1, first, "opening");
  const sorted = [...input.uses].sort((a, b) => (a.on < b.on ? -1 : a.on > b.on ? 1 : a.entryId < b.entryId ? -1 : 1));
  let day = first;
  for (const use of sorted) {
    const item = items.get(use.item);
    if (!item) continue;
    if (use.on !== day) discard((day = use.on));
    if (sum(use.place, use.item) < use.qty)
      refill(use.place, item, refillQty(item, use.qty), addDays(use.on, -1) < first ? first : addDays(use.on, -1));
    for (const part of take(use.place, use.item, use.qty))
      moves.push({ item: use.item, place: use.place, lot: part.lot, kind: "use", qty: -part.qty, on: use.on, use });
  }
  discard(today);
  // Ready for what comes: every van with what it uses, the depot with a pack of everything.
  for (const item of input.items) {
    for (const van of vans) {
      const once = usual.get(`${van} ${item.id}`);
      if (once !== undefined && sum(van, item.id) < once * REFILL_USES)
        refill(van, item, refillQty(item, once), addDays(today, -9));
    }
    if (sum(depot, item.id) < item.packSize) deliver(item, 1, addDays(today, -9), "receive");
  }
  return { moves, lots };
}

function refillQty(item: YearItem, once: number): number {
  const wanted = once * (item.packSize === 1 ? REFILL_PARTS : REFILL_USES);
  return item.packSize > wanted
    ? round(Math.max(wanted, Math.min(item.packSize, wanted * 2)))
    : round(Math.ceil(wanted / item.packSize) * item.packSize);
}

const round = (qty: number): number => Math.round(qty * 1000) / 1000;
