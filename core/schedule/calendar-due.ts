import { addUnits, MEAN_DAYS } from "../days/add-units";
import { dayCount } from "../days/day-count";
import { formatDay } from "../days/format-day";
import { onOrAfterWeekday } from "../days/iso-weekday";
import { must } from "../must";
import { floorExact, plainNumber } from "../numbers";
import type { PlanHistory } from "./history";
import { extendOverPauses } from "./pauses";
import type { TriggerDue } from "./trigger-due";
import type { Trigger, Unit } from "./types";

type CalendarTrigger = Extract<Trigger, { kind: "calendar" }>;
interface Span {
  every: number;
  unit: Unit;
}

const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

/** Due day by the calendar, from the last completion or on the plan's fixed grid. */
export function calendarDue(trigger: CalendarTrigger, history: PlanHistory): TriggerDue {
  return trigger.basis === "completion" ? fromCompletion(trigger, history) : fromGrid(trigger, history);
}

const LONGEST_SHORT_STEP_DAYS = 31;

/** `from` plus a span; with a site factor the span is laid out from `from`, and its length in days is scaled. */
function addScaled(from: number, span: Span, factor: number): number {
  const plain = addUnits(from, span.every, span.unit);
  return factor === 1 ? plain : from + Math.max(1, floorExact((plain - from) * factor));
}

function onWeekday(day: number, trigger: CalendarTrigger): number {
  return trigger.weekday === undefined ? day : onOrAfterWeekday(day, trigger.weekday);
}

function fromCompletion(trigger: CalendarTrigger, history: PlanHistory): TriggerDue {
  const done = history.lastDone;
  const anchor = done ?? history.startOn;
  const span: Span = done === null && trigger.first ? trigger.first : trigger;
  const laid = addScaled(anchor, span, history.factor);
  const extended = extendOverPauses(anchor, laid, history.pauses);
  const pausedDays = extended === null ? 0 : extended - laid;
  const due = extended === null ? null : onWeekday(extended, trigger);
  return {
    due,
    projected: false,
    anchor,
    pausedDays,
    usedFraction: due === null ? null : usedShare(anchor + pausedDays, due, history.today),
    says: () =>
      `Every ${spanWords(trigger)} from the last completion: ${baseWords(done, anchor)} + ${lengthWords(anchor, span, history.factor)} = ${formatDay(laid)}${extended === null || extended === laid ? "" : `, ${formatDay(extended)} without the paused days`}${
        due === null ? "" : weekdayWords(must(extended), due, trigger)
      }.`,
  };
}

function fromGrid(trigger: CalendarTrigger, history: PlanHistory): TriggerDue {
  const { startOn, factor } = history;
  const gridStart = trigger.first ? addScaled(startOn, trigger.first, factor) : null;
  // With a factor the step is fixed once, in days, so that the grid stays even.
  const step: Span = factor === 1 ? trigger : { every: addScaled(startOn, trigger, factor) - startOn, unit: "day" };
  /** Grid day k; −1 is the plan's start, which counts as already satisfied. */
  const gridDay = (k: number): number => {
    if (k < 0) return onWeekday(startOn, trigger);
    const day =
      gridStart === null
        ? addUnits(startOn, (k + 1) * step.every, step.unit)
        : addUnits(gridStart, k * step.every, step.unit);
    return onWeekday(day, trigger);
  };

  const done = history.lastDone;
  const satisfied =
    done === null ? lastOf(gridDay, -1) : nearestGridIndex(gridDay, done, step.every * MEAN_DAYS[step.unit], startOn);
  const anchor = gridDay(satisfied);
  const due = resumedGridDay(gridDay, satisfied + 1, history);
  return {
    due,
    projected: false,
    anchor,
    usedFraction: usedShare(anchor, due, history.today),
    says: () => {
      const satisfiedWords =
        done === null
          ? "no completion yet"
          : satisfied < 0
            ? `the completion on ${formatDay(done)} is nearest to the start, so no grid day is done yet`
            : `the completion on ${formatDay(done)} counts for ${formatDay(anchor)}, the nearest grid day`;
      const firstWords = trigger.first ? `, the first after ${spanWords(trigger.first)}` : "";
      const factorWords = factor === 1 ? "" : ` (site factor ${plainNumber(factor)}: steps of ${dayCount(step.every)})`;
      const weekdayWords = trigger.weekday === undefined ? "" : `, moved forward to ${WEEKDAYS[trigger.weekday - 1]}`;
      return `Fixed dates every ${spanWords(trigger)} from ${formatDay(startOn)}${firstWords}${factorWords}${weekdayWords}: ${satisfiedWords}; next grid day ${formatDay(due)}.`;
    },
  };
}

/**
 * The first grid day that is not satisfied and lies in no pause. Steps longer than a month keep at most the time that
 * was left when the pause began: else a yearly inspection could fall out altogether at a site that closes each winter.
 */
function resumedGridDay(gridDay: (k: number) => number, first: number, history: PlanHistory): number {
  let k = first;
  let due = gridDay(k);
  for (const pause of history.pauses) {
    if (pause.to === null || due < pause.from || due >= pause.to) continue;
    const left = pause.to + (due - pause.from);
    while (gridDay(k) < pause.to) k++;
    due = gridDay(k) - gridDay(k - 1) > LONGEST_SHORT_STEP_DAYS ? Math.min(gridDay(k), left) : gridDay(k);
  }
  return due;
}

/**
 * Index of the grid day nearest to `day`, the earlier on a tie. Grid days that weekday moving puts on one and the same
 * day count together, so that a completion on it satisfies them all.
 */
function nearestGridIndex(gridDay: (k: number) => number, day: number, meanStep: number, startOn: number): number {
  // Start at or before the last grid day on or before `day`, whatever the month lengths and the weekday did to it.
  let k = Math.max(-1, Math.floor((day - startOn) / meanStep) - 2);
  while (k > -1 && gridDay(k) > day) k--;
  while (gridDay(k + 1) <= day) k++;
  const before = gridDay(k);
  const after = gridDay(k + 1);
  return lastOf(gridDay, Math.abs(day - before) <= after - day ? k : k + 1);
}

/** The last grid day that moving to a weekday puts on the same day. */
function lastOf(gridDay: (k: number) => number, k: number): number {
  let last = k;
  while (gridDay(last + 1) === gridDay(last)) last++;
  return last;
}

function usedShare(anchor: number, due: number, today: number): number {
  if (due <= anchor) return today >= due ? 1 : 0;
  return Math.max(0, (today - anchor) / (due - anchor));
}

function baseWords(done: number | null, anchor: number): string {
  return done === null
    ? `the start on ${formatDay(anchor)} (never done yet)`
    : `the last completion on ${formatDay(anchor)}`;
}

function spanWords(span: Span): string {
  return span.every === 1 ? span.unit : `${span.every} ${span.unit}s`;
}

function lengthWords(anchor: number, span: Span, factor: number): string {
  const plain = `${span.every} ${span.unit}${span.every === 1 ? "" : "s"}`;
  if (factor === 1) return plain;
  const days = addUnits(anchor, span.every, span.unit) - anchor;
  return `${plain} (${dayCount(days)}) × site factor ${plainNumber(factor)} = ${dayCount(Math.max(1, floorExact(days * factor)))}`;
}

function weekdayWords(laid: number, due: number, trigger: CalendarTrigger): string {
  if (trigger.weekday === undefined) return "";
  const name = WEEKDAYS[trigger.weekday - 1];
  return laid === due ? `, a ${name}` : `, moved forward to ${name} ${formatDay(due)}`;
}
