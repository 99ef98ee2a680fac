import { dayOfUse, lineChance, lineCrossing, nowOrNext, pieceLine, type PieceSums, useOn, type WearPool } from "@core";
import type { StoredLine, WearLineRow } from "@db";

/** What is foreseen of a line that is in use. */
export type Foreseen = Pick<
  WearLineRow,
  | ("line" | "crossesOn" | "crossesFrom" | "crossesTo" | "nextOn" | "nextChance" | "secondOn" | "secondChance")
  | ("plannedCost" | "costNow" | "costNext" | "breakEven" | "advice")
>;

export interface WearCosts {
  /** Of a planned replacement: the parts and the time; cents. */
  planned: number;
  /** When it fails before; cents, the replacement among them. */
  failure: number;
  /** Of coming for it. */
  visit: number;
}

type Measured = Omit<PieceSums, "weights"> &
  Pick<WearLineRow, "worse" | "limitAt" | "firstUse" | "useNow" | "rate" | "asOf">;

/**
 * What is foreseen of a line: when it passes its limit, how likely that is before the visits that would see it, and whether it
 * pays to renew the part now.
 *
 * @param visits the next two days on which somebody would see it
 */
export function foresee(
  measured: Measured,
  { pool, visits, costs }: { pool: WearPool | null; visits: readonly string[]; costs: WearCosts },
): Foreseen {
  const [nextOn = null, secondOn = null] = visits;
  const drawn = pieceLine(measured, pool, measured.worse);
  const none = { crossesOn: null, crossesFrom: null, crossesTo: null, nextChance: null, secondChance: null };
  const noMoney = { costNow: null, costNext: null, breakEven: null, advice: null };
  const { limitAt } = measured;
  if (!drawn) return { line: null, ...none, nextOn, secondOn, plannedCost: costs.planned, ...noMoney };
  const line: StoredLine = { ...drawn, pieces: pool?.of ?? 1 };
  if (limitAt === null) return { line, ...none, nextOn, secondOn, plannedCost: costs.planned, ...noMoney };
  const crossing = lineCrossing(drawn, limitAt);
  const chance = (on: string | null): number | null =>
    on === null ? null : lineChance(drawn, limitAt, useOn(measured, on));
  const nextChance = chance(nextOn);
  return {
    line,
    crossesOn: crossing && dayOfUse(measured, crossing.at),
    crossesFrom: crossing && dayOfUse(measured, crossing.low),
    crossesTo: crossing?.high == null ? null : dayOfUse(measured, crossing.high),
    ...{ nextOn, nextChance, secondOn, secondChance: chance(secondOn), plannedCost: costs.planned },
    ...(nextChance === null ? noMoney : money(nextChance, costs, shareLeft(measured, crossing?.at ?? null))),
  };
}

/** Share of a piece's life that would be thrown away today. */
function shareLeft({ firstUse, useNow }: Measured, crossing: number | null): number {
  if (crossing === null) return 1;
  return Math.min(1, Math.max(0, (crossing - useNow) / Math.max(crossing - firstUse, 1e-9)));
}

function money(chance: number, { planned, failure, visit }: WearCosts, left: number) {
  const { advice, costNow, costNext, breakEvenChance } = nowOrNext({
    chanceBeforeNext: chance,
    plannedCost: planned,
    failureCost: failure,
    extraVisitCost: visit,
    lostUseCost: planned * left,
  });
  return { costNow: Math.round(costNow), costNext: Math.round(costNext), breakEven: breakEvenChance, advice };
}
