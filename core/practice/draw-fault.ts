import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { CoreError } from "../errors";
import type { FaultGuide, OptionClause } from "../faults/guide";
import { isMeant } from "../faults/guide-search";
import { must } from "../must";
import { uniform } from "../random";

/** What is wrong with a practice machine, and what each check will show of it. */
export interface HiddenFault {
  symptom: string;
  cause: string;
  /** Ids of fitted options. */
  options: string[];
  /** Checks that show it this time. */
  shownBy: string[];
}

/**
 * The machine of a seed: the same seed is the same machine. The surest check of a cause always shows it, others as often as the
 * guide says.
 *
 * @param wanted a symptom or a cause of it, where not any will do
 * @throws CoreError of a symptom or a cause that the guide does not have
 */
export function drawFault(
  guide: FaultGuide,
  seed: number,
  wanted: { symptom?: string; cause?: string } = {},
): HiddenFault {
  const random = uniform(xoroshiro128plus(seed));
  // So that near seeds are no near machines.
  for (let i = 0; i < 8; i++) random();
  const symptoms = guide.symptoms.filter(
    (one) =>
      (wanted.symptom === undefined || one.id === wanted.symptom) &&
      (wanted.cause === undefined || one.causes.some(({ cause }) => cause === wanted.cause)),
  );
  if (symptoms.length === 0) throw new CoreError("unknown-reference", "symptom", "The guide has no such fault.");
  const symptom = must(symptoms[Math.floor(random() * symptoms.length)]);
  const causes = symptom.causes.filter(({ cause }) => wanted.cause === undefined || cause === wanted.cause);
  const cause = drawn(causes, random);
  const known = must(guide.causes.find((one) => one.id === cause));
  const decided = [...(symptom.on ?? []), ...(known.on ?? [])];
  const options = guide.options.map((one) => one.id).filter((id) => isFitted(id, decided, random() < 0.5));
  const checks = guide.checks.flatMap(({ id, finds, on }) => {
    const share = finds.find((one) => one.cause === cause)?.share ?? 0;
    const draw = random();
    return share > 0 && isMeant(on, options) ? [{ id, share, shows: draw < share }] : [];
  });
  const surest = Math.max(...checks.map((one) => one.share));
  return {
    symptom: symptom.id,
    cause,
    options,
    shownBy: checks.filter((one) => one.shows || one.share === surest).map((one) => one.id),
  };
}

function isFitted(option: string, decided: readonly OptionClause[], otherwise: boolean): boolean {
  return decided.find((one) => one.option === option)?.fitted ?? otherwise;
}

function drawn(causes: readonly { cause: string; chance: number }[], random: () => number): string {
  let left = random() * causes.reduce((sum, one) => sum + one.chance, 0);
  for (const { cause, chance } of causes) {
    left -= chance;
    if (left < 0) return cause;
  }
  return must(causes[causes.length - 1]).cause;
}
