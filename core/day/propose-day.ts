import { must } from "../must";
import { type DayOptions, planDay } from "./plan-day";
import { keepJobs } from "./suggest-changes";
import type { DayJob, DayPlan, DayProblem, DaySite } from "./types";

export interface ProposedDay {
  jobs: string[];
  problem: DayProblem;
  plan: DayPlan;
}

/** From this worth on a duty comes before anything that is merely on the way: late and locked machines. */
const PRESSING = 300;
/** A duty that adds nothing to the day still costs a look. */
const LEAST_COST = 3;

/**
 * The duties worth most for the hours there are, out of everything that could be done: pressing ones first, then by worth
 * for the minutes they add, ways included. Filled up by a quick estimate, then planned in earnest; what does not fit then
 * is left again.
 *
 * @param problem the day with all candidates on it; `value` of a job says what it is worth
 */
export function proposeDay(problem: DayProblem, options: DayOptions = {}): ProposedDay {
  const room = problem.endBy - problem.startAt;
  const chosen = new Map<string, DayJob[]>();
  const lengths = new Map(problem.sites.map((site) => [site.id, 0]));
  let tour: number[] = [];
  const open = problem.sites.flatMap((site, i) => site.jobs.map((job) => ({ site, node: i + 1, job })));
  for (;;) {
    const total = tourMinutes(problem, tour) + [...lengths.values()].reduce((sum, one) => sum + one, 0);
    let best: { at: number; cost: number; score: number } | null = null;
    open.forEach(({ site, node, job }, at) => {
      const jobs = [...(chosen.get(site.id) ?? []), job];
      const way = tour.includes(node)
        ? 0
        : tourMinutes(problem, inserted(problem, tour, node)) - tourMinutes(problem, tour);
      const cost = siteMinutes(site, jobs) - must(lengths.get(site.id)) + way;
      if (total + cost > room || (site.access && site.access.length === 0)) return;
      const worth = job.value ?? 1;
      const score = (worth >= PRESSING ? 1_000_000 : 0) + worth / Math.max(LEAST_COST, cost);
      if (best === null || score > best.score) best = { at, cost, score };
    });
    const at = (best as { at: number } | null)?.at;
    if (at === undefined) break;
    const { site, node, job } = must(open.splice(at, 1)[0]);
    chosen.set(site.id, [...(chosen.get(site.id) ?? []), job]);
    lengths.set(site.id, siteMinutes(site, must(chosen.get(site.id))));
    if (!tour.includes(node)) tour = inserted(problem, tour, node);
  }
  let jobs = new Set([...chosen.values()].flat().map((job) => job.id));
  for (;;) {
    const reduced = keepJobs(problem, (id) => jobs.has(id));
    const plan = planDay(reduced, { nodeLimit: 400, ...options });
    if ((plan.lateMinutes === 0 && plan.overtime === 0) || jobs.size === 0)
      return { jobs: [...jobs], problem: reduced, plan };
    // What is least worth goes: at a site that is late if there is one.
    const late = new Set(plan.stops.filter((stop) => stop.late > 0).map((stop) => stop.site));
    const left = reduced.sites.filter((site) => late.size === 0 || late.has(site.id)).flatMap((site) => site.jobs);
    const least = left.reduce((a, b) => ((b.value ?? 1) < (a.value ?? 1) ? b : a));
    jobs = new Set([...jobs].filter((id) => id !== least.id));
  }
}

/** Hands cannot be shorter than their sum, nor any machine than its own work and waits. */
function siteMinutes(site: DaySite, jobs: readonly DayJob[]): number {
  if (jobs.length === 0) return 0;
  const hands = jobs.reduce(
    (sum, job) => sum + job.phases.reduce((inner, phase) => inner + (phase.kind === "hands" ? phase.minutes : 0), 0),
    0,
  );
  const longest = Math.max(...jobs.map((job) => job.phases.reduce((sum, phase) => sum + phase.minutes, 0)));
  return site.arriving + Math.max(hands, longest) + site.leaving;
}

function tourMinutes({ travel }: DayProblem, tour: readonly number[]): number {
  if (tour.length === 0) return 0;
  return [0, ...tour].reduce((sum, node, i) => sum + must(must(travel[node])[tour[i] ?? 0]), 0);
}

function inserted(problem: DayProblem, tour: readonly number[], node: number): number[] {
  let best: number[] = [];
  let least = Infinity;
  for (let at = 0; at <= tour.length; at++) {
    const tried = [...tour.slice(0, at), node, ...tour.slice(at)];
    const minutes = tourMinutes(problem, tried);
    if (minutes < least) {
      least = minutes;
      best = tried;
    }
  }
  return best;
}
