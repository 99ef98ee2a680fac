import jstat from "jstat";

import { CoreError } from "../errors";
import { requireList, requireRecord } from "../inputs";
import { requireNotNegative, requirePositive } from "../numbers";

export interface LearnedCause {
  /** Mean of its chance. */
  weight: number;
  /** 5th and 95th percentile of its chance. */
  low: number;
  high: number;
  /** Times it was seen. */
  n: number;
}

/**
 * Chances of causes that begin as typical and are taken over by what was found: a Dirichlet distribution with the typical chances
 * for as many cases as `strength` says, and one more for each that was seen (A. Gelman et al., Bayesian Data Analysis, 3rd ed.
 * 2013, section 3.4). Each cause's chance has a beta distribution.
 *
 * @param input.prior weights of any scale, not all of them 0
 * @param input.strength cases that the typical chances count for, above 0
 * @param input.seen the cause of each case
 * @throws CoreError `unknown-reference` for a cause without a typical weight
 * @example learnCauses({ prior: { dirt: 3, pump: 1 }, strength: 4, seen: ["pump", "pump", "pump", "pump"] })
 * // => { dirt: { weight: 0.375, low: 0.129, high: 0.659, n: 0 }, pump: { weight: 0.625, low: 0.341, high: 0.871, n: 4 } }
 */
export function learnCauses(input: {
  prior: Record<string, number>;
  strength: number;
  seen: readonly string[];
}): Record<string, LearnedCause> {
  const { prior, strength, seen } = requireRecord(input, "input");
  const counts = new Map<string, number>();
  requireRecord(prior, "prior");
  requireList(seen, "seen").forEach((id, i) => {
    if (!Object.hasOwn(prior, id))
      throw new CoreError("unknown-reference", `seen[${i}]`, `The cause "${id}" has no typical weight.`);
    counts.set(id, (counts.get(id) ?? 0) + 1);
  });
  const cases = casesOf(prior, strength, counts);
  const all = sumOf(Object.values(cases));
  return Object.fromEntries(
    Object.entries(cases).map(([id, a]) => [id, { weight: a / all, ...spanOf(a, all - a), n: counts.get(id) ?? 0 }]),
  );
}

/** Cases of each cause: typical ones, as many as `strength` says in all, and those that were seen. */
export function casesOf(
  prior: Readonly<Record<string, number>>,
  strength: number,
  counts: ReadonlyMap<string, number>,
): Record<string, number> {
  const causes = Object.entries(prior);
  const total = sumOf(causes.map(([id, weight]) => requireNotNegative(weight, `prior.${id}`)));
  if (total <= 0) throw new CoreError("out-of-range", "prior", "At least one cause needs a weight above 0.");
  requirePositive(strength, "strength");
  return Object.fromEntries(causes.map(([id, weight]) => [id, (weight / total) * strength + (counts.get(id) ?? 0)]));
}

const sumOf = (list: readonly number[]): number => list.reduce((sum, one) => sum + one, 0);

/** 5th and 95th percentile of a beta distribution. @param a cases of it @param b of all others */
export function spanOf(a: number, b: number): { low: number; high: number } {
  if (a <= 0) return { low: 0, high: 0 };
  // Rounding leaves next to nothing where no other cause has any case.
  if (b <= 1e-9) return { low: 1, high: 1 };
  return { low: jstat.beta.inv(0.05, a, b), high: jstat.beta.inv(0.95, a, b) };
}
