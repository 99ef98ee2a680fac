import { requireRecord } from "../inputs";
import { plainNumber, requirePositive } from "../numbers";

export interface StrainerVerdict {
  /** Drop now over clean drop. */
  ratio: number;
  /** Flow now over clean flow at the same drive. */
  flowFraction: number;
  verdict: string;
}

/**
 * What a strainer's pressure drop says about the flow that is left. Turbulent flow: drop ∝ flow², so at a given drive the
 * flow is √(clean drop ÷ drop now): a fourfold drop leaves half.
 *
 * @param input.cleanDrop drop across the clean strainer, above 0, any unit of pressure
 * @param input.drop drop now, above 0, same unit
 * @throws CoreError `bad-number`
 * @example strainerDrop({ cleanDrop: 20, drop: 80 }) // => { ratio: 4, flowFraction: 0.5, … }
 */
export function strainerDrop(input: { cleanDrop: number; drop: number }): StrainerVerdict {
  const cleanDrop = requirePositive(requireRecord(input, "input").cleanDrop, "cleanDrop");
  const drop = requirePositive(input.drop, "drop");
  const ratio = drop / cleanDrop;
  const flowFraction = Math.sqrt(cleanDrop / drop);
  const left = `about ${plainNumber(flowFraction * 100)} % of the clean flow is left`;
  const verdict =
    ratio < 1
      ? "Less than when clean: check the gauges, the baseline, and that the screen is in and whole."
      : ratio < 2
        ? `Drop ${plainNumber(ratio)} times the clean one, ${left}: as it should be.`
        : ratio < 4
          ? `Drop has doubled (${plainNumber(ratio)} times), ${left}: clean the strainer.`
          : `Drop ${plainNumber(ratio)} times the clean one, ${left}: clean or replace the strainer now.`;
  return { ratio, flowFraction, verdict };
}
