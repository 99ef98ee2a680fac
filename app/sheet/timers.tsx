import { type SheetStep, type TimedBounds, timedBounds, timerNow } from "@core";
import { clsx } from "clsx";
import { useEffect, useRef, useState } from "react";

import { useServerClock } from "~/sheet/log/use-server-clock";

import { isRunning, sheetClocks } from "./sheet-clocks";

/** The time, by the server's clock, once a second while something runs. */
export function useNow(running: boolean, aheadMs = 0): number | null {
  const serverClock = useServerClock();
  const [now, setNow] = useState<number | null>(null);
  useEffect(() => {
    if (!running) return;
    const tick = (): void => setNow(serverClock.now().at + aheadMs);
    tick();
    const timer = setInterval(tick, 1000);
    return () => clearInterval(timer);
  }, [running, serverClock, aheadMs]);
  return now;
}

export function clock(minutes: number): string {
  const seconds = Math.floor(Math.abs(minutes) * 60);
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
}

/** Hands the clocks of a sheet to the head of the page, where they stand among those of the other machines. */
export function useSheetClocks(steps: readonly SheetStep[], onOpen: (step: SheetStep) => void, aheadMs = 0): void {
  const open = useRef(onOpen);
  useEffect(() => {
    open.current = onOpen;
  }, [onOpen]);
  useEffect(() => {
    sheetClocks.set(
      steps.flatMap((one) => {
        const timer = one.state?.timer;
        if (!timer || !isRunning(one)) return [];
        return [
          {
            key: `${one.step}#${one.round}`,
            title: one.definition.title,
            bounds: timedBounds(one.definition) ?? { minMinutes: 0 },
            startedAt: timer.startedAt,
            aheadMs,
            onOpen: () => open.current(one),
          },
        ];
      }),
    );
  }, [steps, aheadMs]);
  useEffect(() => () => sheetClocks.set([]), []);
}

/** One clock: time run, what it says, and where it stands between minimum and maximum. */
export function RunningClock({
  title,
  bounds,
  startedAt,
  now,
  beside = false,
}: {
  title: string;
  bounds: TimedBounds;
  startedAt: string;
  now: number | null;
  /** Something stands at its end. */
  beside?: boolean;
}) {
  const started = Date.parse(startedAt);
  const at = timerNow(bounds, started, now ?? started);
  const share = bounds.maxMinutes ?? bounds.minMinutes;
  return (
    <span className={clsx("mx-auto block max-w-6xl py-0.5 pl-4 sm:py-1.5", beside ? "pr-16" : "pr-4")}>
      <span className="grid grid-cols-[auto_1fr] items-center gap-x-3 leading-tight sm:flex">
        <span className="figure row-span-2 text-2xl font-bold sm:text-3xl">
          {now === null ? "–:––" : clock(at.elapsedMinutes)}
        </span>
        <span className="truncate font-semibold">{title}</span>
        <span className="text-sm leading-none font-semibold sm:ml-auto sm:text-base sm:leading-tight">
          {at.phase === "past-max" || at.phase === "near-max" ? "! " : ""}
          {at.says}
        </span>
      </span>
      <span className="relative block h-1 bg-on-fill/25 sm:mt-1 sm:h-2" aria-hidden="true">
        <span
          className="absolute inset-y-0 left-0 bg-tan-fill"
          style={{ width: `${Math.min(100, (at.elapsedMinutes / share) * 100)}%` }}
        />
        <span
          className="absolute -inset-y-0.5 w-1 bg-on-fill sm:-inset-y-1"
          style={{ left: `${(bounds.minMinutes / share) * 100}%` }}
        />
      </span>
    </span>
  );
}
