import type { SheetStep, TimedBounds } from "@core";

/** Whether the clock of a step runs. */
export const isRunning = ({ state, settled }: SheetStep): boolean =>
  state?.timer != null && state.timer.stoppedAt === null && !settled;

/** A clock that runs, wherever it is shown. */
export interface ClockShown {
  key: string;
  title: string;
  bounds: TimedBounds;
  startedAt: string;
  /** How far practice is ahead of the time of day. */
  aheadMs?: number;
  /** The sheet that it runs on, when that is another page. */
  to?: string;
  onOpen?: () => void;
}

const NONE: readonly ClockShown[] = [];

/** Clocks of the sheet that is open, for the head of the page, where all clocks are shown together. */
class SheetClocks {
  #clocks = NONE;
  readonly #listeners = new Set<() => void>();

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  readonly snapshot = (): readonly ClockShown[] => this.#clocks;
  readonly serverSnapshot = (): readonly ClockShown[] => NONE;

  set(clocks: readonly ClockShown[]): void {
    if (clocks.length === 0 && this.#clocks.length === 0) return;
    this.#clocks = clocks.length === 0 ? NONE : clocks;
    for (const listener of this.#listeners) listener();
  }
}

export const sheetClocks = new SheetClocks();
