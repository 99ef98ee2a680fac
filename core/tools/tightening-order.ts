import { CoreError } from "../errors";
import { requirePositiveWhole } from "../numbers";

/** More than any flange has. */
const MOST_BOLTS = 10_000;

/**
 * Order in which the bolts of a flange are tightened: crosswise, never round, so that the gasket is pressed evenly.
 * Bolts are numbered from 1, clockwise.
 *
 * Counts divisible by four go in groups of two opposite pairs at right angles, as the legacy star pattern of ASME PCC-1
 * does; other even counts go by opposite pairs; odd counts by a star. Above four bolts no two neighbours follow each other.
 *
 * @param bolts whole number, 2 or more
 * @returns each bolt once
 * @throws CoreError `bad-number` unless whole and above zero, `out-of-range` below 2
 * @example tighteningOrder(8) // => [1, 5, 3, 7, 2, 6, 4, 8]
 */
export function tighteningOrder(bolts: number): number[] {
  requirePositiveWhole(bolts, "bolts");
  if (bolts > MOST_BOLTS)
    throw new CoreError("out-of-range", "bolts", `No flange has ${bolts} bolts; up to ${MOST_BOLTS} are put in order.`);
  if (bolts < 2) throw new CoreError("out-of-range", "bolts", "A tightening order needs at least two bolts.");
  if (bolts % 2 === 1) return Array.from({ length: bolts }, (_, i) => ((i * ((bolts - 1) / 2)) % bolts) + 1);
  const half = bolts / 2;
  if (bolts % 4 === 0) {
    const quarter = bolts / 4;
    return spread(quarter).flatMap((first) => [first, first + half, first + quarter, first + half + quarter]);
  }
  return spread(half).flatMap((first) => [first, first + half]);
}

/** 1 to `count`, odd ones first from four on, so that successive groups are not side by side. */
function spread(count: number): number[] {
  const all = Array.from({ length: count }, (_, i) => i + 1);
  return count < 4 ? all : [...all.filter((one) => one % 2 === 1), ...all.filter((one) => one % 2 === 0)];
}
