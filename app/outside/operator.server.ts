import { addDays, clockTime, type DueState } from "@core";
import { getDb, type LinkRow } from "@db";
import { v7 as uuidv7 } from "uuid";

import { assessMachine } from "~/duties/assess.server";
import { listMachineDuties } from "~/duties/due.server";
import { OWN_DUTY } from "~/duties/general-procedures";
import { holdsOf } from "~/duties/holds.server";
import { lockMachine } from "~/duties/left/left-work.server";
import { notUsableYet } from "~/duties/usable-again.server";
import { lessonsFor } from "~/faults/lessons.server";
import { dayInZone } from "~/kit/days/site-day";
import { zoneOf } from "~/kit/server/audit.server";
import { preparePhoto, storePhoto } from "~/kit/server/photos.server";
import { machineHead } from "~/machines/machines.server";
import { reportsOf } from "~/machines/reports.server";

import * as sql from "./operator.sql";
import { reportWords } from "./report-words";

type OperatorLink = Pick<LinkRow, "id" | "subjectId">;

export interface OperatorView {
  machine: { name: string; area: string; siteName: string };
  /** Why it must not be used; null when it may. */
  outOfService: string | null;
  /** Why it is not to be used yet. */
  notUsable: string[];
  today: string;
  duties: {
    dutyId: string;
    title: string;
    steps: string[];
    state: DueState;
    dueOn: string | null;
    doneToday: { name: string } | null;
  }[];
  /** What was reported lately, and what comes of it. */
  reports: { id: string; text: string; on: string; says: string }[];
  /** What keeps it whole: of damage by handling that was found more than once. */
  lessons: string[];
}

/** What an operator's link shows of its machine: its operator duties and who ticked them today, nothing else. */
export async function operatorView(link: OperatorLink, now: Date): Promise<OperatorView> {
  const db = getDb();
  const machineId = link.subjectId;
  const machine = await machineHead(machineId);
  const today = dayInZone(now, machine.timeZone);
  const duties = (await listMachineDuties(machineId, now)).filter((duty) => duty.who === "operator");
  const ticks = await db.models.OperatorTick.findAll({
    attributes: ["dutyId", "name"],
    where: { machineId, doneOn: today },
    raw: true,
  });
  const steps = await sql.operatorDuties({ machineId, ownDuty: OWN_DUTY });
  const stepsOf = new Map(
    steps.map((row) => [
      row.dutyId,
      typeof row.steps === "string" ? (JSON.parse(row.steps) as typeof row.steps) : row.steps,
    ]),
  );
  return {
    machine: { name: machine.name, area: machine.area, siteName: machine.siteName },
    outOfService: (await holdsOf(machineId)).find((hold) => hold.clearedAt === null)?.reason ?? null,
    notUsable: await notUsableYet(machineId, machine.timeZone, now),
    reports: await reportsSaid(machineId, machine.timeZone, today),
    lessons: await lessonsFor(machineId, today),
    today,
    duties: duties.map(({ dutyId, title, state, dueOn }) => ({
      dutyId,
      title,
      steps: (stepsOf.get(dutyId) ?? []).map((step) => step.title),
      state,
      dueOn,
      doneToday: ticks.find((tick) => tick.dutyId === dutyId) ?? null,
    })),
  };
}

/** Closed ones are shown for so long. */
const SHOWN_DAYS = 14;
const MOST_SHOWN = 5;

async function reportsSaid(machineId: string, timeZone: string, today: string): Promise<OperatorView["reports"]> {
  const dayOf = (at: Date): string => dayInZone(new Date(at), timeZone);
  const shown = (await reportsOf(machineId)).filter(
    (one) => one.closedAt === null || dayOf(one.closedAt) >= addDays(today, -SHOWN_DAYS),
  );
  return Promise.all(
    shown.slice(0, MOST_SHOWN).map(async (one) => ({
      id: one.id,
      text: one.text,
      on: dayOf(one.loggedAt),
      says: reportWords(one, { today, dayOf, about: one.closedAt === null ? await arrivalFor(one.workDutyId) : null }),
    })),
  );
}

/** About when somebody comes, by the plan of the day that the call is on: `11:20`. */
async function arrivalFor(dutyId: string | null): Promise<string | null> {
  if (dutyId === null) return null;
  const { models } = getDb();
  const duty = await models.Duty.findByPk(dutyId, {
    attributes: ["plannedOn", "plannedFor", "siteId"],
    raw: true,
  });
  if (!duty?.plannedOn || !duty.plannedFor) return null;
  const where = { personId: duty.plannedFor, onDay: duty.plannedOn };
  const day = await models.Day.findOne({ attributes: ["plan"], where, raw: true });
  const stop = day?.plan?.stops.find((one) => one.site === duty.siteId);
  return stop ? clockTime(stop.arrive) : null;
}

/** Logs operator duties as done today. Ticked twice on a day they count once. */
export async function tickDuties(
  link: OperatorLink,
  input: { dutyIds: readonly string[]; name: string },
  now: Date,
): Promise<number> {
  const db = getDb();
  const machineId = link.subjectId;
  const today = dayInZone(now, await zoneOf(machineId));
  return db.transact(async (tx) => {
    await lockMachine(machineId, tx);
    const open = await sql.dutiesToTick(
      { dutyIds: input.dutyIds.length > 0 ? input.dutyIds : [""], machineId, today },
      tx,
    );
    for (const { id: dutyId } of open) {
      const id = uuidv7();
      await db.models.OperatorTick.create(
        { id, linkId: link.id, machineId, dutyId, doneOn: today, name: input.name, loggedAt: now },
        { transaction: tx },
      );
      await db.models.Completion.create(
        { id, dutyId, machineId, doneOn: today, meters: {}, sheetId: null },
        { transaction: tx },
      );
    }
    if (open.length > 0) await assessMachine(machineId, now, tx);
    return open.length;
  });
}

/** A problem that an operator reports: seen by leads at once and by the technician on arrival. */
export async function reportProblem(
  link: OperatorLink,
  input: { name: string; text: string; stopped: boolean; photo: Uint8Array | null },
  now: Date,
): Promise<void> {
  const db = getDb();
  const photo = input.photo && input.photo.length > 0 ? await preparePhoto(input.photo, now) : null;
  await db.transact(async (tx) => {
    if (photo) await storePhoto(photo, tx);
    await db.models.ProblemReport.create(
      {
        id: uuidv7(),
        machineId: link.subjectId,
        linkId: link.id,
        name: input.name,
        text: input.text,
        stopped: input.stopped,
        photoId: photo?.id ?? null,
        loggedAt: now,
        closedBy: null,
        closedAt: null,
        closedNote: "",
      },
      { transaction: tx },
    );
  });
}
