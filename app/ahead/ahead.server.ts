import { addDays, AHEAD_CELLS, AHEAD_DAYS, aheadCell, type DatedValue, type DueState, must } from "@core";
import { type DutyRow, getDb } from "@db";

import { dueNow } from "~/duties/due.server";
import { dutyTakes } from "~/duties/duty-takes";
import { recentMeters, repeatsAfter } from "~/duties/repeats.server";
import { dayInZone } from "~/kit/days/site-day";
import { likeText } from "~/kit/server/like-text.server";
import { type ProcedureTakes, procedureTakes } from "~/procedures/procedures.server";

import * as sql from "./ahead.sql";
import { EARLIEST, SITES_PER_PAGE } from "./ahead.sql";

export interface AheadFilter {
  /** Beginning of a site's or customer's name. */
  q: string | null;
  siteId: string | null;
  family: string | null;
  who: DutyRow["who"] | null;
  /** Only duties put on a day for this person. */
  personId: string | null;
  /** Where the page before ended: the last site's first due day, and what comes after it on that day. */
  after: string | null;
}

/** The next time a duty falls due, as a mark that can be put on a day. */
export interface AheadDuty {
  dutyId: string;
  title: string;
  procedureId: string;
  machineId: string;
  machineName: string;
  machineTag: string;
  who: DutyRow["who"];
  state: DueState;
  dueOn: string | null;
  projected: boolean;
  hardStop: boolean;
  /** The machine must not be used until a lead clears it. */
  outOfService: boolean;
  plannedOn: string | null;
  plannedFor: string | null;
  /** Hands-on minutes of the procedure. */
  handsOn: number;
  /** Index into the core's cells: where the mark stands, on its planned day if it has one. */
  cell: number;
}

export interface AheadSite {
  id: string;
  name: string;
  customerName: string;
  accessHours: string;
  today: string;
  duties: AheadDuty[];
  /** Repeats after the next time, by cell: how many and how many hands-on minutes. */
  repeats: { count: number; minutes: number }[];
}

export interface AheadPage {
  sites: AheadSite[];
  totalSites: number | null;
  next: string | null;
  /** What one service of a procedure takes along. */
  takes: Record<string, { item: string; name: string; qty: number; unit: string }[]>;
}

interface SitePage {
  ids: string[];
  /** Known where it costs nothing to count. */
  total: number | null;
  next: string | null;
}

/** Sites in order of their most pressing duty, from where the page before ended. */
async function findSites(filter: AheadFilter): Promise<SitePage> {
  if (filter.q || filter.siteId || filter.personId) return fewSites(filter);
  return manySites(filter);
}

/**
 * Reads the index of due days from the cursor on and keeps each site's first: a page costs what it shows, however many
 * sites there are.
 */
async function manySites(filter: AheadFilter): Promise<SitePage> {
  const [afterDay, afterDuty] = filter.after?.split("_") ?? [];
  const found = await sql.sitesByFirstDuty(
    { ...filter, from: afterDay ?? EARLIEST, afterDuty: afterDuty ?? "" },
    filter,
    afterDuty,
  );
  const total = filter.who || filter.family ? null : await getDb().models.Site.count();
  return pageOf(found, total);
}

/** A search, one site or one person's days: few enough to group. */
async function fewSites(filter: AheadFilter): Promise<SitePage> {
  let { siteId } = filter;
  let siteIds: string[] | null = null;
  if (filter.q) {
    const rows = await sql.sitesWithDuties({ like: `${likeText(filter.q)}%` });
    siteIds = rows.map((row) => row.id).filter((id) => siteId === null || id === siteId);
    if (siteIds.length === 0) return { ids: [], total: 0, next: null };
    siteId = null;
  }
  const [afterDay, afterSite] = filter.after?.split("_") ?? [];
  const found = await sql.countSites(
    { ...filter, siteId, siteIds: siteIds ?? [], afterDay: afterDay ?? "", afterSite: afterSite ?? "" },
    filter,
    siteIds,
    siteId,
    afterSite,
  );
  return pageOf(found, found[0] ? found[0].total : filter.after ? null : 0);
}

function pageOf(found: readonly { id: string; first: string; mark: string }[], total: number | null): SitePage {
  const page = found.slice(0, SITES_PER_PAGE);
  const last = page[page.length - 1];
  return {
    ids: page.map((row) => row.id),
    total,
    next: found.length > SITES_PER_PAGE && last ? `${last.first}_${last.mark}` : null,
  };
}

export type DutySql = Pick<
  DutyRow,
  | "id"
  | "title"
  | "procedureId"
  | "machineId"
  | "who"
  | "startOn"
  | "rules"
  | "dueOn"
  | "warningFrom"
  | "noticeFrom"
  | "projected"
  | "firmDueOn"
  | "siteId"
  | "plannedOn"
  | "plannedFor"
  | "hardStop"
  | "minutes"
> & { machineName: string; machineTag: string; family: string; held: boolean };

async function findDuties(siteIds: readonly string[], filter: AheadFilter): Promise<DutySql[]> {
  return sql.dutiesOfSites({ siteIds, ...filter }, filter);
}

/** A page of sites with all that comes due there within a year. */
export async function aheadPage(filter: AheadFilter, now: Date): Promise<AheadPage> {
  const { ids, total, next } = await findSites(filter);
  if (ids.length === 0) return { sites: [], totalSites: total, next, takes: {} };
  const sites = new Map((await sql.siteNames({ ids })).map((site) => [site.id, site]));
  const duties = await findDuties(ids, filter);
  const meters = await recentMeters(duties, now);
  const procedures = await procedureTakes([...new Set(duties.map((duty) => duty.procedureId))]);
  const bySite = new Map<string, DutySql[]>();
  for (const duty of duties) {
    const list = bySite.get(duty.siteId);
    if (list) list.push(duty);
    else bySite.set(duty.siteId, [duty]);
  }
  return {
    sites: ids.map((id) => {
      const { timeZone, ...site } = must(sites.get(id));
      return { ...site, ...placeDuties(bySite.get(id) ?? [], dayInZone(now, timeZone), procedures, meters) };
    }),
    totalSites: total,
    next,
    takes: Object.fromEntries([...procedures].map(([id, { materials }]) => [id, materials])),
  };
}

function placeDuties(
  rows: readonly DutySql[],
  today: string,
  procedures: ReadonlyMap<string, ProcedureTakes>,
  meters: ReadonlyMap<string, Record<string, DatedValue[]>>,
): Pick<AheadSite, "today" | "duties" | "repeats"> {
  const until = addDays(today, AHEAD_DAYS);
  const repeats = AHEAD_CELLS.map(() => ({ count: 0, minutes: 0 }));
  const duties: AheadDuty[] = [];
  for (const duty of rows) {
    const { state, dueOn } = dueNow({ ...duty, projected: duty.projected, hardStop: duty.hardStop }, today);
    const handsOn = dutyTakes(duty, procedures.get(duty.procedureId)).hands;
    const onDay = duty.plannedOn !== null && duty.plannedOn >= today ? aheadCell(duty.plannedOn, today) : -1;
    // Put on a day beyond the scale, it stays where it is due.
    const cell = onDay >= 0 ? onDay : aheadCell(must(dueOn), today);
    if (cell >= 0) {
      duties.push({
        dutyId: duty.id,
        title: duty.title,
        procedureId: duty.procedureId,
        machineId: duty.machineId,
        machineName: duty.machineName,
        machineTag: duty.machineTag,
        who: duty.who,
        state,
        dueOn,
        projected: duty.projected,
        hardStop: duty.hardStop,
        outOfService: duty.held,
        plannedOn: duty.plannedOn,
        plannedFor: duty.plannedFor,
        handsOn,
        cell,
      });
    }
    const first = must(dueOn) < today ? today : must(dueOn);
    for (const on of repeatsAfter(duty, first, today, until, meters.get(duty.machineId) ?? {})) {
      const at = repeats[aheadCell(on, today)];
      if (at) {
        at.count += 1;
        at.minutes += handsOn;
      }
    }
  }
  return { today, duties, repeats };
}
