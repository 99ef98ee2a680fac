import { type Criticality, getDb } from "@db";

import * as sql from "./failure-figures.sql";

/** What the firm counts with when a part fails, cents. */
export interface FailureFigures {
  /** Lost use and harm, by how much the machine matters. */
  failure: Record<Criticality, number>;
  /** Coming for it alone. */
  visit: number;
  /** The chance of a second trip for a part that is put up with, 0 to 1. */
  secondTrip: number;
}

/** While nobody has set others: figures to begin with, not facts of the trade. */
const USUAL_FIGURES: FailureFigures = {
  failure: { low: 5_000, usual: 20_000, high: 80_000 },
  visit: 9_000,
  secondTrip: 0.1,
};

const NAME = "failure-figures";

export async function failureFigures(): Promise<FailureFigures & { set: boolean }> {
  const row = await getDb().models.Setting.findOne({ where: { name: NAME }, raw: true });
  return row ? { ...USUAL_FIGURES, ...(row.value as FailureFigures), set: true } : { ...USUAL_FIGURES, set: false };
}

/** Keeps the firm's figures; what is foreseen of parts is worked out anew with them. */
export async function setFailureFigures(figures: FailureFigures): Promise<void> {
  await sql.keepSetting({ name: NAME, value: JSON.stringify(figures) });
  await getDb().models.WearLine.update({ stale: true }, { where: { current: true } });
}
