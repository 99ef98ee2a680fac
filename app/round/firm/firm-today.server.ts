import { getDb } from "@db";

import { minuteOfDay } from "~/kit/days/day-time";
import type { FirmDay } from "~/kit/days/firm-day.server";
import { instantOf } from "~/round/day/day-calendar.server";
import { standing } from "~/round/day/day-events";

import * as sql from "./firm-today.sql";
import { whereIs } from "./where-words";

const SHOWN = 6;
/** A refusal of longer ago has been thought about. */
const REFUSED_MS = 30 * 86_400_000;

export interface FirmToday {
  people: {
    id: string;
    name: string;
    status: sql.DayOfPerson["status"];
    says: string;
    slips: number;
    duties: number;
    done: number;
    backAt: number | null;
    /** Share of days on which the day as it was planned last holds. */
    holds: number | null;
    endBy: number;
  }[];
  /** Bad, left open, and on nobody's day. */
  items: sql.WaitingItem[];
  itemCount: number;
  refused: sql.Refused[];
}

/** Where everybody is, what slips, and what waits for somebody to decide: five queries, however many people. */
export async function firmToday({ on, timeZone }: FirmDay, now: Date): Promise<FirmToday> {
  const { models } = getDb();
  const since = instantOf(on, 0, timeZone);
  const [days, items, refused] = await Promise.all([
    sql.daysToday({ on, since }),
    sql.itemsWithoutDay({ today: on, fetch: SHOWN }),
    sql.refusedLately({ today: on, since: new Date(now.getTime() - REFUSED_MS), fetch: SHOWN }),
  ]);
  const dayIds = days.flatMap((one) => (one.id === "" ? [] : [one.id]));
  const events =
    dayIds.length === 0 ? [] : await models.DayEvent.findAll({ where: { dayId: dayIds }, order: ["seq"], raw: true });
  const siteIds = new Set([
    ...days.flatMap((one) => (one.plan?.stops ?? []).map((stop) => stop.site)),
    ...events.flatMap((one) => one.siteId ?? []),
  ]);
  const sites =
    siteIds.size === 0
      ? []
      : await models.Site.findAll({ attributes: ["id", "name"], where: { id: [...siteIds] }, raw: true });
  const siteName = (id: string): string => sites.find((site) => site.id === id)?.name ?? "a site";
  return {
    people: days.map(({ id, personId, name, status, plan, figures, endMinute, duties, done }) => {
      const happened = standing(events.filter((one) => one.dayId === id)).map(({ type, siteId, at }) => ({
        type,
        siteId,
        minute: minuteOfDay(at, timeZone),
      }));
      return {
        id: personId,
        name,
        status,
        ...whereIs(status, plan, happened, minuteOfDay(now, timeZone), siteName),
        duties,
        done,
        backAt: figures?.backAt ?? null,
        holds: figures?.holds ?? null,
        endBy: endMinute,
      };
    }),
    items,
    itemCount: items[0]?.total ?? 0,
    refused,
  };
}
