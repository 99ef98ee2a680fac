import { quantity } from "~/kit/forms/quantity";

/** By steps that a jug, a syringe or a kitchen scale shows, from so much on (common practice). */
const STEPS = [
  { from: 1000, by: 100 },
  { from: 100, by: 10 },
  { from: 20, by: 5 },
  { from: 5, by: 1 },
  { from: 0, by: 0.5 },
] as const;

const isMeasured = (unit: string): boolean => unit === "mL" || unit === "g";

/** An amount as it can be measured out, never less than it takes. Pieces are what they are. */
export function measurable(qty: number, unit: string): number {
  if (!isMeasured(unit) || qty <= 0) return qty;
  const by = STEPS.find((step) => qty > step.from)?.by ?? 1;
  // Sums of amounts are not exact to the last digit.
  return Math.ceil(qty / by - 1e-9) * by;
}

/** What to take along, in words: measurable amounts; what is renewed in pairs in pairs. */
export function takeAlong(qty: number, unit: string, isPair: boolean): string {
  if (!isPair || qty < 2) return quantity(measurable(qty, unit), unit);
  const pairs = Math.floor(qty / 2);
  const words = pairs === 1 ? "1 pair" : `${pairs} pairs`;
  return qty % 2 === 0 ? words : `${words} and ${quantity(qty - 2 * pairs, unit)}`;
}
