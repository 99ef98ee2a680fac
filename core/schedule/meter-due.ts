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
    if (!reached(point.total, to)) continue;
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
  const rate = rateOf(history.meter(trigger.meter), history.today, DEFAULT_RATE_WINDOW_DAYS);
  const open = { projected: false, anchor, usedFraction, dueAt, left };
  if (last === null) return { ...open, due: null, says: () => `${rule()}; no reading yet, so no day can be forecast.` };
  const leftWords = (): string =>
    `${plainNumber(left)} left at the last value of ${plainNumber(last.value)} on ${formatDay(last.on)}`;
  if (rate === null || rate <= 0) {
    const why =
      rate === null
        ? `fewer than two reading days in the last ${DEFAULT_RATE_WINDOW_DAYS} days`
        : "no use in that time";
    return { ...open, due: null, says: () => `${rule()}; ${leftWords()}; ${why}, so no day can be forecast.` };
  }
  const forecast = last.on + ceilExact(left / rate);
  if (forecast > LAST_DAY)
    return {
      ...open,
      due: null,
      says: () => `${rule()}; ${leftWords()}; at ${plainNumber(rate)} a day that is never in practice.`,
    };
  const due = Math.max(history.today, forecast);
  return {
    ...open,
    projected: true,
    due,
    says: () =>
      `${rule()}; ${leftWords()}; at ${plainNumber(rate)} a day about ${formatDay(forecast)}${due > forecast ? STALE : ""}.`,
  };
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
  const lastIndex = history.completions.length - 1;
  const base = lastIndex >= 0 ? completionBase(history, track, lastIndex) : startBase(history, track);
  const every = (lastIndex < 0 ? (trigger.first ?? trigger.every) : trigger.every) * history.factor;
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
  for (let i = 0; i < history.completions.length; i++) {
    const at = completionBase(history, track, i).total;
    const below = Math.max(-1, Math.floor((at - point(0)) / every));
    const nearest = Math.abs(at - point(below)) <= Math.abs(point(below + 1) - at) ? below : below + 1;
    satisfied = Math.max(satisfied, nearest);
  }
  const words = (): string =>
    `fixed points from ${start.words()}, ${satisfied + 1} of them done, the next ${plainNumber(point(satisfied + 1) - start.total)} after it`;
  return { from: point(satisfied), to: point(satisfied + 1), next: 0, words };
}

/** Where use counts from after completion `index`: its own value, else the last reading on or before it. */
function completionBase(history: PlanHistory, track: readonly MeterPoint[], index: number): Base {
  const on = must(history.completions[index]).on;
  const noted = track.findIndex((point) => point.completion === index);
  if (noted >= 0)
    return baseAt(
      track,
      noted,
      () => `the ${plainNumber(must(track[noted]).value)} noted at the completion on ${formatDay(on)}`,
    );
  for (let i = track.length - 1; i >= 0; i--) {
    const point = must(track[i]);
    if (point.completion < 0 && point.on <= on)
      return baseAt(
        track,
        i,
        () =>
          `the ${plainNumber(point.value)} read on ${formatDay(point.on)}, the last before the completion on ${formatDay(on)}`,
      );
  }
  return (
    firstFrom(track, on) ?? { total: 0, next: 0, words: () => `0 (no reading near the completion on ${formatDay(on)})` }
  );
}

/** Where use counts from before the first completion: the reading at `startOn`, else the first after it, else 0. */
function startBase(history: PlanHistory, track: readonly MeterPoint[]): Base {
  let atStart = -1;
  track.forEach((point, i) => {
    if (point.completion < 0 && point.on === history.startOn) atStart = i;
  });
  if (atStart >= 0)
    return baseAt(
      track,
      atStart,
      () => `the ${plainNumber(must(track[atStart]).value)} read at the start on ${formatDay(history.startOn)}`,
    );
  return (
    firstFrom(track, history.startOn) ?? {
      total: 0,
      next: 0,
      words: () => `0 (no reading from the start on ${formatDay(history.startOn)})`,
    }
  );
}

/** The first reading after a day. */
function firstFrom(track: readonly MeterPoint[], day: number): Base | null {
  const i = track.findIndex((point) => point.completion < 0 && point.on > day);
  return i < 0
    ? null
    : baseAt(track, i, () => `the ${plainNumber(must(track[i]).value)} first read on ${formatDay(must(track[i]).on)}`);
}

function baseAt(track: readonly MeterPoint[], index: number, words: () => string): Base {
  return { total: must(track[index]).total, next: index + 1, words };
}
