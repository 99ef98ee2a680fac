import type { PastValues, Procedure, RunEventBody, SheetStep, Step, StepRef } from "@core";
import type { ReactNode } from "react";

export interface StepCardProps<Kind extends Step["kind"] = Step["kind"]> {
  procedure: Procedure;
  one: SheetStep & { definition: Extract<Step, { kind: Kind }> };
  /** May be worked now; a later step is shown, but takes nothing. */
  open: boolean;
  log: (...bodies: RunEventBody[]) => void;
  /** What was read on this machine before, oldest first. */
  ghosts: PastValues;
  elapsedMinutes: number | null;
  /** What to do while the step's clock runs: the main button then. */
  meanwhile?: ReactNode;
  /** Away from a settled step, to where the work is. */
  leave?: () => void;
  /** Asks what was used. */
  used?: () => void;
}

/** The step in its pass, as every entry on it says. */
export const at = (one: SheetStep): StepRef => ({ step: one.step, round: one.round });
