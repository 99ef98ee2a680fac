import { requireList, requireRecord } from "../inputs";
import { must } from "../must";
import { requireFinite, requirePositive } from "../numbers";

export type ControlRule = "1-2s" | "1-3s" | "2-2s" | "R-4s" | "4-1s" | "10x";

export interface RuleHit {
  rule: ControlRule;
  /** Index, from 0, of the value that completes the pattern. */
  at: number;
}

const RULES: readonly { rule: ControlRule; run: number; holds: (z: readonly number[]) => boolean }[] = [
  { rule: "1-2s", run: 1, holds: ([z]) => Math.abs(must(z)) > 2 },
  { rule: "1-3s", run: 1, holds: ([z]) => Math.abs(must(z)) > 3 },
  { rule: "2-2s", run: 2, holds: (z) => sameSideBeyond(z, 2) },
  { rule: "R-4s", run: 2, holds: ([a, b]) => (must(a) > 2 && must(b) < -2) || (must(a) < -2 && must(b) > 2) },
  { rule: "4-1s", run: 4, holds: (z) => sameSideBeyond(z, 1) },
  { rule: "10x", run: 10, holds: (z) => sameSideBeyond(z, 0) },
];

function sameSideBeyond(z: readonly number[], limit: number): boolean {
  return z.every((one) => one > limit) || z.every((one) => one < -limit);
}

/**
 * Control rules for check fluids and test pieces, each judged by itself (1-2s is no gate for the others), as defined by
 * Westgard, Barry, Hunt and Groth, Clinical Chemistry 27 (1981) 493–501. A value exactly on a limit does not exceed it.
 * R-4s is taken over two consecutive values, one above +2s and one below −2s.
 *
 * @param input.values in order, in one unit
 * @param input.mean in-control mean, same unit
 * @param input.sd in-control standard deviation, same unit, above 0
 * @returns every completed pattern in the order of `at`, rules in the order of the list above
 * @throws CoreError `bad-number`
 */
export function westgard(input: { values: number[]; mean: number; sd: number }): RuleHit[] {
  const mean = requireFinite(requireRecord(input, "input").mean, "mean");
  const sd = requirePositive(input.sd, "sd");
  // Rounded, so that a value typed exactly on a limit does not exceed it by the error of the subtraction.
  const z = requireList(input.values, "values").map(
    (value, i) => Math.round(((requireFinite(value, `values[${i}]`) - mean) / sd) * 1e9) / 1e9,
  );
  return z.flatMap((_, at) =>
    RULES.filter(({ run, holds }) => at + 1 >= run && holds(z.slice(at + 1 - run, at + 1))).map(({ rule }) => ({
      rule,
      at,
    })),
  );
}
