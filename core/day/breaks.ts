import type { VisitProblem, VisitSchedule } from "../visit/types";
import type { DayBreak } from "./types";

/** As many breaks as a day has at most. */
export const MOST_BREAKS = 3;
/** Begins the id of a job that is a break: no duty's does. */
export const BREAK_JOB = "\u0000break ";

/** A break inside a visit, in minutes from the visit's beginning. */
export interface VisitBreak {
  index: number;
  from: number;
  to: number;
}

/** A break to be taken during a visit, with its place in the day's list. */
export interface BreakInVisit extends DayBreak {
  index: number;
}

/** A visit with breaks in it: when they are, where that is set, or else to be read from what was packed. */
interface WithBreaks {
  visit: VisitProblem;
  together: VisitBreak[] | null;
}

/** Where in its span a break that is taken together is tried. */
const SHARES = [0, 0.5, 1] as const;
const QUARTER = 15;
/** So wide a span is not missed at its ends. */
const WIDE = 45;
/** Longer than any visit, minutes. */
export const LONG = 5 * 1440;

/**
 * The ways in which breaks can be put into a visit. Of one technician the break is work of its own, which the packing puts
 * where it costs least, into a soak if it can. Several take theirs together: at the beginning of its span, in the middle of it
 * or at its end.
 *
 * @param breaks in minutes from the visit's beginning
 */
export function visitsWithBreaks(visit: VisitProblem, breaks: readonly BreakInVisit[]): WithBreaks[] {
  if (visit.technicians === 1) {
    const jobs = breaks.map((one) => {
      const { index, minutes } = one;
      const { from, by } = roughly({ from: Math.max(0, one.from), by: Math.max(0, one.by) });
      return {
        id: `${BREAK_JOB}${index}`,
        windows: [[from, by + minutes]] as [number, number][],
        phases: [{ kind: "hands" as const, minutes }],
      };
    });
    return [{ visit: { ...visit, jobs: [...visit.jobs, ...jobs] }, together: null }];
  }
  return SHARES.map((share) => {
    let over = 0;
    const together = breaks.map(({ index, minutes, from, by }) => {
      const [first, last] = [Math.max(0, from), Math.max(0, by)];
      const at = Math.max(over, Math.round(first + share * (last - first)));
      over = at + minutes;
      return { index, from: at, to: over };
    });
    const there = [0, ...together.map((one) => one.to)]
      .map((from, i): [number, number] => [from, together[i]?.from ?? LONG])
      .filter(([from, to]) => to > from);
    return { visit: { ...visit, technicianHours: Array.from({ length: visit.technicians }, () => there) }, together };
  });
}

/** A span that is wide, with ends on the quarter hour: a visit that begins some minutes later is then packed once for both. */
function roughly({ from, by }: { from: number; by: number }): { from: number; by: number } {
  const within = { from: Math.ceil(from / QUARTER) * QUARTER, by: Math.floor(by / QUARTER) * QUARTER };
  return within.by - within.from >= WIDE ? within : { from, by };
}

/** What was packed, without the breaks; and those. */
export function takenApart(
  schedule: VisitSchedule,
  together: VisitBreak[] | null,
): { schedule: VisitSchedule; breaks: VisitBreak[] } {
  if (together) {
    const makespan = Math.max(schedule.makespan, ...together.map((one) => one.to));
    return { schedule: { ...schedule, makespan }, breaks: together };
  }
  const isBreak = ({ job }: { job: string }): boolean => job.startsWith(BREAK_JOB);
  return {
    schedule: { ...schedule, phases: schedule.phases.filter((phase) => !isBreak(phase)) },
    breaks: schedule.phases
      .filter(isBreak)
      .map(({ job, start, end }) => ({ index: Number(job.slice(BREAK_JOB.length)), from: start, to: end })),
  };
}
