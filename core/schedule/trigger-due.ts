/** What one trigger says about a plan, as day numbers. Internal to the due engine. */
export interface TriggerDue {
  /** Day number, or null when this trigger sets no day. */
  due: number | null;
  projected: boolean;
  /** Day the running interval began; null for events and conditions, which have no interval. */
  anchor: number | null;
  /** Days between anchor and due day that do not count; absent = none. */
  pausedDays?: number;
  /** Share of the interval used; null without an interval. */
  usedFraction: number | null;
  dueAt?: number;
  left?: number;
  /** The rule, base and arithmetic in one sentence; built only when asked, as projections never ask. */
  says: () => string;
}
