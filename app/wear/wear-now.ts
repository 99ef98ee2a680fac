import { pieceSums, type WearPool, type WearValue, type Worse } from "@core";

import { foresee, type Foreseen, type WearCosts } from "./foresee";

/** What of a slot's wear a sheet needs, so that a new value says at once what it means. */
export interface WearOnSheet {
  slot: string;
  item: string;
  itemName: string;
  slotName: string;
  reading: string;
  unit: string;
  per: string;
  worse: Worse;
  limitAt: number | null;
  /** Of the piece that is in it. */
  values: Pick<WearValue, "use" | "value" | "confirmed">[];
  pool: WearPool | null;
  useNow: number;
  rate: number | null;
  asOf: string;
  /** What its meter showed last, and the use by then; null where it wears by days, or was never read. */
  face: { value: number; use: number } | null;
  /** The visits after this one that would see it. */
  visits: string[];
  costs: WearCosts;
}

export interface WearSaid extends Foreseen {
  n: number;
  lastValue: number;
  rate: number | null;
}

/**
 * What a value that was read just now says of a part, with those before it.
 *
 * @param face what its meter shows today, where that was read
 */
export function wearNow(
  known: WearOnSheet,
  read: { value: number; confirmed: boolean },
  face: number | null,
): WearSaid | null {
  // A meter that shows less than before is another one: then the use goes by what is usual.
  const useNow =
    known.face && face !== null && face >= known.face.value ? known.face.use + face - known.face.value : known.useNow;
  const values = [...known.values, { use: useNow, ...read }];
  const sums = pieceSums(values);
  if (!sums) return null;
  const { pool, visits, costs, worse, limitAt, rate, asOf } = known;
  const firstUse = values[0]?.use ?? useNow;
  const said = foresee({ ...sums, worse, limitAt, firstUse, useNow, rate, asOf }, { pool, visits, costs });
  return { ...said, n: sums.n, lastValue: read.value, rate };
}
