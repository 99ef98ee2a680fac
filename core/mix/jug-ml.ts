import { requireNotNegative } from "../numbers";

/** From here on a jug shows whole millilitres; below, a syringe shows parts of them. */
const WHOLE_FROM = 20;

/**
 * A volume as it can be measured out, mL: whole millilitres, below 20 mL three significant digits (common practice:
 * what a jug or a syringe shows). What is told to be measured out and what is logged are the same figure.
 *
 * @param ml volume, mL, zero or more
 * @throws CoreError unless it is a finite number, zero or more
 */
export function jugMl(ml: number): number {
  const volume = requireNotNegative(ml, "ml");
  return volume < WHOLE_FROM ? Number(volume.toPrecision(3)) : Math.round(volume);
}
