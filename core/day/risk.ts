import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { must } from "../must";
import { uniform } from "../random";
import { afterOf } from "../visit/after";
import { dutyOfJob, visitJobs } from "../visit/bench-jobs";
import type { DayPlan, DayProblem } from "./types";

export interface DayRisk {
  samples: number;
  /** For each stop, in order: share of days on which work there is over after closing, or after a machine has to be ready. */
  closing: { site: string; chance: number; late: number }[];
  /** Share of days that end after `endBy`. */
  overtime: number;
  /** Minute by which nine days in ten are over. */
  endBy90: number;
  /** For each stop: share of days on which a longest wait is exceeded. */
  soaks: { site: string; chance: number }[];
}

const SAMPLES = 400;

/**
 * How likely the day holds, when hands-on minutes scatter: the plan's orders are kept, each phase takes as long as it
 * happens to, everything else follows as early as it may.
 *
 * Factors are lognormal with median 1 and the given spread for each duty (all its phases alike: it is the machine's state
 * and the day's form that make a job long), which is how times of manual work are usually modelled (common practice).
 *
 * @param spread standard deviation of the logarithm of a duty's hands-on minutes
 */
export function dayRisk(problem: DayProblem, plan: DayPlan, spread: (job: string) => number, seed = 1): DayRisk {
  const random = uniform(xoroshiro128plus(seed));
  const sites = new Map(problem.sites.map((site) => [site.id, site]));
  const place = new Map(problem.sites.map((site, i) => [site.id, i + 1]));
  const closing = plan.stops.map((stop) => ({ site: stop.site, chance: 0, late: 0 }));
  const soaks = plan.stops.map((stop) => ({ site: stop.site, chance: 0 }));
  const ends: number[] = [];
  for (let sample = 0; sample < SAMPLES; sample++) {
    let delay = 0;
    plan.stops.forEach((stop, s) => {
      const site = must(sites.get(stop.site));
      const before = plan.stops[s - 1];
      // Slack on the way (an early arrival, a ferry waited for) swallows delays.
      const way = must(must(problem.travel[before ? must(place.get(before.site)) : 0])[must(place.get(stop.site))]);
      const slack =
        stop.site === problem.first
          ? 0
          : Math.max(0, stop.begin - site.arriving - (before ? before.leave : problem.startAt) - way);
      const start = stop.begin + Math.max(0, delay - slack);
      const factor = new Map(site.jobs.map((job) => [job.id, Math.exp(spread(job.id) * normal(random))]));
      const run = workThrough(site.jobs, stop, start, (job) => must(factor.get(job)));
      const late = Math.max(
        0,
        ...site.jobs.map(
          (job) =>
            must(run.ends.get(job.id)) - Math.min(job.readyBy ?? Infinity, lastEnd(job.windows), lastEnd(site.access)),
        ),
      );
      if (late > 0) {
        must(closing[s]).chance += 1 / SAMPLES;
        must(closing[s]).late += late / SAMPLES;
      }
      if (run.soakTooLong) must(soaks[s]).chance += 1 / SAMPLES;
      delay = run.end + site.leaving - stop.leave;
    });
    ends.push(plan.endAt + Math.max(0, delay));
  }
  ends.sort((a, b) => a - b);
  return {
    samples: SAMPLES,
    closing,
    overtime: ends.filter((end) => end > problem.endBy).length / SAMPLES,
    endBy90: Math.ceil(ends[Math.floor(0.9 * SAMPLES)] ?? plan.endAt),
    soaks,
  };
}

function lastEnd(spans: readonly [number, number][] | undefined): number {
  return spans && spans.length > 0 ? Math.max(...spans.map((span) => span[1])) : Infinity;
}

/** The planned order worked with other minutes: each phase after its job's last and its technician's last. */
function workThrough(
  jobs: DayProblem["sites"][number]["jobs"],
  stop: DayPlan["stops"][number],
  start: number,
  factor: (job: string) => number,
): { end: number; ends: Map<string, number>; soakTooLong: boolean } {
  const byId = new Map(jobs.flatMap((job) => visitJobs({ id: job.id }, job)).map((job) => [job.id, job]));
  /** When each phase was over. */
  const over = new Map<string, number>();
  const jobFree = new Map<string, number>();
  const technicianFree = new Map<number, number>();
  const ends = new Map<string, number>(jobs.map((job) => [job.id, start]));
  let end = start;
  let soakTooLong = false;
  const shift = start - stop.begin;
  const phases = stop.schedule.phases
    .map((phase, i) => ({ phase, i }))
    .sort((a, b) => a.phase.start - b.phase.start || a.phase.end - b.phase.end || a.i - b.i);
  const waitFrom = new Map<string, { from: number; most: number }>();
  for (const { phase } of phases) {
    const job = must(byId.get(phase.job));
    const kind = must(job.phases[phase.index]);
    const waited = afterOf(job, phase.index).map((ref) => over.get(`${ref.index} ${ref.job}`) ?? start);
    const ready = Math.max(jobFree.get(phase.job) ?? start, ...waited);
    const duty = dutyOfJob(phase.job);
    const isOver = (at: number): void => {
      over.set(`${phase.index} ${phase.job}`, at);
      jobFree.set(phase.job, at);
      ends.set(duty, Math.max(ends.get(duty) ?? start, at));
    };
    if (kind.kind === "wait") {
      waitFrom.set(phase.job, { from: ready, most: kind.maxMinutes ?? Infinity });
      isOver(ready + kind.minutes);
      continue;
    }
    const free = technicianFree.get(must(phase.technician)) ?? start;
    // Nobody begins before the plan says so: it may hold a soak back on purpose.
    const begin = Math.max(ready, free, phase.start + shift);
    const wait = waitFrom.get(phase.job);
    if (wait && begin - wait.from > wait.most) soakTooLong = true;
    waitFrom.delete(phase.job);
    const ended = begin + kind.minutes * factor(duty);
    isOver(ended);
    technicianFree.set(must(phase.technician), ended);
    end = Math.max(end, ended);
  }
  return { end, ends, soakTooLong };
}

/** Standard normal: G. Box, M. Muller, Annals of Mathematical Statistics 29, 1958. */
function normal(random: () => number): number {
  return Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}
