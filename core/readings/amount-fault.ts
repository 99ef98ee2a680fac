import { CoreError } from "../errors";
import { requireRecord } from "../inputs";
import { requireFinite } from "../numbers";

/** More than so many times what is usual, or less than that part of it, is asked about: a slip of the point is tenfold (common practice). */
const FAR = 5;
/** Units that are counted: of those there is no half. */
const COUNTED = new Set(["pc", "pair", "set", "roll", "sheet", "tablet", "sachet", "bottle", "tube", "pack"]);

const short = (value: number): string => String(Number(value.toPrecision(3)));

/**
 * Whether so much of a material or solution can have been used, and is what is usually taken. Nothing used is a right answer.
 *
 * @param qty in `unit`
 * @param known.usual what the procedure takes, in the same unit; null where it says nothing
 * @returns in words what is against it; null when nothing is. `refused` is what cannot be, else it is to be asked about
 * @throws CoreError when `usual` is no amount
 */
export function amountFault(
  qty: number,
  known: { usual: number | null; unit: string },
): { refused: boolean; because: string } | null {
  const { usual, unit } = requireRecord(known, "known");
  if (usual !== null && requireFinite(usual, "usual") < 0)
    throw new CoreError("bad-value", "usual", "usual must be an amount, zero or more.");
  if (!Number.isFinite(qty)) return { refused: true, because: "This is no amount." };
  if (qty < 0) return { refused: true, because: "Less than nothing cannot have been used." };
  if (COUNTED.has(unit) && !Number.isInteger(qty))
    return { refused: false, because: `${short(qty)} ${unit} is no whole number.` };
  if (usual === null || usual === 0 || qty === 0) return null;
  const times = qty / usual;
  if (times <= FAR && times >= 1 / FAR) return null;
  const against = times > 1 ? `${short(times)} times` : `one part in ${short(1 / times)} of`;
  return {
    refused: false,
    because: `${short(qty)} ${unit} is ${against} what this takes, ${short(usual)} ${unit}.`,
  };
}
