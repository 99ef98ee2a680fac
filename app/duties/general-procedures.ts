import { isFaultProcedure } from "@core";

/** Procedures that belong to no family: the duties on them are made on the spot, for one machine. */

/** Behind duties of a machine's own. */
export const OWN_DUTY = "own-duty";
/** Behind what sheets have left open on a machine. */
export const WHAT_WAS_LEFT = "what-was-left";
/** Behind a call that comes in between. */
export const EMERGENCY_CALL = "emergency-call";

/** Whether a duty says itself how long it takes: its procedure stands for many kinds of work. */
export function isGeneral(procedureId: string): boolean {
  return procedureId === OWN_DUTY || procedureId === WHAT_WAS_LEFT || isCall(procedureId);
}

/** Event of the trigger of a duty that does what was left: on the days by which its items are wanted. */
export const LEFT_OPEN = "left-open";

/** Event that an emergency call answers. Once its sheet is signed, its duty is over: the next call is another one. */
export const CALLED_OUT = "called-out";

/** Whether a duty puts right what keeps its machine out of service: that is planned all the same. */
export function isRepair(procedureId: string): boolean {
  return procedureId === WHAT_WAS_LEFT || isCall(procedureId);
}

/** Whether a duty is a call about something that is wrong: over with its signed sheet. */
export function isCall(procedureId: string): boolean {
  return procedureId === EMERGENCY_CALL || isFaultProcedure(procedureId);
}
