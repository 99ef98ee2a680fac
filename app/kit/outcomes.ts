import type { Outcome } from "@core";

/** How a visit that ended without the work is called, in the order a person chooses from. */
export const OUTCOMES: readonly (readonly [Outcome, string])[] = [
  ["no-access", "No access"],
  ["refused", "Refused"],
  ["part-missing", "Part missing"],
];

export function outcomeName(outcome: string): string {
  return OUTCOMES.find(([value]) => value === outcome)?.[1] ?? outcome;
}
