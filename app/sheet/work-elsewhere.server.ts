import { dutyOfJob, nextSteps, stepKey } from "@core";
import { getDb } from "@db";

import { foldedSheetsOf } from "./open-sheets.server";
import * as sql from "./work-elsewhere.sql";

/** Work on another machine of the visit: where to, and what it is. */
export interface WorkElsewhere {
  to: string;
  machine: string;
  what: string;
}

/** More than a few are a list to choose from, not what to do next. */
const MOST = 3;

/**
 * What can be done at the same site while a clock runs here: sheets that are open in one's hands, then duties that the day has
 * there, both as its plan goes through them.
 */
export async function workElsewhere(
  personId: string,
  here: { sheetId: string; dutyId: string; siteId: string },
  today: string,
): Promise<WorkElsewhere[]> {
  const open = await foldedSheetsOf(personId, here.siteId);
  const planned = await plannedDuties(personId, here.siteId, today);
  const place = new Map(planned.map((id, i) => [id, i]));
  const inOrder = (dutyId: string): number => place.get(dutyId) ?? planned.length;
  const sheets = open
    .filter(({ row }) => row.sheetId !== here.sheetId)
    .sort((a, b) => inOrder(a.row.dutyId) - inOrder(b.row.dutyId))
    .flatMap((one) => {
      const what = nextToDo(one);
      return what === null ? [] : [{ to: `/sheet/${one.row.sheetId}`, machine: one.row.machineName, what }];
    });
  if (sheets.length >= MOST) return sheets.slice(0, MOST);
  const begun = new Set([here.dutyId, ...open.map(({ row }) => row.dutyId)]);
  const duties = await sql.dutiesToBegin({ ids: planned.filter((id) => !begun.has(id)), today });
  return [
    ...sheets,
    ...duties
      .sort((a, b) => inOrder(a.id) - inOrder(b.id))
      .map(({ id, machine, title }) => ({ to: `/duties/${id}`, machine, what: title })),
  ].slice(0, MOST);
}

/** What can be done on a sheet now; null while only clocks run, or when all is settled. */
function nextToDo({
  row: { options },
  procedure,
  state,
}: Awaited<ReturnType<typeof foldedSheetsOf>>[number]): string | null {
  const titles = new Map(procedure.steps.map((step) => [step.id, step.title]));
  const next = nextSteps(procedure, state, { options }).find(
    ({ step, round }) => state.steps[stepKey(step, round)]?.status !== "running",
  );
  return next ? (titles.get(next.step) ?? null) : null;
}

/** The duties of a person's day at a site, as the plan begins with them. */
async function plannedDuties(personId: string, siteId: string, today: string): Promise<string[]> {
  const day = await getDb().models.Day.findOne({
    attributes: ["plan"],
    where: { personId, onDay: today },
    raw: true,
  });
  const stops = (day?.plan?.stops ?? []).filter((stop) => stop.site === siteId);
  const phases = stops.flatMap((stop) => stop.schedule.phases).sort((a, b) => a.start - b.start);
  return [...new Set(phases.map((phase) => dutyOfJob(phase.job)))];
}
