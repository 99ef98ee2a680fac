import { type TimerNow, timerNow } from "@core";
import { clsx } from "clsx";
import { useState } from "react";
import { Link } from "react-router";

import type { ClockShown } from "./sheet-clocks";
import { RunningClock } from "./timers";

const PHASES: readonly TimerNow["phase"][] = ["past-max", "near-max", "ready", "before-min"];

/** Who is over its maximum comes first, then who is near it, then who has run long enough, then who will next. */
export function byUrgency(clocks: readonly ClockShown[], now: number | null): ClockShown[] {
  const rank = ({ bounds, startedAt, aheadMs = 0 }: ClockShown): [number, number] => {
    const started = Date.parse(startedAt);
    const at = timerNow(bounds, started, now === null ? started : now + aheadMs);
    return [PHASES.indexOf(at.phase), at.toMinMinutes > 0 ? at.toMinMinutes : (at.toMaxMinutes ?? 0)];
  };
  return clocks
    .map((clock) => ({ clock, rank: rank(clock) }))
    .sort((a, b) => a.rank[0] - b.rank[0] || a.rank[1] - b.rank[1])
    .map((one) => one.clock);
}

/** Every running clock, in a line: the most urgent; the others unfold. All of them sound. */
export function ClockLines({ clocks, now }: { clocks: readonly ClockShown[]; now: number | null }) {
  const [unfolded, setUnfolded] = useState(false);
  if (clocks.length === 0) return null;
  const inOrder = byUrgency(clocks, now);
  return (
    <div role="timer" aria-label="Running timers" className="relative bg-fill text-on-fill">
      <ul>
        {inOrder.map((one, i) => (
          <li key={one.key} className={clsx(i > 0 && !unfolded && "hidden")}>
            <OneClock clock={one} now={now} roomFor={i === 0 && clocks.length > 1} />
          </li>
        ))}
      </ul>
      {clocks.length > 1 && (
        <button
          type="button"
          aria-expanded={unfolded}
          aria-label={unfolded ? "Fold the other clocks" : `${clocks.length - 1} more clocks`}
          className="absolute top-0 right-0 min-h-11 min-w-14 px-4 sm:min-h-14 text-lg font-bold sm:right-[max(0px,calc(50%-36rem))]"
          onClick={() => setUnfolded(!unfolded)}
        >
          <span aria-hidden="true">{unfolded ? "–" : `+${clocks.length - 1}`}</span>
        </button>
      )}
    </div>
  );
}

function OneClock({ clock, now, roomFor }: { clock: ClockShown; now: number | null; roomFor: boolean }) {
  const { title, bounds, startedAt, aheadMs = 0, to, onOpen } = clock;
  const line = (
    <RunningClock
      title={title}
      bounds={bounds}
      startedAt={startedAt}
      now={now === null ? null : now + aheadMs}
      beside={roomFor}
    />
  );
  const look = "block w-full text-left text-on-fill no-underline";
  if (to !== undefined)
    return (
      <Link to={to} className={look}>
        {line}
      </Link>
    );
  return (
    <button type="button" onClick={onOpen} className={look}>
      {line}
    </button>
  );
}
