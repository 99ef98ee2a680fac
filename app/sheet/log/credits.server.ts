import {
  coveredBy,
  creditedPlans,
  type FollowUp,
  followUps,
  type Procedure,
  type RunEvent,
  type RunState,
  sheetSteps,
  unsafeWork,
} from "@core";
import { getDb, type Transaction } from "@db";

import { OWN_DUTY } from "~/duties/general-procedures";
import { coveringOf } from "~/duties/machine-facts.server";
import { stepsOfProcedures } from "~/procedures/procedures.server";

import type { SheetContext } from "./sheet-context.server";

/**
 * The duties that a signed sheet counts for. Its own, unless critical work was left out, cut short, or done as it must not be, or
 * most of it was not done; of those that it is said to
 * contain, each one all of whose steps were worked here. What the sheet of an older procedure holds without saying from where,
 * and what a lead has put together by hand, counts with the sheet's own duty.
 */
export async function creditedDuties(
  { sheet, duty, options }: SheetContext,
  procedure: Procedure,
  sheetLog: { entries: readonly RunEvent[]; state: RunState },
  tx: Transaction,
): Promise<string[]> {
  const { whole, state } = countedWork(procedure, sheetLog, { options, hardStop: duty.hardStop });
  const own = whole ? [duty.id] : [];
  if ((duty.rules.covers ?? []).length === 0) return own;
  const duties = await getDb().models.Duty.findAll({
    attributes: ["id", "procedureId", "rules"],
    where: { machineId: sheet.machineId },
    raw: true,
    transaction: tx,
  });
  const contained = new Set(coveredBy(coveringOf(duties))(duty.id));
  const held = duties.filter(({ id }) => contained.has(id));
  const nested = new Set(procedure.steps.flatMap((step) => (step.workedFor ?? []).map((one) => one.procedure)));
  const isTold = (procedureId: string): boolean =>
    !nested.has(procedureId) && (procedure.formatVersion === 1 || procedureId === OWN_DUTY);
  const steps = await stepsOfProcedures(
    held.map((one) => one.procedureId).filter((id) => nested.has(id)),
    tx,
  );
  const earned = creditedPlans(
    procedure,
    state,
    { options },
    held.flatMap(({ id, procedureId }) => {
      const named = steps.get(procedureId);
      return named ? [{ id, procedureId, steps: named }] : [];
    }),
  );
  return [...own, ...earned, ...(whole ? held.filter((one) => isTold(one.procedureId)).map((one) => one.id) : [])];
}

/** Whether a signed sheet counts for its own duty, and its state without what does not count. */
export function countedWork(
  procedure: Procedure,
  sheetLog: { entries: readonly RunEvent[]; state: RunState },
  { options, hardStop }: { options: string[]; hardStop: boolean },
): { whole: boolean; state: RunState } {
  const unsafe = unsafeWork(procedure, sheetLog.entries, { options });
  const state = withoutUnsafe(sheetLog.state, unsafe);
  const left = followUps(procedure, state, { options });
  const whole = unsafe.length === 0 && !leavesCriticalWork(procedure, left);
  return { whole: whole && isDone(left, hardStop ? 0 : sheetSteps(procedure, state, { options }).length / 2), state };
}

/**
 * A step left out is left open by itself, and its duty counts as done (common practice); a service that was hardly begun does
 * not, and a hard stop is lifted by a complete one alone.
 */
function isDone(left: readonly FollowUp[], mostLeft: number): boolean {
  const steps = left.flatMap(({ kind, step }) => (kind === "incomplete" || kind === "fit-part" ? [step] : []));
  return new Set(steps).size <= mostLeft;
}

/** What was done as it must not be does not count as done. */
function withoutUnsafe(state: RunState, unsafe: ReturnType<typeof unsafeWork>): RunState {
  if (unsafe.length === 0) return state;
  const dangerous = new Set(unsafe.map(({ step, round }) => `${step}#${round}`));
  const steps = Object.entries(state.steps).map(([key, at]) =>
    dangerous.has(`${at.step}#${at.round}`)
      ? ([key, { ...at, status: "open" as const }] as const)
      : ([key, at] as const),
  );
  return { ...state, steps: Object.fromEntries(steps) };
}

/** Whether a critical step was left out or cut short: the duty stays due, whatever else was done. */
function leavesCriticalWork(procedure: Procedure, left: readonly FollowUp[]): boolean {
  const critical = new Set(procedure.steps.flatMap((step) => (step.critical ? [step.id] : [])));
  return left.some(({ kind, step }) => (kind === "incomplete" || kind === "fit-part") && critical.has(step ?? ""));
}
