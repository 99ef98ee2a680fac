import { shuffled } from "./random";

const known = new Map<number, Float64Array>();
const WIDEST = 6;
const STEP = 1 / 1024;

/**
 * Quantiles of the standard normal distribution at (i + ½) / n, by adding up its density; exact to five digits.
 *
 * @param n how many, at least 1
 */
export function normalQuantiles(n: number): Float64Array {
  let quantiles = known.get(n);
  if (quantiles) return quantiles;
  quantiles = new Float64Array(n);
  const density = (z: number): number => Math.exp(-(z * z) / 2) / Math.sqrt(2 * Math.PI);
  let [below, z, i] = [0, -WIDEST, 0];
  while (i < n && z < WIDEST) {
    const next = below + (STEP * (density(z) + density(z + STEP))) / 2;
    for (let wanted = (i + 0.5) / n; i < n && wanted <= next; wanted = (i + 0.5) / n) {
      quantiles[i] = z + (STEP * (wanted - below)) / (next - below);
      i++;
    }
    below = next;
    z += STEP;
  }
  quantiles.fill(WIDEST, i);
  known.set(n, quantiles);
  return quantiles;
}

/** So many normal draws, one from each equal share of the distribution, in an order of their own. */
export const stratifiedNormals = (n: number, random: () => number): number[] =>
  shuffled([...normalQuantiles(n)], random);
