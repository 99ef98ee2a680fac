import { isGeneral } from "./general-procedures";

/** What work on a duty takes, typically: minutes with hands on it, and minutes of waiting in between. */
export interface DutyTakes {
  hands: number;
  waits: number;
}

/**
 * The one figure that every page tells of a duty: the typical minutes of its procedure's newest version. Duties of the firm's own
 * making share a general procedure: theirs are what somebody has set.
 */
export function dutyTakes(
  duty: { procedureId: string; minutes: number },
  procedure: { handsOn: number; waiting: number } | undefined,
): DutyTakes {
  if (isGeneral(duty.procedureId) || !procedure) return { hands: duty.minutes, waits: 0 };
  return { hands: procedure.handsOn, waits: procedure.waiting };
}
