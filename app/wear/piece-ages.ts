import { type CameOut, CoreError, fitWeibull, replacementAge, type WeibullFit } from "@core";

const DAY_MS = 86_400_000;

/** A piece that went into a slot, and why the one before came out. */
export interface Fit {
  machineId: string;
  slot: string;
  cameOut: CameOut;
  fittedAt: Date;
  retiredOn: string | null;
}

/** Ages of pieces in days: of those that were worn or failed, and of those that did not get so far. */
export interface PieceAges {
  failures: number[];
  suspensions: number[];
}

/**
 * Ages from what went into slots, in order of slot and time. A piece that was there before anything was logged has no age; one that
 * is in use has the one of today, or of the day on which its machine was taken out.
 */
export function pieceAges(fits: readonly Fit[], now: Date): PieceAges {
  const ages: PieceAges = { failures: [], suspensions: [] };
  fits.forEach((fit, i) => {
    const next = fits[i + 1];
    const goesOn = next?.machineId === fit.machineId && next.slot === fit.slot;
    const until = goesOn ? next.fittedAt.getTime() : fit.retiredOn === null ? now.getTime() : Date.parse(fit.retiredOn);
    const days = (until - fit.fittedAt.getTime()) / DAY_MS;
    // Two of one day are a slip that was put right, not a life.
    if (days < 1) return;
    (goesOn && next.cameOut !== "planned" ? ages.failures : ages.suspensions).push(days);
  });
  return ages;
}

export interface LifeSaid {
  fit: WeibullFit;
  failures: number;
  suspensions: number;
  /** Days at which renewing it by plan costs least; null: run it till it fails. */
  age: number | null;
  /** Cents a day. */
  costRate: number;
  runToFailure: number;
}

/** How long pieces last, and whether renewing them by plan pays; null while too few have failed. */
export function lifeOf(
  { failures, suspensions }: PieceAges,
  costs: { planned: number; failure: number },
): LifeSaid | null {
  if (costs.failure <= 0) return null;
  try {
    const fit = fitWeibull({ failures, suspensions });
    const { age, costRate, runToFailureCostRate } = replacementAge({
      ...{ shape: fit.shape, scale: fit.scale },
      ...{ plannedCost: Math.max(1, costs.planned), failureCost: costs.failure },
    });
    const said = { fit, failures: failures.length, suspensions: suspensions.length };
    return { ...said, age, costRate, runToFailure: runToFailureCostRate };
  } catch (error) {
    // Fewer than two different ages say nothing.
    if (error instanceof CoreError) return null;
    throw error;
  }
}
