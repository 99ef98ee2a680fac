import { requireList, requireRecord } from "../inputs";
import { requireNotNegative, requirePositive } from "../numbers";
import { quantileSorted } from "../quantile";

export interface MinutesSample {
  minutes: number;
  sameSite: boolean;
  samePerson: boolean;
}

export interface LearnedMinutes {
  /** Hands-on minutes to plan with. */
  minutes: number;
  /** The middle half of the services it rests on; null when it rests on the typical figure. */
  low: number | null;
  high: number | null;
  /** Services it rests on. */
  n: number;
  basis: "person-site" | "site" | "person" | "everybody" | "typical";
  /** Standard deviation of the logarithm of the minutes, for simulations. */
  spread: number;
}

/** Fewer services say too little. */
const ENOUGH = 3;
/** Scatter of manual work of which nothing is known: about a quarter up or down (common practice). */
export const UNKNOWN_SPREAD = 0.25;
const LEAST_SPREAD = 0.05;

/**
 * Hands-on minutes of a procedure at a site in a person's hands, from what past services took: the median of the closest
 * group with at least three services (this person here, anybody here, this person elsewhere, everybody), so that one odd
 * service does not carry weight. Spread by the median absolute deviation of the logarithms (times 1.4826: the usual factor
 * that makes it a standard deviation for normal data; F. Hampel, JASA 69, 1974).
 *
 * @param typical the procedure's own figure, minutes
 */
export function learnMinutes(typical: number, samples: readonly MinutesSample[]): LearnedMinutes {
  requirePositive(typical, "typical");
  requireList(samples, "samples").forEach((sample, i) =>
    requireNotNegative(requireRecord(sample, `samples[${i}]`).minutes, `samples[${i}].minutes`),
  );
  const usable = samples.filter((sample) => sample.minutes > 0);
  const groups: [LearnedMinutes["basis"], (sample: MinutesSample) => boolean][] = [
    ["person-site", (sample) => sample.samePerson && sample.sameSite],
    ["site", (sample) => sample.sameSite],
    ["person", (sample) => sample.samePerson],
    ["everybody", () => true],
  ];
  for (const [basis, belongs] of groups) {
    const minutes = usable
      .filter(belongs)
      .map((sample) => sample.minutes)
      .sort((a, b) => a - b);
    if (minutes.length < ENOUGH) continue;
    const median = quantileSorted(minutes, 0.5);
    const deviations = minutes.map((one) => Math.abs(Math.log(one / median))).sort((a, b) => a - b);
    return {
      minutes: Math.max(1, Math.round(median)),
      low: Math.round(quantileSorted(minutes, 0.25)),
      high: Math.round(quantileSorted(minutes, 0.75)),
      n: minutes.length,
      basis,
      spread: Math.max(LEAST_SPREAD, 1.4826 * quantileSorted(deviations, 0.5)),
    };
  }
  return { minutes: typical, low: null, high: null, n: 0, basis: "typical", spread: UNKNOWN_SPREAD };
}
