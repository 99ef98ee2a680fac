import { foldRun, lastResults, type Procedure } from "@core";
import { getDb } from "@db";

import { dayInZone } from "~/kit/days/site-day";
import type { PastTrials } from "~/sheet/sheet-facts";

import { procedureOf, readEntries } from "./sheet-context.server";

/** So many times before are shown. */
const TIMES = 3;

/** What came of each function of a procedure's proofs the last times on this machine, the latest first. */
export async function pastTrials(machineId: string, procedure: Procedure, timeZone: string): Promise<PastTrials> {
  const past: PastTrials = {};
  if (!procedure.steps.some((step) => step.kind === "prove" && step.functions)) return past;
  const sheets = await getDb().models.Sheet.findAll({
    attributes: ["id", "procedureId", "procedureVersion", "closedAt"],
    where: { machineId, procedureId: procedure.id, status: "signed" },
    order: [
      ["closedAt", "DESC"],
      ["id", "DESC"],
    ],
    limit: TIMES,
    raw: true,
  });
  for (const sheet of sheets) {
    const worked = sheet.procedureVersion === procedure.version ? procedure : await procedureOf(sheet);
    const { steps } = foldRun(worked, await readEntries(sheet.id));
    for (const state of Object.values(steps))
      for (const [name, { ok, note, at }] of lastResults(state))
        (past[name] ??= []).push({ on: dayInZone(new Date(at), timeZone), ok, note });
  }
  return past;
}
