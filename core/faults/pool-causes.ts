import { casesOf, type LearnedCause, spanOf } from "./learn-causes";

/** Cases that typical chances count for against what the family's machines have shown; common practice. */
const TYPICAL_CASES = 10;
/** Cases that the family counts for against what one machine has shown. */
const FAMILY_CASES = 5;

/**
 * Chances of a symptom's causes on one machine: typical ones taken over by what was found on all machines of the family, those by
 * what was found on this one. Each step is that of `learnCauses`.
 *
 * @param input.typical in any scale
 * @param input.others how often each cause was found on the family's other machines
 * @param input.own how often on this machine
 * @returns `n` counts both; causes that the guide does not have for the symptom any more are left out
 */
export function poolCauses(input: {
  typical: Readonly<Record<string, number>>;
  others: ReadonlyMap<string, number>;
  own: ReadonlyMap<string, number>;
}): Record<string, LearnedCause> {
  const { typical, others, own } = input;
  const known = Object.keys(typical).reduce((sum, id) => sum + (others.get(id) ?? 0), 0);
  const family = casesOf(typical, TYPICAL_CASES, others);
  // What many have shown weighs as much for this machine as a few faults of its own.
  const cases = casesOf(family, FAMILY_CASES + Math.min(known, FAMILY_CASES), own);
  const all = Object.values(cases).reduce((sum, one) => sum + one, 0);
  return Object.fromEntries(
    Object.entries(cases).map(([id, a]) => [
      id,
      { weight: a / all, ...spanOf(a, all - a), n: (others.get(id) ?? 0) + (own.get(id) ?? 0) },
    ]),
  );
}
