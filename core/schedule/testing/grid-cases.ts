/**
 * Prints the first grid days of a fixed set of rules, ours and those of the general-purpose library `rrule-temporal`
 * (RFC 5545 recurrence on the Temporal API), as JSON. Run under several server time zones by the grid test.
 */
import * as polyfill from "temporal-polyfill";

import { must } from "../../must";
import { assessDue } from "../assess-due";
import { projectDue } from "../project-due";
import type { Unit } from "../types";
import { dueInput, every } from "./inputs";

Object.assign(globalThis, { Temporal: polyfill.Temporal });
const { RRuleTemporal } = await import("rrule-temporal");

const FREQ = { day: "DAILY", week: "WEEKLY", month: "MONTHLY", year: "YEARLY" } as const;

/** Grid days by RFC 5545; month ends need BYSETPOS, since plain MONTHLY skips months that lack the day. */
export function rruleDays(startOn: string, count: number, unit: Unit, occurrences: number): string[] {
  const [, month, day] = startOn.split("-").map(Number) as [number, number, number];
  const monthEnd =
    (unit === "month" || unit === "year") && day > 28
      ? {
          byMonthDay: Array.from({ length: day - 27 }, (_, i) => 28 + i),
          bySetPos: [-1],
          ...(unit === "year" ? { byMonth: [month] } : {}),
        }
      : {};
  const rule = new RRuleTemporal({
    freq: FREQ[unit],
    interval: count,
    count: occurrences + 1,
    dtstart: polyfill.Temporal.ZonedDateTime.from(`${startOn}T00:00[UTC]`),
    tzid: "UTC",
    ...monthEnd,
  });
  return rule
    .all()
    .slice(1)
    .map((at) => at.toPlainDate().toString());
}

function ourDays(startOn: string, count: number, unit: Unit, occurrences: number): string[] {
  const input = dueInput({ startOn, triggers: [every(count, unit, { basis: "grid" })] }, { today: startOn });
  const until = `${Number(startOn.slice(0, 4)) + 30}-12-31`;
  const projected = projectDue(input, until)
    .map((one) => one.on)
    .slice(0, occurrences);
  // Each grid day must also be the due day of a duty last done on the grid day before.
  projected.forEach((on, i) => {
    const before = i === 0 ? [] : [{ planId: "p", on: must(projected[i - 1]) }];
    const assessed = assessDue({ ...input, completions: before, today: before[0]?.on ?? input.today }).dueOn;
    if (assessed !== on) throw new Error(`assessDue says ${assessed}, projectDue ${on}`);
  });
  return projected;
}

if (process.argv[2] === "print") {
  const starts = ["2023-12-31", "2024-01-30", "2024-02-29", "2026-01-01", "2026-03-29", "2026-08-31", "2026-10-25"];
  const units: Unit[] = ["day", "week", "month", "year"];
  const cases = starts.flatMap((start) =>
    units.flatMap((unit) => [1, 2, 3, 5, 14].map((count) => ({ start, unit, count }))),
  );
  const rows = cases.map(({ start, unit, count }) => {
    const occurrences = unit === "year" ? Math.floor(28 / count) : 12;
    return {
      start,
      unit,
      count,
      ours: ourDays(start, count, unit, occurrences),
      theirs: rruleDays(start, count, unit, occurrences),
    };
  });
  process.stdout.write(JSON.stringify({ zone: Intl.DateTimeFormat().resolvedOptions().timeZone, rows }));
}
