import { type SheetStep, type StepRef, timedBounds, type TimerNow, timerNow } from "@core";

/** What the clock of a step says; null when none runs. */
export function clockOf({ state, definition }: SheetStep, now: number | null): TimerNow | null {
  const bounds = timedBounds(definition);
  if (!state?.timer || state.timer.stoppedAt !== null || !bounds) return null;
  const started = Date.parse(state.timer.startedAt);
  return timerNow(bounds, started, now ?? started);
}

/** Minutes until something can be done on a step; none where no clock runs, or it has run long enough. */
export const minutesLeft = (one: SheetStep, now: number | null): number => clockOf(one, now)?.toMinMinutes ?? 0;

/** What can be done while the clock of a step runs. */
export interface Meanwhile {
  /** Until the first clock of the sheet needs somebody, whole minutes. */
  minutes: number;
  /** What can be done on this machine; null when nothing can. */
  head: SheetStep | null;
}

/** What can be done while a step's clock runs; null when it has run long enough, or none runs. */
export function freeMeanwhile(
  steps: readonly SheetStep[],
  next: readonly StepRef[],
  shown: SheetStep,
  now: number | null,
): Meanwhile | null {
  const own = clockOf(shown, now);
  if (shown.settled || !own || own.toMinMinutes <= 0) return null;
  const clocks = steps.filter((one) => !one.settled).map((one) => clockOf(one, now)?.toMinMinutes ?? 0);
  const heads = next.flatMap((ref) => steps.filter((one) => one.step === ref.step && one.round === ref.round));
  return {
    minutes: Math.floor(Math.min(...clocks.filter((left) => left > 0))),
    head: heads.find((one) => one !== shown && minutesLeft(one, now) <= 0) ?? null,
  };
}
