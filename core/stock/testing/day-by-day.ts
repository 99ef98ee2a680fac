import { addDays } from "../../days/add-days";
import { must } from "../../must";
import type { Demand, Lot } from "../types";

/** The same question as `runOut`, lived through one day after the other, one unit after the other. Whole quantities only. */
export function liveThrough(input: { onHand: number; lots: Lot[]; demand: Demand[]; today: string; until: string }): {
  runsOutOn: string | null;
  unmet: number;
  thrownAway: { on: string; qty: number }[];
} {
  const shelf: (string | null)[] = [];
  for (const { qty, expires } of input.lots) for (let i = 0; i < qty; i++) shelf.push(expires ?? null);
  // Units of the lots that were used without being written down came from what expires first.
  const byExpiry = (a: string | null, b: string | null): number =>
    a === null ? (b === null ? 0 : 1) : b === null ? -1 : a < b ? -1 : a > b ? 1 : 0;
  shelf.sort(byExpiry);
  while (shelf.length > Math.max(0, input.onHand)) shelf.shift();
  while (shelf.length < input.onHand) shelf.push(null);

  let runsOutOn: string | null = null;
  let unmet = 0;
  const thrown = new Map<string, number>();
  const expired = shelf.filter((expires) => expires !== null && expires < input.today) as string[];
  for (const expires of expired) {
    thrown.set(expires, (thrown.get(expires) ?? 0) + 1);
    shelf.splice(shelf.indexOf(expires), 1);
  }
  for (let day = input.today; day <= input.until; day = addDays(day, 1)) {
    for (const { on, qty } of input.demand) {
      if (on !== day) continue;
      for (let i = 0; i < qty; i++) {
        shelf.sort(byExpiry);
        if (shelf.length > 0) shelf.shift();
        else {
          unmet++;
          runsOutOn ??= day;
        }
      }
    }
    // In the evening what expires today goes.
    for (let i = shelf.indexOf(day); i >= 0; i = shelf.indexOf(day)) {
      shelf.splice(i, 1);
      thrown.set(day, (thrown.get(day) ?? 0) + 1);
    }
  }
  return {
    runsOutOn,
    unmet,
    thrownAway: [...thrown].sort((a, b) => (a[0] < b[0] ? -1 : 1)).map(([on, qty]) => ({ on, qty })),
  };
}

/** Services done from a kit one after the other until one lacks something. */
export function serveFrom(
  kit: Record<string, number>,
  perService: Record<string, number>,
): { services: number; lacking: string[]; left: Record<string, number> } {
  const left = { ...kit };
  for (let services = 0; ; services++) {
    const lacking = Object.entries(perService).flatMap(([item, qty]) => (qty > (left[item] ?? 0) ? [item] : []));
    if (lacking.length > 0) return { services, lacking, left };
    for (const [item, qty] of Object.entries(perService)) if (qty > 0) left[item] = must(left[item]) - qty;
  }
}
