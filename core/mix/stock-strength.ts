import type { ChemicalClass } from "./check-mix";

/**
 * The strongest stock of a class that is sold for work of this kind, percent weight per volume (from memory, rounded up: nothing
 * stronger is what the bottle says).
 */
const STRONGEST: Partial<Record<ChemicalClass, number>> = {
  hypochlorite: 16,
  peroxide: 50,
  ammonia: 35,
  caustic: 60,
  quaternary: 80,
};

/** A stock loses strength as it stands; more than this many times what its label says it never has, and seldom less (common practice). */
const [LEAST_OF_LABEL, MOST_OF_LABEL] = [0.3, 1.25];

/**
 * Whether a stock can have the strength that was typed: by what is sold of its class, and by its own label.
 *
 * @returns in words what is against it; null when nothing is. `refused` is what cannot be, else it is to be asked about
 */
export function strengthFault(
  percent: number,
  { chemical, labelled }: { chemical?: ChemicalClass | undefined; labelled?: number | undefined },
): { refused: boolean; because: string } | null {
  const most = (chemical === undefined ? undefined : STRONGEST[chemical]) ?? 100;
  if (!(percent > 0)) return { refused: true, because: "The strength must be above zero percent." };
  if (percent > most)
    return { refused: true, because: `No such product is stronger than ${most} %: look at the label again.` };
  if (labelled === undefined || (percent >= labelled * LEAST_OF_LABEL && percent <= labelled * MOST_OF_LABEL))
    return null;
  return { refused: false, because: `${percent} % is far from the usual ${labelled} %: is it the right bottle?` };
}
