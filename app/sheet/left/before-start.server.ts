import { must } from "@core";
import { type Contact, getDb } from "@db";

import { holdsOf, type HoldView } from "~/duties/holds.server";
import { openItemsOf, type OpenItemView } from "~/duties/left/open-items.server";
import { dayInZone } from "~/kit/days/site-day";
import { recentTicks, reportsOf } from "~/machines/reports.server";

import * as sql from "./before-start.sql";

/** What is to be known before a machine is worked on. */
export interface BeforeStart {
  today: string;
  /** Why it is out of service. */
  holds: HoldView[];
  left: OpenItemView[];
  reports: { id: string; text: string; name: string; on: string; at: Date; stopped: boolean }[];
  /** The last operators' duty that was ticked. */
  ticked: { title: string; on: string; name: string } | null;
  /** How the last visit on the machine ended, and what was noted for the next. */
  last: { on: string; by: string; outcome: string | null; reason: string | null; notes: string[] } | null;
  drain: string;
  waste: string;
  call: Contact[];
  access: string;
  siteNotes: string;
  documents: { title: string; href: string }[];
}

const NOTES = 2;

/** Reads it for a machine; a fixed number of queries. */
export async function beforeStart(machineId: string, sheetId: string | null, now: Date): Promise<BeforeStart> {
  const { models } = getDb();
  const machine = must(await models.Machine.findByPk(machineId, { attributes: ["siteId", "documents"], raw: true }));
  const [site, holds, left, reports, ticks, [last]] = await Promise.all([
    models.Site.findByPk(machine.siteId, {
      attributes: ["timeZone", "drainRules", "wasteRules", "contacts", "accessHours", "notes"],
      raw: true,
    }),
    holdsOf(machineId),
    openItemsOf(machineId),
    reportsOf(machineId),
    recentTicks(machineId),
    sql.lastVisit({ machineId, sheetId: sheetId ?? "" }),
  ]);
  const { timeZone, drainRules, wasteRules, contacts, accessHours, notes } = must(site);
  const noted = last
    ? await models.LogEntry.findAll({
        attributes: ["body"],
        where: { sheetId: last.id, type: "note", late: false },
        order: [["seq", "DESC"]],
        limit: NOTES,
        raw: true,
      })
    : [];
  return {
    today: dayInZone(now, timeZone),
    holds: holds.filter((hold) => hold.clearedAt === null),
    left,
    reports: reports
      .filter((report) => report.closedAt === null)
      .map(({ id, text, name, loggedAt, stopped }) => ({
        id,
        text,
        name,
        stopped,
        at: loggedAt,
        on: dayInZone(new Date(loggedAt), timeZone),
      })),
    ticked: ticks[0] ? { title: ticks[0].title, on: ticks[0].doneOn, name: ticks[0].name } : null,
    last: last
      ? {
          on: dayInZone(last.closedAt, timeZone),
          by: last.by,
          outcome: last.outcome,
          reason: last.reason,
          notes: noted.flatMap(({ body }) => (body.type === "note" ? [body.text] : [])),
        }
      : null,
    drain: drainRules,
    waste: wasteRules,
    call: contacts,
    access: accessHours,
    siteNotes: notes,
    documents: machine.documents,
  };
}
