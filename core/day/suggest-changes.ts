import { requireList, requireRecord } from "../inputs";
import { UNKNOWN_SPREAD } from "../minutes/learn-minutes";
import { must } from "../must";
import { dayInTime, inTime } from "./day-in-time";
import type { PackedVisits } from "./drive-day";
import { clockTime, planWith } from "./plan-day";
import type { ProposeOptions } from "./propose-day";
import { readDayProblem } from "./read-day";
import { dayRisk } from "./risk";
import type { DayPlan, DayProblem } from "./types";

/** A change that makes an impossible day possible. */
export type DayChange =
  | { kind: "leave-out"; job: string; site: string; plan: DayPlan }
  | { kind: "start-earlier"; startAt: number; plan: DayPlan }
  | { kind: "stay-longer"; endBy: number; plan: DayPlan }
  | { kind: "another-technician"; technicians: number; plan: DayPlan };

/** Steps by which an earlier start is tried, and the earliest of all, minutes of the day. */
const EARLIER_MINUTES = 15;
const EARLIEST_START = 4 * 60;

/**
 * Smallest changes, one of each kind, that make a day hold as often as is wanted: one duty left out (the one worth least), an
 * earlier start, a later end, another technician.
 *
 * @param kept the day as planned; stops that are behind and not in the day any more do not count
 * @returns [] when the plan holds already; also when no single change is enough
 */
export function suggestChanges(given: DayProblem, kept: DayPlan, options: ProposeOptions = {}): DayChange[] {
  const problem = readDayProblem(given);
  const stops = requireList(requireRecord(kept, "plan").stops, "plan.stops");
  const plan = {
    ...kept,
    stops: stops.filter((stop) => problem.sites.some((site) => site.id === stop.site)),
    // Nor breaks that have been taken since.
    breaks: (kept.breaks ?? []).filter((one) => one.index < (problem.breaks?.length ?? 0)),
  };
  const { chance = 0, spread = () => UNKNOWN_SPREAD, ...limits } = options;
  const holds = (day: DayProblem, planned: DayPlan): DayPlan | null =>
    inTime(planned) && (chance === 0 || dayRisk(day, planned, spread, options.seed).holds >= chance) ? planned : null;
  if (holds(problem, plan)) return [];
  const found: DayChange[] = [];
  const visits: PackedVisits = new Map();
  const attempt = (changed: DayProblem): DayPlan | null => {
    if (dayInTime(changed, { visits, seed: options.seed ?? 1, goesOn: () => true }) === null) return null;
    return holds(changed, planWith(changed, { nodeLimit: 160, ...limits }, visits));
  };
  const longer = plan.lateMinutes === 0 ? laterEnd(problem, plan, chance, spread) : null;
  if (longer !== null) found.push({ kind: "stay-longer", endBy: longer, plan: { ...plan, overtime: 0 } });
  const jobs = problem.sites.flatMap((site) => site.jobs.map((job) => ({ site, job })));
  // Work that has begun, or was pinned to the day, is not left out.
  const open = jobs.filter(({ site, job }) => !job.pinned && !(site.fixed ?? []).some((one) => one.job === job.id));
  for (const { site, job } of open.sort((a, b) => (a.job.value ?? 0) - (b.job.value ?? 0))) {
    const without = attempt(leaveOut(problem, site.id, job.id));
    if (!without) continue;
    found.push({ kind: "leave-out", job: job.id, site: site.id, plan: without });
    break;
  }
  if (problem.first === undefined) {
    for (let startAt = problem.startAt - EARLIER_MINUTES; startAt >= EARLIEST_START; startAt -= EARLIER_MINUTES) {
      const earlier = attempt({ ...problem, startAt });
      if (!earlier) continue;
      found.push({ kind: "start-earlier", startAt, plan: earlier });
      break;
    }
  }
  const more = attempt({ ...problem, technicians: problem.technicians + 1 });
  if (more) found.push({ kind: "another-technician", technicians: problem.technicians + 1, plan: more });
  return found;
}

/** The end with which the day holds as often as is wanted; null when that is not for want of time. */
function laterEnd(problem: DayProblem, plan: DayPlan, chance: number, spread: (job: string) => number): number | null {
  if (chance === 0) return plan.endAt;
  const { endings } = dayRisk(problem, plan, spread);
  // Ends are told of in twentieths: the first that is surely enough.
  const from = Math.max(0, Math.ceil(chance * 20 - 1e-9) - 1);
  for (const end of endings.slice(from)) {
    const longer = { ...problem, endBy: Math.max(problem.endBy, plan.endAt, Math.ceil(end / 5) * 5) };
    if (dayRisk(longer, plan, spread).holds >= chance) return longer.endBy;
  }
  return null;
}

/** The day without one duty; a site without work falls out with its travel. */
export function leaveOut(problem: DayProblem, siteId: string, jobId: string): DayProblem {
  return keepJobs(problem, (id, site) => id !== jobId || site !== siteId);
}

/** The day with some of its duties; sites without work fall out with their travel. */
export function keepJobs(problem: DayProblem, keeps: (job: string, site: string) => boolean): DayProblem {
  const kept = problem.sites
    .map((site, i) => ({ node: i + 1, site: { ...site, jobs: site.jobs.filter((job) => keeps(job.id, site.id)) } }))
    .filter(({ site }) => site.jobs.length > 0);
  const nodes = [0, ...kept.map(({ node }) => node)];
  const place = new Map(nodes.map((node, i) => [node, i]));
  const ids = new Set(kept.map(({ site }) => site.id));
  const { order, first, ...rest } = problem;
  return {
    ...rest,
    sites: kept.map(({ site }) => ({
      ...site,
      ...(site.fixed ? { fixed: site.fixed.filter((one) => site.jobs.some((job) => job.id === one.job)) } : {}),
    })),
    travel: nodes.map((a) => nodes.map((b) => must(must(problem.travel[a])[b]))),
    timetables: (problem.timetables ?? []).flatMap((one) => {
      const [from, to] = [place.get(one.from), place.get(one.to)];
      return from === undefined || to === undefined ? [] : [{ ...one, from, to }];
    }),
    ...(order && { order: order.filter((id) => ids.has(id)) }),
    ...(first !== undefined && ids.has(first) && { first }),
  };
}

/** A change in words; names as the caller has them. */
export function changeInWords(
  change: DayChange,
  name: { job: (id: string) => string; site: (id: string) => string },
): string {
  switch (change.kind) {
    case "leave-out":
      return `Leave out ${name.job(change.job)} at ${name.site(change.site)}: back at ${clockTime(change.plan.endAt)}.`;
    case "start-earlier":
      return `Start at ${clockTime(change.startAt)}: back at ${clockTime(change.plan.endAt)}.`;
    case "stay-longer":
      return `Be back at ${clockTime(change.endBy)} instead.`;
    case "another-technician":
      return `Go with ${change.technicians} technicians: back at ${clockTime(change.plan.endAt)}.`;
  }
}
