import { findStepOf, type Procedure, type RunState } from "@core";
import { getDb, type Transaction } from "@db";

import { isCall } from "~/duties/general-procedures";

import { searchOutcomes } from "../find/fault-outcomes";
import { causeName } from "../find/find-view";
import type { SheetContext } from "./sheet-context.server";

/** A call is over with its signed sheet, and the operators' reports that it answers are closed with what was done. */
export async function endCall(
  { duty }: SheetContext,
  { procedure, state }: { procedure: Procedure; state: RunState },
  { by, at }: { by: string; at: Date },
  tx: Transaction,
): Promise<void> {
  if (!isCall(duty.procedureId)) return;
  const { models } = getDb();
  await models.Duty.update(
    { active: false, plannedOn: null, plannedFor: null, pinned: false },
    { where: { id: duty.id, active: true }, transaction: tx },
  );
  const [step, last] = [findStepOf(procedure), searchOutcomes(procedure, state).at(-1)];
  const found =
    step && last && `${last.outcome === "cured" ? "Found and put right: " : ""}${causeName(step, last.cause)}`;
  const note = state.notes.at(-1)?.text ?? found ?? "Done";
  await models.ProblemReport.update(
    { closedBy: by, closedAt: at, closedNote: note.slice(0, 500) },
    { where: { workDutyId: duty.id, closedAt: null }, transaction: tx },
  );
}
