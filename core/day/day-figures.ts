import { dutyOfJob } from "../visit/bench-jobs";
import type { DayRisk } from "./risk";
import type { DayPlan, DayProblem } from "./types";

/** What a planned day comes to, in minutes. From its start to `backAt` is `onSite` + `way` + `waiting` + `breaks`. */
export interface DayFigures {
  /** Minute of the day. */
  backAt: number;
  /** From being let in to leaving, arriving and tidying up included, without breaks. */
  onSite: number;
  /** Under way; a ferry that is waited for is not. */
  way: number;
  /** For a ferry, or until a door opens. */
  waiting: number;
  /** Taken on sites or under way; absent in figures that were kept before days had breaks. */
  breaks?: number;
  /** Packed work, without arriving and leaving, and the same one machine after the other. */
  packed: number;
  oneByOne: number;
  /** Duties planned. */
  duties: number;
  /** Minutes late at sites' closing or machines' hours, and after the end of the day. */
  late: number;
  overtime: number;
  /** Share of days on which nothing is late and one is back in time. */
  holds: number;
}

/**
 * The figures of a day's plan: every page that tells of one takes them from here.
 *
 * @param problem what the plan was made from
 * @param startAt minute of the day from which its minutes count
 * @param rested breaks that are behind
 */
export function dayFigures(
  problem: Pick<DayProblem, "sites" | "first">,
  plan: DayPlan,
  {
    startAt,
    risk,
    rested = [],
  }: { startAt: number; risk: Pick<DayRisk, "holds">; rested?: readonly { site: string | null; minutes: number }[] },
): DayFigures {
  const arriving = new Map(problem.sites.map((site) => [site.id, site.id === problem.first ? 0 : site.arriving]));
  const duties = new Set<string>();
  let [onSite, packed, oneByOne] = [0, 0, 0];
  for (const stop of plan.stops) {
    onSite += stop.leave - (stop.begin - (arriving.get(stop.site) ?? 0));
    packed += stop.schedule.makespan;
    oneByOne += stop.oneByOne;
    for (const phase of stop.schedule.phases) duties.add(dutyOfJob(phase.job));
  }
  const rests = [...rested, ...(plan.breaks ?? []).map(({ site, from, to }) => ({ site, minutes: to - from }))];
  let breaks = 0;
  for (const { site, minutes } of rests) {
    breaks += minutes;
    if (site !== null) onSite -= minutes;
  }
  return {
    backAt: plan.endAt,
    onSite,
    way: plan.travelMinutes,
    waiting: Math.max(0, plan.endAt - startAt - onSite - plan.travelMinutes - breaks),
    breaks,
    packed,
    oneByOne,
    duties: duties.size,
    late: plan.lateMinutes,
    overtime: plan.overtime,
    holds: risk.holds,
  };
}
