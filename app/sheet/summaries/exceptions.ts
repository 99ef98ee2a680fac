import { capital } from "~/kit/capital";

/**
 * What is not as it should be in a record, each with its bit: what an inspector asks for first. The order is that in which
 * they are told.
 */
export const EXCEPTIONS = [
  ["unsafe", 1, "Done as it must not be"],
  ["limit", 2, "Out of limits"],
  ["finding", 4, "Finding"],
  ["skipped", 8, "Step skipped"],
  ["missing", 16, "Signed with steps missing"],
  ["corrected", 32, "Corrected"],
  ["late", 64, "Entries that came late"],
  ["ended", 128, "Work not done"],
  ["expired", 256, "Calibration expired"],
  ["clock", 512, "Times not certain"],
] as const;

export type Exception = (typeof EXCEPTIONS)[number][0];

/** The exceptions of a record. */
export function exceptionsIn(bits: number): Exception[] {
  return EXCEPTIONS.flatMap(([name, bit]) => ((bits & bit) === 0 ? [] : [name]));
}

/** The exceptions of a record in words: `Out of limits, finding`. */
export function exceptionWords(bits: number): string {
  return capital(
    exceptionsIn(bits)
      .map((name) => exceptionName(name).toLowerCase())
      .join(", "),
  );
}

export function bitsOf(names: Iterable<Exception>): number {
  const all = new Set(names);
  return EXCEPTIONS.reduce((bits, [name, bit]) => (all.has(name) ? bits | bit : bits), 0);
}

export function exceptionName(name: Exception): string {
  return EXCEPTIONS.find(([one]) => one === name)?.[2] ?? name;
}
