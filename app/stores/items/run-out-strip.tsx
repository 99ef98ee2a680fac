import { daysBetween } from "@core";

import { shortDay } from "~/kit/days/day-time";

const DAYS = 90;
const WIDTH = 120;

/**
 * How long an item lasts: a bar from today to the day it runs out, on ninety days; a notch below where it must be ordered. No
 * end: it lasts.
 */
export function RunOutStrip({
  today,
  runsOutOn,
  orderBy,
}: {
  today: string;
  runsOutOn: string | null;
  orderBy: string | null;
}) {
  const x = (day: string): number => Math.max(0, Math.min(1, daysBetween(today, day) / DAYS)) * WIDTH;
  const end = runsOutOn === null ? WIDTH : x(runsOutOn);
  const say = (day: string): string => shortDay(day, today);
  const words =
    runsOutOn === null ? "lasts" : `runs out on ${say(runsOutOn)}${orderBy ? `, order by ${say(orderBy)}` : ""}`;
  return (
    <svg
      width={WIDTH + 8}
      height="22"
      viewBox={`-4 0 ${WIDTH + 8} 22`}
      role="img"
      aria-label={words}
      className="shrink-0"
    >
      <line x1="0" x2={WIDTH} y1="8" y2="8" stroke="var(--line)" strokeWidth="2" strokeDasharray="2 4" />
      <rect x="0" y="5" width={end} height="6" fill="var(--fill)" />
      {runsOutOn !== null && <line x1={end} x2={end} y1="1" y2="15" stroke="var(--ink)" strokeWidth="3" />}
      {runsOutOn === null && <path d={`M${WIDTH - 2} 3 l6 5 l-6 5`} fill="none" stroke="var(--ink)" strokeWidth="2" />}
      {orderBy !== null && <path d={`M${x(orderBy)} 12 l-4 8 h8 z`} fill="var(--tan-fill)" stroke="var(--ink)" />}
    </svg>
  );
}
