import { inWords, type Ledger, type SheetStep, type StepRef } from "@core";
import { clsx } from "clsx";
import { useState } from "react";

import { clockOf, minutesLeft } from "./meanwhile";
import { partsInWords } from "./parts-in-words";
import { clock } from "./timers";

interface BenchLane {
  path: string;
  /** Its parts, in words. */
  parts: string;
  /** What is to be done on it now, or runs; null when it has ended. */
  head: SheetStep | null;
}

/** The ways on the bench that have begun and whose parts are not back on yet. */
export function benchLanes(steps: readonly SheetStep[], next: readonly StepRef[], ledger: Ledger): BenchLane[] {
  const lanes = new Map<string, SheetStep[]>();
  for (const one of steps) {
    const { path } = one.definition;
    if (path !== undefined) lanes.set(path, [...(lanes.get(path) ?? []), one]);
  }
  return [...lanes].flatMap(([path, own]): BenchLane[] => {
    const head = own.find((one) => next.some((ref) => ref.step === one.step && ref.round === one.round)) ?? null;
    const off = ledger.filter((one) => one.path === path);
    if (!head && (off.length === 0 || own.some((one) => !one.settled))) return [];
    return [{ path, parts: off.length > 0 ? off.map(partsInWords).join(", ") : inWords(path), head }];
  });
}

/**
 * What goes on beside the machine, and everything that is off: a short lane for each way on the bench with what to do next or
 * its clock. On a phone one line that unfolds.
 */
export function BenchLanes({
  steps,
  next,
  ledger,
  shown,
  now,
  onOpen,
}: {
  steps: readonly SheetStep[];
  next: readonly StepRef[];
  ledger: Ledger;
  shown: StepRef | null;
  now: number | null;
  onOpen: (step: SheetStep) => void;
}) {
  const [unfolded, setUnfolded] = useState(false);
  const lanes = benchLanes(steps, next, ledger);
  if (lanes.length === 0 && ledger.length === 0) return null;
  const toDo = lanes.filter(({ head }) => head && minutesLeft(head, now) <= 0).length;
  const onTheirWay = new Set(lanes.map((lane) => lane.path));
  const lying = ledger.filter((one) => one.path === undefined || !onTheirWay.has(one.path));
  const off = ledger.reduce((sum, one) => sum + one.count, 0);
  return (
    <section aria-label="On the bench" className="mb-4 border-y-2 border-ink py-1">
      <button
        type="button"
        className="flex min-h-11 w-full items-center justify-between gap-3 text-left font-semibold sm:hidden"
        aria-expanded={unfolded}
        onClick={() => setUnfolded(!unfolded)}
      >
        <span>
          Bench: {off === 1 ? "1 part" : `${off} parts`} off{toDo > 0 && `, ${toDo} to do now`}
        </span>
        <span aria-hidden="true">{unfolded ? "–" : "+"}</span>
      </button>
      <div className={clsx("sm:block", !unfolded && "hidden")}>
        <ul>
          {lanes.map(({ path, parts, head }) => (
            <li key={path} className="border-t border-line first:border-t-0">
              {head ? (
                <button
                  type="button"
                  onClick={() => {
                    // On a phone the step is what is wanted in sight now.
                    setUnfolded(false);
                    onOpen(head);
                  }}
                  aria-current={shown?.step === head.step && shown.round === head.round ? "step" : undefined}
                  className="grid min-h-11 w-full grid-cols-[1fr_auto] items-center gap-x-3 py-1 text-left hover:bg-surface sm:grid-cols-[12rem_1fr_auto]"
                >
                  <span className="font-semibold wrap-anywhere">{parts}</span>
                  <span className="order-last col-span-2 min-w-0 wrap-anywhere sm:order-none sm:col-span-1">
                    {head.definition.title}
                  </span>
                  <LaneClock head={head} now={now} />
                </button>
              ) : (
                <p className="grid min-h-11 items-center gap-x-3 py-1 sm:grid-cols-[12rem_1fr]">
                  <span className="font-semibold wrap-anywhere">{parts}</span>
                  <span className="text-ink-soft">ready to go back on</span>
                </p>
              )}
            </li>
          ))}
        </ul>
        {lying.length > 0 && (
          <p className="border-t border-line py-2 text-sm first:border-t-0">
            <span className="font-semibold">Off:</span>{" "}
            {lying.map((one) => `${partsInWords(one)}${one.place ? ` (${one.place})` : ""}`).join(", ")}
          </p>
        )}
      </div>
    </section>
  );
}

function LaneClock({ head, now }: { head: SheetStep; now: number | null }) {
  const at = head.state?.status === "running" ? clockOf(head, now) : null;
  if (!at) return <span className="font-semibold">now</span>;
  return (
    <span className="figure font-semibold">
      {at.toMinMinutes > 0 ? `${clock(at.toMinMinutes)} left` : `${at.phase === "ready" ? "" : "! "}ready`}
    </span>
  );
}
