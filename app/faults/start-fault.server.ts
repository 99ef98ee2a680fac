import { findStepOf, foldRun, SYMPTOM_STEP } from "@core";
import { getDb } from "@db";

import { callOut } from "~/duties/emergency.server";
import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { guideOf } from "~/procedures/guides/guides.server";
import { storeEntries } from "~/sheet/log/append-entries.server";
import { entry, loadSheet, openSheet, refuseTakenOut } from "~/sheet/log/sheets.server";

/** Minutes of a fault before anybody has looked; common practice. */
const FAULT_MINUTES = 30;

/**
 * Begins to look for a fault: its duty, its sheet, and what is complained of as the first entry. A report that it answers is closed
 * with its sheet.
 *
 * @param input.symptom of the family's guide
 * @param input.about what it was begun because of: noted on the sheet
 * @param input.code what the machine displays, of the firm's dictionary: noted on the sheet
 * @returns the sheet
 */
export async function startFault(
  actor: Actor,
  machineId: string,
  input: { symptom: string; report: string | null; code?: string | null; about?: string | null },
  now: Date,
): Promise<string> {
  const db = getDb();
  const { models } = db;
  const machine = await models.Machine.findByPk(machineId, { attributes: ["family", "retiredOn"], raw: true });
  if (!machine) throw new Refusal(404, "no-such-machine", "This machine does not exist.");
  // Before anything is begun: its sheet would not be opened.
  refuseTakenOut(machine);
  const guide = await guideOf(machine.family);
  const symptom = guide?.symptoms.find((one) => one.id === input.symptom);
  if (!symptom) throw new Refusal(422, "symptom", "Choose what is wrong from the list.");
  const dutyId = await db.transact(async (tx) => {
    const report = input.report
      ? await models.ProblemReport.findOne({
          where: { id: input.report, machineId, closedAt: null },
          raw: true,
          transaction: tx,
          lock: tx.LOCK.UPDATE,
        })
      : null;
    if (input.report && !report) throw new Refusal(409, "closed", "This report was closed meanwhile.");
    // Work was made of it already: that is gone on with.
    if (report?.workDutyId) return report.workDutyId;
    const duty = await callOut(actor, machineId, { title: `Fault: ${symptom.says}`, minutes: FAULT_MINUTES }, now, tx);
    if (report)
      await models.ProblemReport.update(
        { workDutyId: duty, ...(report.seenAt ? {} : { seenBy: actor.id, seenAt: now }) },
        { where: { id: report.id }, transaction: tx },
      );
    return duty;
  });
  const sheetId = await openSheet(actor, dutyId, "browser", now);
  // Of work that somebody has begun already it was said.
  const { procedure, entries } = await loadSheet(sheetId);
  if (findStepOf(procedure) && foldRun(procedure, entries).steps[SYMPTOM_STEP] === undefined) {
    const said = { type: "step-done", step: SYMPTOM_STEP, round: 1, answer: symptom.id } as const;
    const code = input.code
      ? await models.FaultCode.findOne({ where: { id: input.code, family: machine.family }, raw: true })
      : null;
    const notes = [
      ...(code ? [`${code.code}: ${code.says}`] : []),
      ...(input.about ? [`Begun because of: ${input.about}`] : []),
    ];
    const bodies = [said, ...notes.map((text) => ({ type: "note", text, step: SYMPTOM_STEP, round: 1 }) as const)];
    const entries = bodies.map((body) => entry(actor, sheetId, "browser", now, body));
    await storeEntries(actor, sheetId, entries, now);
  }
  return sheetId;
}
