import type { Ledger } from "@core";

/** How many of what: "2 × pan"; one of a kind goes without its number. */
export const partsInWords = ({ item, count }: { item: string; count: number }): string =>
  count === 1 ? item : `${count} × ${item}`;

/**
 * What is still to go back on with a step, as many as are off: some of it may be back on already, or more came off than the
 * procedure says. All of it while nothing that it puts back is known to be off.
 */
export function toGoBack(putsBack: readonly { item: string; count: number }[], ledger: Ledger): Ledger {
  const off = putsBack.flatMap(({ item }) => {
    const known = ledger.filter((one) => one.item === item);
    const [first] = known;
    return first ? [{ ...first, count: known.reduce((sum, one) => sum + one.count, 0) }] : [];
  });
  return off.length > 0 ? off : [...putsBack];
}
