import { must } from "../must";
import { clockworkOf } from "../round/clockwork";
import { allPhases } from "../visit/bench-jobs";
import { readDayProblem } from "./read-day";
import type { DayProblem, DaySite } from "./types";

/**
 * No order and no packing ends a day before, in minutes of the day: all of it at its quickest with the cheapest way to each
 * site, or one site alone from when it is first reached and open.
 */
export function leastEnd(problem: DayProblem): number {
  return leastEndOf(readDayProblem(problem));
}

/** As `leastEnd`, of a day that is checked already. */
export function leastEndOf(problem: DayProblem): number {
  const { startAt, sites, first } = problem;
  if (sites.length === 0) return startAt;
  // A timetable's minutes stand in the place of the way's.
  const { travel } = clockworkOf({
    stops: sites.map(({ id }) => ({ id, minutes: 0 })),
    travel: problem.travel,
    ...(problem.timetables && { timetables: problem.timetables }),
  });
  const into = (node: number): number =>
    Math.min(...travel.flatMap((row, from) => (from === node ? [] : [must(row[node])])));
  const parts = sites.map((site, i) => {
    const here = site.id === first;
    const quickest = quickestVisit(site, problem.technicians) + site.leaving + (here ? 0 : site.arriving);
    const opens = here
      ? startAt
      : Math.min(...(site.access ?? []).flatMap(([from, to]) => (to > startAt ? [from] : [])), Infinity);
    const reached = startAt + (here ? 0 : into(i + 1));
    const from = Math.max(reached, Number.isFinite(opens) ? opens : reached);
    return { inAll: quickest + (here ? 0 : into(i + 1)), alone: from + quickest };
  });
  const home = Math.min(...travel.slice(1).map((row) => must(row[0])));
  const inTurn = parts.reduce((end, part) => end + part.inAll, startAt + home);
  return Math.max(inTurn, ...parts.map((part) => part.alone + home));
}

/** Hands cannot be shorter than their sum, nor a machine than its own work and waits; what has begun counts its hands only. */
function quickestVisit(site: DaySite, technicians: number): number {
  const begun = new Set((site.fixed ?? []).map((one) => one.job));
  const hands = site.jobs
    .flatMap(allPhases)
    .reduce((sum, phase) => sum + (phase.kind === "hands" ? phase.minutes : 0), 0);
  const longest = site.jobs.map((job) => {
    // A wait at the end goes on without anybody there.
    const last = job.phases.findLastIndex((phase) => phase.kind === "hands");
    return begun.has(job.id) ? 0 : job.phases.slice(0, last + 1).reduce((sum, phase) => sum + phase.minutes, 0);
  });
  return Math.max(hands / technicians, ...longest);
}
