import { must } from "../must";
import { normalQuantiles } from "../normal-quantiles";
import { allPhases } from "../visit/bench-jobs";
import type { DayJob, DayProblem, DaySite } from "./types";

/** From this worth on a duty comes before anything that is merely on the way: late and locked machines. */
const PRESSING = 300;
/** A duty that adds nothing to the day still costs a look. */
const LEAST_COST = 3;

export const worth = (job: DayJob): number => job.value ?? 1;
export const pressing = (job: DayJob): number => (worth(job) >= PRESSING ? worth(job) : 0);
export const handsOf = (job: DayJob): number =>
  allPhases(job).reduce((sum, phase) => (phase.kind === "hands" ? sum + phase.minutes : sum), 0);

/** A duty of a day is told by its site and name. */
export const keyOf = (site: string, job: string): string => JSON.stringify([site, job]);

/** Duties for the hours there are by a quick estimate of minutes. */
export function estimated(
  problem: DayProblem,
  { chance, spread }: { chance: number; spread: (job: string) => number },
): Set<string> {
  // What scatters adds up by its squares: so much room is left for it.
  const times = chance === 0 ? 0 : Math.max(0, must(normalQuantiles(100)[Math.min(99, Math.floor(100 * chance))]));
  const squareOf = (job: DayJob): number => (times * spread(job.id) * handsOf(job)) ** 2;
  let squares = 0;
  const breaks = (problem.breaks ?? []).filter((one) => one.by < problem.endBy);
  const room = problem.endBy - problem.startAt - breaks.reduce((sum, one) => sum + one.minutes, 0);
  const chosen = new Map<string, DayJob[]>();
  const lengths = new Map(problem.sites.map((site) => [site.id, 0]));
  const keys = new Set<string>();
  let tour: number[] = [];
  const open = problem.sites.flatMap((site, i) => site.jobs.map((job) => ({ site, node: i + 1, job })));
  for (;;) {
    const total = tourMinutes(problem, tour) + [...lengths.values()].reduce((sum, one) => sum + one, 0);
    let best: { at: number; score: number } | null = null;
    open.forEach(({ site, node, job }, at) => {
      const jobs = [...(chosen.get(site.id) ?? []), job];
      const way = tour.includes(node)
        ? 0
        : tourMinutes(problem, inserted(problem, tour, node)) - tourMinutes(problem, tour);
      const cost = siteMinutes(site, jobs) - must(lengths.get(site.id)) + way;
      if (total + cost + Math.sqrt(squares + squareOf(job)) > room || (site.access && site.access.length === 0)) return;
      const score = (pressing(job) > 0 ? 1_000_000 : 0) + worth(job) / Math.max(LEAST_COST, cost);
      if (best === null || score > best.score) best = { at, score };
    });
    const at = (best as { at: number } | null)?.at;
    if (at === undefined) return keys;
    const { site, node, job } = must(open.splice(at, 1)[0]);
    keys.add(keyOf(site.id, job.id));
    squares += squareOf(job);
    chosen.set(site.id, [...(chosen.get(site.id) ?? []), job]);
    lengths.set(site.id, siteMinutes(site, must(chosen.get(site.id))));
    if (!tour.includes(node)) tour = inserted(problem, tour, node);
  }
}

/** Hands cannot be shorter than their sum, nor any machine than its own work and waits. */
function siteMinutes(site: DaySite, jobs: readonly DayJob[]): number {
  if (jobs.length === 0) return 0;
  const hands = jobs.reduce((sum, job) => sum + handsOf(job), 0);
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
