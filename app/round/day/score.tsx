import { clockTime, type DayProblem, type DayStop } from "@core";
import clsx from "clsx";

import { inHours } from "~/kit/days/day-time";
import { Disclosure } from "~/ui/disclosure";

import { Axis, Lane, percent, type Span } from "./axis";

export interface ScoreDuty {
  dutyId: string;
  title: string;
  machineName: string;
}

export interface ScoreActual {
  dutyId: string;
  from: number;
  to: number | null;
  waits: [number, number | null][];
}

/** Letters tie a block of the hands to its machine's lane. */
const letter = (i: number): string =>
  i < 26
    ? String.fromCharCode(65 + i)
    : `${String.fromCharCode(64 + Math.floor(i / 26))}${String.fromCharCode(65 + (i % 26))}`;

/**
 * The score of a visit: the hands on top, a lane for each machine below, waits hatched, the latest moment to come back as an
 * edge; what really happened as a thinner line in the same lanes.
 */
export function Score({
  stop,
  jobs,
  duties,
  actual,
  now,
  technicians,
}: {
  stop: DayStop;
  jobs: DayProblem["sites"][number]["jobs"];
  duties: readonly ScoreDuty[];
  actual: readonly ScoreActual[];
  now: number | null;
  technicians: number;
}) {
  const byId = new Map(duties.map((duty) => [duty.dutyId, duty]));
  const { phases } = stop.schedule;
  const order = [...new Set([...phases].sort((a, b) => a.start - b.start).map((phase) => phase.job))];
  const mine = actual.filter((one) => order.includes(one.dutyId));
  const ends = [stop.leave, ...phases.map((phase) => phase.end), ...mine.map((one) => one.to ?? now ?? one.from)];
  const span: Span = {
    from: Math.min(stop.arrive, ...phases.map((phase) => phase.start), ...mine.map((one) => one.from)),
    to: Math.max(...ends),
  };
  const bar = (from: number, to: number) => ({
    left: `${percent(from, span)}%`,
    width: `${Math.max(0.4, percent(to, span) - percent(from, span))}%`,
  });
  const longest = (job: string, index: number): number | undefined => {
    const phase = jobs.find((one) => one.id === job)?.phases[index];
    return phase?.kind === "wait" ? phase.maxMinutes : undefined;
  };
  const titleOf = (job: string): string => byId.get(job)?.title ?? "Duty";
  const packed = stop.schedule.makespan;
  return (
    <figure className="min-w-0">
      <div className="sm:pl-51">
        <Axis span={span} now={now} />
      </div>
      <div className="space-y-1" aria-hidden="true">
        {Array.from({ length: technicians }, (_, t) => (
          <Lane key={t} name={<strong>{technicians === 1 ? "Hands" : `Hands ${t + 1}`}</strong>} tall>
            {phases
              .filter((phase) => phase.technician === t && phase.end > phase.start)
              .map((phase) => (
                <span
                  key={`${phase.job} ${phase.index}`}
                  title={`${clockTime(phase.start)}–${clockTime(phase.end)} ${titleOf(phase.job)}, ${byId.get(phase.job)?.machineName ?? ""}`}
                  className="absolute inset-y-1 grid place-items-center overflow-hidden border-r border-surface bg-fill text-xs font-bold text-on-fill"
                  style={bar(phase.start, phase.end)}
                >
                  {letter(order.indexOf(phase.job))}
                </span>
              ))}
          </Lane>
        ))}
        {order.map((job, i) => {
          const done = mine.find((one) => one.dutyId === job);
          return (
            <Lane
              key={job}
              name={
                <>
                  <span className="figure mr-1.5 inline-block border border-ink px-1 text-xs font-bold">
                    {letter(i)}
                  </span>
                  {byId.get(job)?.machineName ?? ""}
                  <span className="block text-ink-soft">{titleOf(job)}</span>
                </>
              }
            >
              {phases
                .filter((phase) => phase.job === job && phase.end > phase.start)
                .map((phase) => {
                  const hands = phase.technician !== undefined;
                  const most = hands ? undefined : longest(job, phase.index);
                  return (
                    <span key={phase.index}>
                      <span
                        className={clsx(
                          "absolute top-1 bottom-3",
                          hands ? "bg-fill" : "hatched border-y border-ink text-ink-soft",
                        )}
                        style={bar(phase.start, phase.end)}
                        title={`${clockTime(phase.start)}–${clockTime(phase.end)} ${hands ? "hands on" : "wait"}`}
                      />
                      {most !== undefined && phase.start + most <= span.to && (
                        <span
                          className="absolute top-0 bottom-2 border-r-4 border-double border-ink"
                          style={{ left: `calc(${percent(phase.start + most, span)}% - 4px)` }}
                          title={`Back by ${clockTime(phase.start + most)}`}
                        />
                      )}
                    </span>
                  );
                })}
              {done && (
                <>
                  <span
                    className="absolute bottom-0.5 h-1.5 bg-tan-fill"
                    style={bar(done.from, done.to ?? now ?? done.from)}
                    title={`Worked from ${clockTime(done.from)}`}
                  />
                  {done.waits.map(([from, to]) => (
                    <span
                      key={from}
                      className="hatched absolute bottom-0.5 h-1.5 bg-surface text-ink"
                      style={bar(from, to ?? now ?? from)}
                    />
                  ))}
                </>
              )}
            </Lane>
          );
        })}
      </div>
      <figcaption className="mt-2 flex flex-wrap gap-x-5 gap-y-1 text-sm text-ink-soft">
        <span>
          Packed <strong className="figure text-ink">{inHours(packed)}</strong>
        </span>
        <span>
          One machine after another <span className="figure">{inHours(stop.oneByOne)}</span>
          {stop.oneByOne > packed && <> ({Math.round((100 * (stop.oneByOne - packed)) / stop.oneByOne)} % saved)</>}
        </span>
        <span>
          {stop.schedule.status === "optimal"
            ? "Proven: no order of work is shorter."
            : `Not proven: no order is shorter than ${inHours(stop.schedule.lowerBound)}.`}
        </span>
      </figcaption>
      <Disclosure title="As a list" className="mt-1" titleClass="text-sm">
        <StepTable stop={stop} duties={byId} longest={longest} />
      </Disclosure>
    </figure>
  );
}

function StepTable({
  stop,
  duties,
  longest,
}: {
  stop: DayStop;
  duties: ReadonlyMap<string, ScoreDuty>;
  longest: (job: string, index: number) => number | undefined;
}) {
  return (
    <table className="table-plain text-sm">
      <thead>
        <tr>
          <th scope="col">From</th>
          <th scope="col">Until</th>
          <th scope="col">What</th>
        </tr>
      </thead>
      <tbody>
        {[...stop.schedule.phases]
          .filter((phase) => phase.end > phase.start)
          .sort((a, b) => a.start - b.start || a.end - b.end)
          .map((phase) => {
            const most = phase.technician === undefined ? longest(phase.job, phase.index) : undefined;
            const duty = duties.get(phase.job);
            return (
              <tr key={`${phase.job} ${phase.index}`}>
                <td className="figure">{clockTime(phase.start)}</td>
                <td className="figure">{clockTime(phase.end)}</td>
                <td className="wrap-anywhere">
                  {phase.technician === undefined ? "Wait" : "Work"}: {duty?.machineName}, {duty?.title}
                  {most !== undefined && (
                    <>
                      {" "}
                      – back by <strong className="figure">{clockTime(phase.start + most)}</strong>
                    </>
                  )}
                </td>
              </tr>
            );
          })}
      </tbody>
    </table>
  );
}
