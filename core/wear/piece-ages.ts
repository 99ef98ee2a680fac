import { CoreError } from "../errors";
import { fitWeibull, type WeibullFit } from "./fit-weibull";
import { replacementAge } from "./replacement-age";
import type { CameOut } from "./worn-values";

const DAY_MS = 86_400_000;

/** A piece that went into a slot, and why the one before came out. */
export interface FittedPiece {
  machineId: string;
  slot: string;
  cameOut: CameOut;
  /** Instant, ms. */
  at: number;
  /** Instant (ms) at which its machine was taken out; null while it is there. */
  retiredAt: number | null;
}

/** Ages of pieces in days: of those that were worn or failed, and of those that did not get so far. */
export interface PieceAges {
  failures: number[];
  suspensions: number[];
}

/**
 * Ages from what went into slots, in order of slot and time. A piece that was there before anything was logged has no age; one that
 * is in use has the one of today, or of the day on which its machine was taken out.
 *
 * @param now instant, ms
 */
export function pieceAges(fits: readonly FittedPiece[], now: number): PieceAges {
  const ages: PieceAges = { failures: [], suspensions: [] };
  fits.forEach((fit, i) => {
    const next = fits[i + 1];
    const goesOn = next?.machineId === fit.machineId && next.slot === fit.slot;
    const days = ((goesOn ? next.at : (fit.retiredAt ?? now)) - fit.at) / DAY_MS;
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
  /** Money a day. */
  costRate: number;
  runToFailure: number;
}

/**
 * How long pieces last, and whether renewing them by plan pays.
 *
 * @param costs in one unit of money
 * @returns null while too few have failed, or a failure costs nothing
 */
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
