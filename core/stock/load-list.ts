import { CoreError } from "../errors";
import { requireList, requireRecord, requireText } from "../inputs";
import { requireFinite, requireNotNegative } from "../numbers";

/** What one visit, or one duty of it, needs on site. */
export interface LoadNeed {
  item: string;
  qty: number;
  why: string;
  /** Tools and protection serve one visit after the other; what is used up adds up. */
  reusable?: boolean;
}

export interface LikelyNeed {
  item: string;
  qty: number;
  why: string;
  /** Probability that it is needed, above 0 and below 1. */
  chance: number;
}

export interface LoadLine {
  item: string;
  qty: number;
  why: string[];
  /** What the places hold of it for this line, all together and by place. */
  have: number;
  from: { place: string; qty: number }[];
  short: number;
  /** 1 = sure. */
  chance: number;
}

/**
 * What to take along for visits, and where it lies: what is sure, then what is likely, each item once in either part.
 *
 * Sure needs are served first; likely ones get what is left. Places are drawn on in the order of `stockByPlace`, so the own
 * van comes first. Reusable things count once, as many as the visit with most of them needs.
 *
 * @param input.stockByPlace by place, the quantity of each item; below nothing counts as nothing
 * @throws CoreError for negative quantities and chances outside 0 to 1
 */
export function loadList(input: {
  visits: readonly { id: string; needs: readonly LoadNeed[] }[];
  stockByPlace: Readonly<Record<string, Readonly<Record<string, number>>>>;
  likely?: readonly LikelyNeed[];
}): LoadLine[] {
  const left = new Map(
    Object.entries(requireRecord(requireRecord(input, "input").stockByPlace, "stockByPlace")).map(([place, items]) => {
      const path = `stockByPlace.${place}`;
      for (const [item, qty] of Object.entries(requireRecord(items, path))) requireFinite(qty, `${path}.${item}`);
      return [place, new Map(Object.entries(items))];
    }),
  );
  const sure = new Map<string, { qty: number; why: string[] }>();
  const add = (
    list: Map<string, { qty: number; why: string[] }>,
    item: string,
    why: string,
  ): { qty: number; why: string[] } => {
    const line = list.get(item) ?? { qty: 0, why: [] };
    list.set(item, line);
    if (!line.why.includes(why)) line.why.push(why);
    return line;
  };
  requireList(input.visits, "visits").forEach((visit, v) => {
    requireList(requireRecord(visit, `visits[${v}]`).needs, `visits[${v}].needs`).forEach((need, i) => {
      const { item, qty, why, reusable } = requireRecord(need, `visits[${v}].needs[${i}]`);
      requireText(item, `visits[${v}].needs[${i}].item`);
      requireText(why, `visits[${v}].needs[${i}].why`);
      requireNotNegative(qty, `visits[${v}].needs[${i}].qty`);
      const line = add(sure, item, why);
      line.qty = reusable ? Math.max(line.qty, qty) : line.qty + qty;
    });
  });
  const likely = new Map<string, { qty: number; why: string[]; none: number }>();
  requireList(input.likely ?? [], "likely").forEach((need, i) => {
    const { item, qty, why, chance } = requireRecord(need, `likely[${i}]`);
    requireText(item, `likely[${i}].item`);
    requireText(why, `likely[${i}].why`);
    requireNotNegative(qty, `likely[${i}].qty`);
    if (!(requireNotNegative(chance, `likely[${i}].chance`) <= 1))
      throw new CoreError("out-of-range", `likely[${i}].chance`, `A chance lies between 0 and 1, not ${chance}.`);
    const line = add(likely, item, why) as { qty: number; why: string[]; none?: number };
    line.qty += qty;
    // Needed at all if any of the services needs it; services are taken as independent of each other.
    line.none = (line.none ?? 1) * (1 - chance);
  });
  const take = (item: string, qty: number, why: string[], chance: number): LoadLine => {
    const from: LoadLine["from"] = [];
    let wanted = qty;
    for (const [place, stock] of left) {
      const there = Math.max(0, stock.get(item) ?? 0);
      const taken = Math.min(there, wanted);
      if (taken <= 0) continue;
      stock.set(item, there - taken);
      from.push({ place, qty: rounded(taken) });
      wanted = rounded(wanted - taken);
    }
    return {
      item,
      qty: rounded(qty),
      why,
      have: rounded(qty - wanted),
      from,
      short: Math.max(0, rounded(wanted)),
      chance,
    };
  };
  return [
    ...[...sure].map(([item, { qty, why }]) => take(item, qty, why, 1)),
    ...[...likely].map(([item, { qty, why, none }]) => take(item, qty, why, Number((1 - none).toPrecision(12)))),
  ];
}

function rounded(qty: number): number {
  return Number(qty.toPrecision(12));
}
