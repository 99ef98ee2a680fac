import { type DayProblem, type DayStop, dutyOfJob, must, visitJobs } from "@core";

/** What really happened on a duty, in minutes of the day; null while it goes on. */
export interface ScoreActual {
  dutyId: string;
  from: number;
  to: number | null;
  waits: [number, number | null][];
}

export interface Span {
  from: number;
  to: number;
}

/** One phase on the score. */
export interface ScoreBar extends Span {
  /** Id of the duty. */
  job: string;
  /** The way on the bench that it is on; null at the machine. */
  path: string | null;
  letter: string;
  index: number;
  /** Hands on, else a wait. */
  hands: boolean;
  /** Of a wait that must not last longer: when to be back. */
  backBy: number | null;
}

export interface ScoreLane {
  job: string;
  letter: string;
  bars: ScoreBar[];
  /** What goes on at the bench beside the machine, a lane for each way. */
  bench: { path: string; bars: ScoreBar[] }[];
  worked: (Span & { waits: Span[] }) | null;
}

/** Place on the axis, percent. */
export function percent(minute: number, { from, to }: Span): number {
  return (100 * (minute - from)) / Math.max(1, to - from);
}

/** Minutes between marks, so that there are half a dozen: they fit a phone. */
function step(minutes: number): number {
  return [5, 10, 15, 30, 60, 120].find((one) => minutes / one <= 6) ?? 240;
}

/** Minutes to mark on an axis: round ones within its span. */
export function axisMarks(span: Span): number[] {
  const every = step(span.to - span.from);
  const first = Math.ceil(span.from / every) * every;
  const count = Math.max(0, Math.floor((span.to - first) / every) + 1);
  return Array.from({ length: count }, (_, i) => first + i * every);
}

/** The bar that is meant by a place on a lane: the one there, else the nearest; a minute is narrower than a finger. */
export function barAt(bars: readonly ScoreBar[], minute: number): ScoreBar | null {
  const away = ({ from, to }: ScoreBar): number => Math.max(from - minute, minute - to, 0);
  return bars.reduce<ScoreBar | null>((best, one) => (best === null || away(one) < away(best) ? one : best), null);
}

/** Letters tie a block of the hands to its machine's lane: A to Z, then AA. */
export function letterOf(i: number): string {
  const last = String.fromCharCode(65 + (i % 26));
  return i < 26 ? last : `${letterOf(Math.floor(i / 26) - 1)}${last}`;
}

/**
 * A visit as it is drawn: what each pair of hands does, a lane for each machine in the order of their beginnings, and what
 * really happened in the same lanes. Phases that take no time are not drawn.
 */
export function scoreLayout({
  stop,
  jobs,
  actual,
  now,
  technicians,
}: {
  stop: Pick<DayStop, "arrive" | "leave" | "schedule">;
  jobs: DayProblem["sites"][number]["jobs"];
  actual: readonly ScoreActual[];
  now: number | null;
  technicians: number;
}): { span: Span; hands: ScoreBar[][]; lanes: ScoreLane[]; list: ScoreBar[] } {
  const phases = [...stop.schedule.phases].sort((a, b) => a.start - b.start || a.end - b.end);
  const order = [...new Set(phases.map((phase) => dutyOfJob(phase.job)))];
  const ways = new Map(jobs.flatMap((job) => visitJobs({ id: job.id }, job)).map((job) => [job.id, job.phases]));
  const letters = new Map(order.map((job, i) => [job, letterOf(i)]));
  const bars = phases.map((phase) => {
    const own = ways.get(phase.job)?.[phase.index];
    const job = dutyOfJob(phase.job);
    const most = phase.technician === undefined && own?.kind === "wait" ? own.maxMinutes : undefined;
    return {
      job,
      path: phase.job === job ? null : phase.job.slice(job.length + 1),
      letter: must(letters.get(job)),
      index: phase.index,
      from: phase.start,
      to: phase.end,
      technician: phase.technician,
      hands: phase.technician !== undefined,
      backBy: most === undefined ? null : phase.start + most,
    };
  });
  const drawn = bars.filter((bar) => bar.to > bar.from);
  // Of a duty that stands twice the first counts.
  const mine = actual.filter((one) => letters.has(one.dutyId)).toReversed();
  const until = (from: number, to: number | null): number => to ?? now ?? from;
  const worked = new Map(
    mine.map((one) => [
      one.dutyId,
      {
        from: one.from,
        to: until(one.from, one.to),
        waits: one.waits.map(([from, to]) => ({ from, to: until(from, to) })),
      },
    ]),
  );
  const spans = [...bars, ...worked.values(), { from: stop.arrive, to: stop.leave }];
  return {
    span: { from: Math.min(...spans.map((one) => one.from)), to: Math.max(...spans.map((one) => one.to)) },
    hands: Array.from({ length: technicians }, (_, t) => drawn.filter((bar) => bar.technician === t)),
    lanes: order.map((job) => ({
      job,
      letter: must(letters.get(job)),
      bars: drawn.filter((bar) => bar.job === job && bar.path === null),
      bench: [...new Set(drawn.flatMap((bar) => (bar.job === job && bar.path !== null ? [bar.path] : [])))].map(
        (path) => ({
          path,
          bars: drawn.filter((bar) => bar.job === job && bar.path === path),
        }),
      ),
      worked: worked.get(job) ?? null,
    })),
    list: drawn,
  };
}
