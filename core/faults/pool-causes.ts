import type { LearnedCause } from "./learn-causes";
import { learnCauses } from "./learn-causes";

/** Cases that typical chances count for against what the family's machines have shown; common practice. */
const TYPICAL_CASES = 10;
/** Cases that the family counts for against what one machine has shown. */
const FAMILY_CASES = 5;

/**
 * Chances of a symptom's causes on one machine: typical ones taken over by what was found on all machines of the family, those by
 * what was found on this one.
 *
 * @param input.typical in any scale
 * @param input.others causes found on the family's other machines, one for each fault
 * @param input.own causes found on this machine
 * @returns `n` counts both; causes that the guide does not have for the symptom any more are left out
 */
export function poolCauses(input: {
  typical: Record<string, number>;
  others: readonly string[];
  own: readonly string[];
}): Record<string, LearnedCause> {
  const { typical } = input;
  const known = (list: readonly string[]): string[] => list.filter((cause) => Object.hasOwn(typical, cause));
  const [others, own] = [known(input.others), known(input.own)];
  const family = learnCauses({ prior: typical, strength: TYPICAL_CASES, seen: others });
  // What many have shown weighs as much for this machine as a few faults of its own.
  const prior = Object.fromEntries(Object.entries(family).map(([cause, { weight }]) => [cause, weight]));
  const pooled = learnCauses({ prior, strength: FAMILY_CASES + Math.min(others.length, FAMILY_CASES), seen: own });
  return Object.fromEntries(
    Object.entries(pooled).map(([cause, one]) => [cause, { ...one, n: one.n + (family[cause]?.n ?? 0) }]),
  );
}
