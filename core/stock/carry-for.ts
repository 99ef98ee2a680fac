import { CoreError } from "../errors";
import { requireList, requireRecord } from "../inputs";
import { requireShare } from "../numbers";

export interface Carry {
  /** Pieces to take along. */
  carry: number;
  /** The chance that they are too few, and somebody comes a second time. */
  secondTrip: number;
  /** Pieces that are used on average. */
  expected: number;
}

/** More pieces of one thing fit into no van, and a table of their sums would be long. */
const MOST = 10_000;

/**
 * How many of a part to carry, so that the chance of a second trip for it is under a level: exact, by the distribution of the sum of
 * what is needed (of independent needs with chances of their own, a Poisson binomial one where each is of one piece).
 *
 * @param input.needs each with whole pieces, needed all together or not at all, and its chance from 0 to 1
 * @param input.level highest chance of a second trip that is put up with, 0 to 1
 * @throws CoreError `bad-number`, `out-of-range`
 */
export function carryFor(input: { needs: readonly { qty: number; chance: number }[]; level: number }): Carry {
  const { needs, level } = requireRecord(input, "input");
  const most = requireShare(level, "level");
  /** Chance that so many are needed. */
  let chances = [1];
  let expected = 0;
  requireList(needs, "needs").forEach((need, i) => {
    const { qty, chance } = requireRecord(need, `needs[${i}]`);
    if (!Number.isInteger(qty) || qty < 0 || chances.length + qty > MOST)
      throw new CoreError(
        "out-of-range",
        `needs[${i}].qty`,
        `needs[${i}].qty must be whole pieces, together under ${MOST}.`,
      );
    const p = requireShare(chance, `needs[${i}].chance`);
    const next = new Array<number>(chances.length + qty).fill(0);
    chances.forEach((before, n) => {
      next[n] = (next[n] ?? 0) + before * (1 - p);
      next[n + qty] = (next[n + qty] ?? 0) + before * p;
    });
    chances = next;
    expected += qty * p;
  });
  // From the end: sums of what is small do not lose their digits in what is large.
  let beyond = 0;
  let carry = chances.length - 1;
  for (let n = carry; n > 0; n--) {
    const more = beyond + (chances[n] ?? 0);
    if (more > most) break;
    beyond = more;
    carry = n - 1;
  }
  return { carry, secondTrip: beyond, expected };
}
