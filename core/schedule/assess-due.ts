import { dayCount } from "../days/day-count";
import { formatDay } from "../days/format-day";
import { must } from "../must";
import { plainNumber } from "../numbers";
import { calendarDue } from "./calendar-due";
import { dueState } from "./due-state";
import { conditionDue, eventDue } from "./event-due";
import { type PlanHistory, readHistory } from "./history";
import { DEFAULT_NOTICE, DEFAULT_WARNING, leadDays } from "./lead-days";
import { meterDue } from "./meter-due";
import { pauseWords, postponeToResume } from "./pauses";
import type { TriggerDue } from "./trigger-due";
import type { DueAssessment, DueInput, DueState, Lead, Trigger } from "./types";

/** What each trigger says, and which of them gives the day. */
export function assessTriggers(history: PlanHistory): { all: TriggerDue[]; driver: number } {
  const all = history.plan.triggers.map((trigger) => triggerDue(trigger, history));
  let driver = -1;
  all.forEach((one, i) => {
    if (one.due !== null && (driver < 0 || one.due < must(must(all[driver]).due))) driver = i;
  });
  return { all, driver };
}

function triggerDue(trigger: Trigger, history: PlanHistory): TriggerDue {
  const found = plainDue(trigger, history);
  if (history.pauses.length === 0 || found.due === null) return found;
  return { ...found, due: postponeToResume(found.due, history.pauses, history.today) };
}

function plainDue(trigger: Trigger, history: PlanHistory): TriggerDue {
  switch (trigger.kind) {
    case "calendar":
      return calendarDue(trigger, history);
    case "meter":
      return meterDue(trigger, history);
    case "event":
      return eventDue(trigger, history);
    case "condition":
      return conditionDue(trigger, history);
  }
}

/**
 * When a duty is due, how close that is, and why. The earliest trigger wins.
 *
 * Only completions whose `planId` is the plan's own count: credit the work of plans that cover this one beforehand with
 * `creditCovered`.
 *
 * @returns days as 'YYYY-MM-DD'; everything null and state `later` when no trigger sets a day
 * @throws CoreError on impossible dates, numbers that are not finite, intervals that are not above zero, unknown kinds
 * @example
 * assessDue({ plan: { id: 'p', startOn: '2026-01-01', triggers: [{ kind: 'calendar', every: 14, unit: 'day', basis: 'completion' }] },
 *   completions: [{ planId: 'p', on: '2026-02-01' }], meters: {}, readings: {}, events: [], today: '2026-02-10' }).dueOn // => '2026-02-15'
 */
export function assessDue(input: DueInput): DueAssessment {
  const history = readHistory(input);
  const { plan, today } = history;
  const { all, driver } = assessTriggers(history);
  const because = all.map((one) => one.says());
  const perTrigger = all.map((one, i) => ({
    trigger: must(plan.triggers[i]),
    dueOn: one.due === null ? null : formatDay(one.due),
    ...(one.dueAt === undefined ? {} : { dueAt: one.dueAt, left: must(one.left) }),
    projected: one.projected,
  }));

  if (driver < 0) {
    because.push(...pauseWords(history.pauses, history.lastDone, null));
    because.push("No rule sets a day yet, so it is not due.");
    return {
      state: "later",
      dueOn: null,
      warningFrom: null,
      noticeFrom: null,
      driver: null,
      usedFraction: null,
      daysLeft: null,
      perTrigger,
      because,
    };
  }

  const { due, anchor, usedFraction, pausedDays = 0 } = must(all[driver]);
  const dueDay = must(due);
  const interval = anchor === null ? null : dueDay - anchor - pausedDays;
  const warningFrom = dueDay - leadDays(plan.warning ?? DEFAULT_WARNING, interval);
  const noticeFrom = dueDay - leadDays(plan.notice ?? DEFAULT_NOTICE, interval);
  const state = dueState({ dueOn: dueDay, warningFrom, noticeFrom, hardStop: plan.hardStop === true }, today);

  const dueOn = formatDay(dueDay);
  because.push(...pauseWords(history.pauses, anchor ?? history.lastDone, dueDay));
  if (all.length > 1) because.push(`The earliest of ${all.length} rules counts: ${dueOn}.`);
  because.push(
    `Notice from ${formatDay(noticeFrom)} (${leadWords(plan.notice ?? DEFAULT_NOTICE, interval)}), warning from ${formatDay(warningFrom)} (${leadWords(plan.warning ?? DEFAULT_WARNING, interval)}).`,
  );
  because.push(stateSentence(state, formatDay(today), dueDay - today));
  return {
    state,
    dueOn,
    warningFrom: formatDay(warningFrom),
    noticeFrom: formatDay(noticeFrom),
    driver: must(plan.triggers[driver]),
    usedFraction,
    daysLeft: dueDay - today,
    perTrigger,
    because,
  };
}

function leadWords(lead: Lead, interval: number | null): string {
  const days = lead.days === undefined ? null : dayCount(lead.days);
  const share =
    lead.fraction === undefined || interval === null
      ? null
      : `${plainNumber(lead.fraction * 100)} % of ${dayCount(interval)}`;
  if (days !== null && share !== null) return `${days} or ${share} before, whichever is later`;
  return days !== null ? `${days} before` : share !== null ? `${share} before` : "no lead";
}

function stateSentence(state: DueState, today: string, daysLeft: number): string {
  switch (state) {
    case "stopped":
      return `Today, ${today}, is ${dayCount(-daysLeft)} past the due day, and the machine must stand still until it is done.`;
    case "overdue":
      return `Today, ${today}, is ${dayCount(-daysLeft)} past the due day.`;
    case "due":
      return `Today, ${today}, is the due day.`;
    case "warning":
    case "notice":
    case "later":
      return `Today is ${today}: ${dayCount(daysLeft)} left.`;
  }
}
