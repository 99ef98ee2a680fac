import { must } from "../must";
import { dutyOfJob, visitJobs } from "../visit/bench-jobs";
import { horizonOf } from "../visit/model";
import type { Phase, VisitProblem, VisitSchedule } from "../visit/types";
import type { DayJob, DayProblem, DaySite } from "./types";

/** Minutes that stand for "any time". */
const WHOLE_DAY: [number, number] = [0, 3 * 1440];

/** The visit with minute 0 at `begin`. */
export function visitAt(
  problem: Pick<DayProblem, "technicians">,
  site: DaySite,
  begin: number,
  hours: boolean,
): VisitProblem {
  const shift = (spans: [number, number][]): [number, number][] =>
    spans.filter(([, to]) => to > begin).map(([from, to]): [number, number] => [Math.max(0, from - begin), to - begin]);
  return {
    technicians: problem.technicians,
    resources: site.resources,
    fixed: (site.fixed ?? []).map((one) => ({ ...one, start: one.start - begin })),
    jobs: site.jobs.flatMap(({ windows, readyBy, ...job }) => {
      const spans = jobSpans(site, { windows });
      const open = spans ? shift(spans) : undefined;
      const bounds = {
        id: job.id,
        ...(hours && open ? { windows: open } : {}),
        ...(hours && readyBy !== undefined ? { deadline: Math.max(0, readyBy - begin) } : {}),
      };
      return visitJobs(bounds, job);
    }),
  };
}

/** The visit without the end of anything: neither of the last of its hours nor by when a machine has to be ready. */
export function openEnded(visit: VisitProblem): VisitProblem {
  return {
    ...visit,
    jobs: visit.jobs.map(({ windows, deadline: _deadline, ...job }) => ({
      ...job,
      ...(windows && {
        windows: windows.map(([from, to]): [number, number] => [from, to === lastEnd(windows) ? NO_END : to]),
      }),
    })),
  };
}

export const withoutHours = (visit: VisitProblem): VisitProblem => ({
  ...visit,
  jobs: visit.jobs.map(({ windows: _windows, deadline: _deadline, ...job }) => job),
});

/** Later than any visit ends, minutes. */
const NO_END = 10 * 1440;

/** Whether a schedule of the visit without its ends keeps them. */
export function keepsEnds(visit: VisitProblem, { phases }: VisitSchedule): boolean {
  const jobs = new Map(visit.jobs.map((job) => [job.id, job]));
  return phases.every(({ job: id, end, technician }) => {
    const job = must(jobs.get(id));
    if (end > (job.deadline ?? Infinity)) return false;
    // Only hands are held to hours.
    return technician === undefined || end <= lastEnd(job.windows);
  });
}

/**
 * The visit with hours that end after all of it could be over left open: it is then the same visit whenever it begins, and
 * packed once.
 */
export function unbound(visit: VisitProblem): VisitProblem {
  const last = horizonOf(visit);
  return {
    ...visit,
    jobs: visit.jobs.map(({ windows, deadline, ...job }) => ({
      ...job,
      ...(windows && {
        windows: windows.map(([from, to]): [number, number] => [from, Math.min(to, Math.max(from, last))]),
      }),
      ...(deadline !== undefined && deadline < last ? { deadline } : {}),
    })),
  };
}

/**
 * The visit without what only one job uses: its phases come one after the other anyway. It is then the same visit whatever else
 * might have been on the day.
 */
export function withoutTurns(visit: VisitProblem): VisitProblem {
  const users = new Map<string, Set<string>>();
  for (const { id, phases } of visit.jobs)
    for (const { uses = [] } of phases)
      uses.forEach((one, i) => {
        const known = (users.get(one) ?? new Set()).add(id);
        // What a phase takes two of may be more than there is.
        users.set(one, uses.indexOf(one) === i ? known : known.add(`${id} again`));
      });
  const isShared = (id: string): boolean => (users.get(id)?.size ?? 0) > 1;
  const capacity = new Map((visit.resources ?? []).map((one) => [one.id, one.capacity]));
  return {
    ...visit,
    resources: [...users.keys()].filter(isShared).map((id) => ({ id, capacity: must(capacity.get(id)) })),
    jobs: visit.jobs.map((job) => ({
      ...job,
      phases: job.phases.map(({ uses, ...phase }): Phase => {
        const shared = uses?.filter(isShared) ?? [];
        return shared.length > 0 ? { ...phase, uses: shared } : phase;
      }),
    })),
  };
}

/** When a duty may be worked on: the site's and its machine's hours; null at any time. */
export function jobSpans(
  site: DaySite,
  { windows }: { windows?: [number, number][] | undefined },
): [number, number][] | null {
  return site.access || windows ? within(site.access ?? [WHOLE_DAY], windows ?? [WHOLE_DAY]) : null;
}

/** Spans that lie in both lists. */
function within(a: [number, number][], b: [number, number][]): [number, number][] {
  return a.flatMap(([from, to]) =>
    b.flatMap(([start, end]): [number, number][] =>
      Math.max(from, start) < Math.min(to, end) ? [[Math.max(from, start), Math.min(to, end)]] : [],
    ),
  );
}

/** Minutes by which a packed visit, from minute 0 at `begin`, is past its hours; at least one. */
export function lateness(site: DaySite, begin: number, schedule: VisitSchedule): number {
  const over = site.jobs.map((job) => {
    const end =
      begin +
      Math.max(0, ...schedule.phases.filter((phase) => dutyOfJob(phase.job) === job.id).map((phase) => phase.end));
    return Math.max(0, end - closingOf(site, job));
  });
  return Math.max(1, ...over);
}

const lastEnd = (spans: readonly [number, number][] | undefined): number =>
  spans && spans.length > 0 ? Math.max(...spans.map((span) => span[1])) : Infinity;

/** When a duty has to be over: the site's and the machine's last closing, and when the machine has to be ready. */
export const closingOf = (site: DaySite, job: DayJob): number =>
  Math.min(job.readyBy ?? Infinity, lastEnd(job.windows), lastEnd(site.access));

/** When one is let in for an arrival. */
export function opening(site: DaySite, arrival: number): number {
  if (!site.access) return arrival;
  const next = site.access.filter(([, to]) => arrival < to).map(([from]) => Math.max(from, arrival));
  return next.length > 0 ? Math.min(...next) : arrival;
}

export function shifted(schedule: VisitSchedule, by: number): VisitSchedule {
  return {
    ...schedule,
    phases: schedule.phases.map((phase) => ({ ...phase, start: phase.start + by, end: phase.end + by })),
  };
}
