import { clockTime, type DayBreak, type PlannedBreak } from "@core";
import { Form } from "react-router";

/** A day's breaks as they are planned, and the step that logs the next one. */
export function BreakLine({
  breaks,
  next,
  now,
  siteName,
}: {
  breaks: readonly PlannedBreak[];
  /** The next one to be taken on a day under way; null on another. */
  next: DayBreak | null;
  now: number | null;
  siteName: (id: string) => string;
}) {
  if (breaks.length === 0 && next === null) return null;
  const isLate = next !== null && now !== null && now > next.by;
  return (
    <div role="group" aria-label="Breaks" className="flex flex-wrap items-center gap-x-3 gap-y-1 py-2">
      <ul className="min-w-0 flex-1 basis-56">
        {breaks.map((one) => (
          <li key={one.from} className="wrap-anywhere">
            <span className="text-ink-soft">Break</span>{" "}
            <span className="figure font-semibold">
              {clockTime(one.from)}–{clockTime(one.to)}
            </span>{" "}
            {one.site === null ? "before you go on" : `at ${siteName(one.site)}`}
          </li>
        ))}
        {isLate && (
          <li className="wrap-anywhere">
            <span aria-hidden="true">! </span>A break of {next.minutes} min was to begin by{" "}
            <span className="figure">{clockTime(next.by)}</span>.
          </li>
        )}
      </ul>
      {next && (
        <Form method="post" className="no-print flex flex-wrap gap-2">
          <input type="hidden" name="minutes" value={next.minutes} />
          <button className="btn" name="intent" value="rested">
            Break now, {next.minutes} min
          </button>
          {isLate && (
            <button className="btn" name="intent" value="had-rest">
              I have had it
            </button>
          )}
        </Form>
      )}
    </div>
  );
}
