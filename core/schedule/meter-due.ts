import { formatDay } from "../days/format-day";
import { LAST_DAY } from "../days/parse-day";
import { must } from "../must";
import { ceilExact, plainNumber, reached } from "../numbers";
import type { PlanHistory } from "./history";
import { type MeterPoint, meterTrack } from "./meter-track";
import type { TriggerDue } from "./trigger-due";
import type { Trigger } from "./types";
import { DEFAULT_RATE_WINDOW_DAYS, rateOf } from "./usage-rate";

type MeterTrigger = Extract<Trigger, { kind: "meter" }>;

const STALE = ", which has passed without a reading that says so: due today at the earliest";

/** A place on the line of cumulative use: its total, and from which point on later use counts. */
interface Base {
  total: number;
  /** Index of the first point that can have used anything since. */
  next: number;
  words: () => string;
}

/** Due by use of a named meter, counted on cumulative use: reached on a reading's day, else forecast from the rate. */
export function meterDue(trigger: MeterTrigger, history: PlanHistory): TriggerDue {
  const track = meterTrack(history, trigger.meter);
  const { from, to, next, words } =
    trigger.basis === "completion" ? completionSpan(trigger, history, track) : gridSpan(trigger, history, track);

  const last = track.length > 0 ? must(track[track.length - 1]) : null;
  const nowTotal = last?.total ?? 0;
  const left = to - nowTotal;
  const anchor = history.lastDone ?? history.startOn;
  const usedFraction = Math.max(0, (nowTotal - from) / (to - from));
  const rule = (): string =>
    `Every ${plainNumber(trigger.every)} on ${trigger.meter}${history.factor === 1 ? "" : ` × site factor ${plainNumber(history.factor)}`}: ${words()}`;

  for (let i = next; i < track.length; i++) {
    const point = must(track[i]);
    // What was read before the last completion says nothing about use since.
    if (point.on < anchor || !reached(point.total, to)) continue;
    const dueAt = point.value - (point.total - to);
    return {
      due: point.on,
      projected: false,
      anchor,
      usedFraction,
      dueAt,
      left,
      says: () => `${rule()}; reached by the reading of ${plainNumber(point.value)} on ${formatDay(point.on)}.`,
    };
  }

  const dueAt = (last?.value ?? 0) + left;
  const { rate, over } = rateAt(trigger, history);
  const open = { projected: false, anchor, usedFraction, dueAt, left };
  if (last === null) return { ...open, due: null, says: () => `${rule()}; no reading yet, so no day can be forecast.` };
  const leftWords = (): string =>
    `${plainNumber(left)} left at the last value of ${plainNumber(last.value)} on ${formatDay(last.on)}`;
  if (rate === null || rate <= 0) {
    const why = rate === null ? "fewer than two reading days" : "no use in that time";
    return { ...open, due: null, says: () => `${rule()}; ${leftWords()}; ${why}, so no day can be forecast.` };
  }
  const forecast = last.on + ceilExact(left / rate);
  if (forecast > LAST_DAY)
    return {
      ...open,
      due: null,
      says: () => `${rule()}; ${leftWords()}; at ${plainNumber(rate)} a day${over} that is never in practice.`,
    };
  const due = Math.max(history.today, forecast);
  return {
    ...open,
    projected: true,
    due,
    says: () =>
      `${rule()}; ${leftWords()}; at ${plainNumber(rate)} a day${over} about ${formatDay(forecast)}${due > forecast ? STALE : ""}.`,
  };
}

/** Most hours in a day that an hour meter can count. */
const HOURS_A_DAY = 24;

/**
 * The rate of use, in the window that ends with the last reading: waiting alone makes nothing less urgent. With too few
 * readings there, over all of them.
 */
export function rateAt(
  trigger: Pick<MeterTrigger, "meter" | "hours">,
  history: PlanHistory,
): { rate: number | null; over: string } {
  const readings = history.meter(trigger.meter);
  const end = readings[readings.length - 1]?.on ?? history.today;
  const recent = rateOf(readings, end, DEFAULT_RATE_WINDOW_DAYS);
  const rate = recent ?? rateOf(readings, end, Infinity);
  const over =
    recent === null && rate !== null
      ? ` over the whole history (fewer than two reading days in its last ${DEFAULT_RATE_WINDOW_DAYS} days)`
      : "";
  return trigger.hours && rate !== null && rate > HOURS_A_DAY
    ? { rate: HOURS_A_DAY, over: `${over}, the most an hour meter can count,` }
    : { rate, over };
}

interface Span {
  /** Cumulative use where the running interval began. */
  from: number;
  /** Cumulative use at which the duty is due. */
  to: number;
  next: number;
  words: () => string;
}

function completionSpan(trigger: MeterTrigger, history: PlanHistory, track: readonly MeterPoint[]): Span {
  const { lastDone } = history;
  const base = lastDone === null ? startBase(history, track) : completionBase(track, lastDone);
  const every = (lastDone === null ? (trigger.first ?? trigger.every) : trigger.every) * history.factor;
  return {
    from: base.total,
    to: base.total + every,
    next: base.next,
    words: () => `${plainNumber(every)} from ${base.words()}`,
  };
}

function gridSpan(trigger: MeterTrigger, history: PlanHistory, track: readonly MeterPoint[]): Span {
  const start = startBase(history, track);
  const first = (trigger.first ?? trigger.every) * history.factor;
  const every = trigger.every * history.factor;
  /** Cumulative use at grid point k; −1 is the start, which counts as already satisfied. */
  const point = (k: number): number => (k < 0 ? start.total : start.total + first + k * every);
  let satisfied = -1;
  const days = new Set(history.completions.map((completion) => completion.on));
  for (const on of days) {
    const at = completionBase(track, on).total;
    const below = Math.max(-1, Math.floor((at - point(0)) / every));
    const nearest = Math.abs(at - point(below)) <= Math.abs(point(below + 1) - at) ? below : below + 1;
    satisfied = Math.max(satisfied, nearest);
  }
  const words = (): string =>
    `fixed points from ${start.words()}, ${satisfied + 1} of them done, the next ${plainNumber(point(satisfied + 1) - start.total)} after it`;
  return { from: point(satisfied), to: point(satisfied + 1), next: 0, words };
}

/** Where use counts from after what was done on a day: the value noted then, else the last on the line on or before it. */
function completionBase(track: readonly MeterPoint[], on: number): Base {
  const before = lastUntil(track, on);
  let noted = before;
  while (noted >= 0 && must(track[noted]).on === on && !must(track[noted]).noted) noted--;
  if (noted >= 0 && must(track[noted]).on === on)
    return baseAt(
      track,
      noted,
      () => `the ${plainNumber(must(track[noted]).value)} noted at the completion on ${formatDay(on)}`,
    );
  if (before >= 0) {
    const point = must(track[before]);
    return baseAt(
      track,
      before,
      () =>
        `the ${plainNumber(point.value)} ${point.noted ? "noted" : "read"} on ${formatDay(point.on)}, the last before the completion on ${formatDay(on)}`,
    );
  }
  return (
    firstFrom(track, on) ?? { total: 0, next: 0, words: () => `0 (no reading near the completion on ${formatDay(on)})` }
  );
}

/** Index of the last value on or before a day, −1 when there is none. */
function lastUntil(track: readonly MeterPoint[], day: number): number {
  let low = -1;
  let high = track.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (must(track[middle]).on <= day) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Where use counts from before the first completion: the reading at `startOn`, else the first after it, the last before it, 0. */
function startBase(history: PlanHistory, track: readonly MeterPoint[]): Base {
  const { startOn } = history;
  const atStart = track.findLastIndex((point) => point.on === startOn);
  if (atStart >= 0)
    return baseAt(
      track,
      atStart,
      () => `the ${plainNumber(must(track[atStart]).value)} read at the start on ${formatDay(startOn)}`,
    );
  const after = firstFrom(track, startOn);
  if (after) return after;
  const before = track.length - 1;
  return before >= 0
    ? baseAt(
        track,
        before,
        () =>
          `the ${plainNumber(must(track[before]).value)} read on ${formatDay(must(track[before]).on)}, the last before the start`,
      )
    : { total: 0, next: 0, words: () => `0 (no reading from the start on ${formatDay(startOn)})` };
}

/** The first value after a day. */
function firstFrom(track: readonly MeterPoint[], day: number): Base | null {
  const i = track.findIndex((point) => point.on > day);
  return i < 0
    ? null
    : baseAt(track, i, () => `the ${plainNumber(must(track[i]).value)} first read on ${formatDay(must(track[i]).on)}`);
}

function baseAt(track: readonly MeterPoint[], index: number, words: () => string): Base {
  return { total: must(track[index]).total, next: index + 1, words };
}
