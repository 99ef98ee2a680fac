import { type Procedure, type RunEvent, type SheetStep, timedBounds } from "@core";
import type { Dispatch, SetStateAction } from "react";

const MINUTE_MS = 60_000;

/** What the invented machine has, and how its time goes on. */
export function PracticeChoices({
  procedure,
  options,
  setOptions,
  setAhead,
  entries,
  setEntries,
  steps,
  now,
  isJudged,
}: {
  procedure: Procedure;
  options: string[];
  setOptions: Dispatch<SetStateAction<string[]>>;
  setAhead: Dispatch<SetStateAction<number>>;
  entries: RunEvent[];
  setEntries: Dispatch<SetStateAction<RunEvent[]>>;
  steps: readonly SheetStep[];
  now: number | null;
  /** What was done stays done, and the machine is as it was when it was begun. */
  isJudged: boolean;
}) {
  const left = leastLeft(steps, now);
  return (
    <div className="mb-4 flex flex-wrap items-center gap-x-5 gap-y-2">
      {procedure.options.map((option) => (
        <label key={option.id} className="flex min-h-11 items-center gap-2">
          <input
            type="checkbox"
            className="size-5 accent-(--fill)"
            checked={options.includes(option.id)}
            disabled={isJudged && entries.length > 0}
            onChange={(event) =>
              setOptions(event.target.checked ? [...options, option.id] : options.filter((one) => one !== option.id))
            }
          />
          {option.name}
        </label>
      ))}
      <button type="button" className="btn" onClick={() => setAhead((ahead) => ahead + 5 * MINUTE_MS)}>
        Let 5 minutes pass
      </button>
      {left !== null && (
        <button type="button" className="btn" onClick={() => setAhead((ahead) => ahead + left)}>
          Wait until the next clock is long enough
        </button>
      )}
      {!isJudged && (
        <>
          <button
            type="button"
            className="btn"
            aria-disabled={entries.length === 0}
            onClick={() => setEntries(entries.slice(0, -1))}
          >
            Undo
          </button>
          <button type="button" className="btn" onClick={() => setEntries([])}>
            Begin again
          </button>
        </>
      )}
    </div>
  );
}

/** Milliseconds until the first of the running clocks is long enough, and a moment more; null when none runs towards it. */
export function leastLeft(steps: readonly SheetStep[], now: number | null): number | null {
  if (now === null) return null;
  const left = steps.flatMap(({ definition, state }) => {
    const bounds = timedBounds(definition);
    if (!bounds || !state?.timer || state.timer.stoppedAt !== null) return [];
    const still = Date.parse(state.timer.startedAt) + bounds.minMinutes * MINUTE_MS - now;
    return still > 0 ? [still + 1000] : [];
  });
  return left.length === 0 ? null : Math.min(...left);
}
