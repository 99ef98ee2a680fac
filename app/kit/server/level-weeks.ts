import { type LevelItem, levelledWeeks, levelModel, weeklyMinutes } from "@core";
import highs from "highs";

/** The general-purpose MIP solver HiGHS, as WebAssembly: loaded when first asked. */
let solver: ReturnType<typeof highs> | null = null;

/** Weeks of levelled work, with the relaxation's optimum as bound; the best plan found in the seconds given. */
export async function levelWeeks(
  items: readonly LevelItem[],
  weeks: number,
  seconds: number,
): Promise<{ chosen: Map<string, number>; bound: number; optimal: boolean }> {
  const model = levelModel(items, weeks);
  const fixedPeak = Math.max(0, ...weeklyMinutes(items, weeks));
  if (model.classes.length === 0) return { chosen: new Map(), bound: fixedPeak, optimal: true };
  solver ??= highs();
  // A WebAssembly instance that failed once cannot be trusted again.
  const relaxed = relaxedPeak((await solver).solve(model.lp.replace(/\nGeneral\n.*\nEnd$/s, "\nEnd")));
  let result;
  try {
    result = (await solver).solve(model.lp, { time_limit: seconds, mip_rel_gap: 0.001 });
  } catch {
    solver = null;
    return { chosen: new Map(), bound: relaxed, optimal: false };
  }
  const columns = result.Columns as Record<string, { Primal?: number }>;
  if (columns.peak?.Primal === undefined) return { chosen: new Map(), bound: relaxed, optimal: false };
  return {
    chosen: levelledWeeks(model, (name) => columns[name]?.Primal ?? 0),
    bound: relaxed,
    optimal: result.Status === "Optimal",
  };
}

function relaxedPeak(result: { Columns: unknown }): number {
  return Math.floor((result.Columns as Record<string, { Primal?: number }>).peak?.Primal ?? 0);
}
