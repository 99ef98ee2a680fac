import type { Unit } from "../days/add-units";

export type { Unit };

/** What makes a duty due. A plan with several triggers is due by the earliest. */
export type Trigger =
  | {
      kind: "calendar";
      /** Whole number of units, above zero. */
      every: number;
      unit: Unit;
      /** `completion`: counted from the last completion; `grid`: fixed days counted from `startOn`. */
      basis: "completion" | "grid";
      /** A different first interval, counted from `startOn`. */
      first?: { every: number; unit: Unit };
      /** ISO weekday (1 = Monday) that due days move forward to; only with unit `week`. */
      weekday?: 1 | 2 | 3 | 4 | 5 | 6 | 7;
    }
  | {
      kind: "meter";
      /** Name of the meter (its unit and basis are the caller's: running hours, prints, runs …). */
      meter: string;
      /** Use between services, in the meter's unit, above zero. */
      every: number;
      basis: "completion" | "grid";
      first?: number;
      /** The meter counts hours: its rate is at most 24 a day. */
      hours?: boolean;
    }
  | { kind: "event"; event: string }
  | { kind: "condition"; reading: string; above?: number; below?: number };

/** How long before the due point an alert starts: days, and/or a fraction (0–1) of the interval. */
export interface Lead {
  days?: number;
  fraction?: number;
}

export interface Plan {
  id: string;
  /** 'YYYY-MM-DD': the day the plan counts from before its first completion. */
  startOn: string;
  triggers: Trigger[];
  notice?: Lead;
  warning?: Lead;
  /** The machine may not be used once the duty is missed. */
  hardStop?: boolean;
  /** Ids of plans whose work this one contains. */
  covers?: string[];
  /** Multiplies every interval (for example 0.5 where water is very hard). */
  intervalFactor?: number;
}

export interface Completion {
  planId: string;
  on: string;
  /** Meter values read at the completion, by meter name. */
  meters?: Record<string, number>;
}

export interface DatedValue {
  on: string;
  value: number;
  /** The instant, ISO 8601 with offset, when it is known: several of one day count by it. */
  at?: string;
}

/** When a reading that is not beyond its limit yet is expected to be. */
export interface Forecast {
  on: string;
  low: string;
  high: string | null;
}

/** Days on which a duty does not run: a machine in store, a site closed for the season. */
export interface PauseSpan {
  /** First day that does not count. */
  from: string;
  /** First day that counts again; absent or null = until further notice. */
  to?: string | null;
  reason?: string;
}

export interface DueInput {
  plan: Plan;
  completions: Completion[];
  meters: Record<string, DatedValue[]>;
  readings: Record<string, DatedValue[]>;
  events: { event: string; on: string }[];
  /** The site's own calendar day. */
  today: string;
  pauses?: PauseSpan[];
  /** By reading: the day on which its condition is expected. */
  forecasts?: Record<string, Forecast>;
}

export type DueState = "stopped" | "overdue" | "due" | "warning" | "notice" | "later";

export interface TriggerAssessment {
  trigger: Trigger;
  dueOn: string | null;
  /** Meter triggers: what the meter will show when due. */
  dueAt?: number;
  /** Meter triggers: use left until due; negative once passed. */
  left?: number;
  /** True when `dueOn` is a forecast from the rate of use and not a fact. */
  projected: boolean;
}

export interface DueAssessment {
  state: DueState;
  dueOn: string | null;
  warningFrom: string | null;
  noticeFrom: string | null;
  /** The trigger that gave `dueOn`; the first listed when several give the same day. */
  driver: Trigger | null;
  /** Share of the driver's interval that is used, 0 = just done, 1 = due, more when past; null without an interval. */
  usedFraction: number | null;
  /** Calendar days from today to `dueOn`; negative when past. */
  daysLeft: number | null;
  perTrigger: TriggerAssessment[];
  /** The rule, base and arithmetic in plain sentences. */
  because: string[];
}
