import { clockTime, type DayProblem, type DayStop, inWords } from "@core";
import clsx from "clsx";
import { type ReactNode, useState } from "react";

import { inHours } from "~/kit/days/day-time";
import { Disclosure } from "~/ui/disclosure";

import { Axis, Lane } from "./axis";
import { barAt, percent, type ScoreActual, type ScoreBar, scoreLayout, type Span } from "./score-layout";

export interface ScoreDuty {
  dutyId: string;
  title: string;
  machineName: string;
  /** Titles of the steps in each phase, by way; absent where they are not known any more. */
  steps?: { path: string; steps: string[][] }[];
}

/**
 * The score of a visit: the hands on top, a lane for each machine below, waits hatched, the latest moment to come back as an
 * edge; what really happened as a thinner line in the same lanes.
 */
export function Score({
  stop,
  jobs,
  duties,
  actual,
  breaks,
  now,
  technicians,
}: {
  stop: DayStop;
  jobs: DayProblem["sites"][number]["jobs"];
  duties: readonly ScoreDuty[];
  actual: readonly ScoreActual[];
  breaks: readonly Span[];
  now: number | null;
  technicians: number;
}) {
  const byId = new Map(duties.map((duty) => [duty.dutyId, duty]));
  const { span, hands, lanes, list } = scoreLayout({ stop, jobs, actual, now, technicians });
  const bar = (one: Span) => placed(one, span);
  const titleOf = (job: string): string => byId.get(job)?.title ?? "Duty";
  const packed = stop.schedule.makespan;
  const [named, setNamed] = useState<ScoreBar | null>(null);
  /** Over a lane: the bar that a finger means is said below. */
  const finger = (bars: readonly ScoreBar[]): ReactNode => (
    <button
      type="button"
      tabIndex={-1}
      className="absolute inset-0 cursor-pointer"
      onClick={(event) => {
        const { left, width } = event.currentTarget.getBoundingClientRect();
        const minute = span.from + ((event.clientX - left) / Math.max(1, width)) * (span.to - span.from);
        setNamed(barAt(bars, minute));
      }}
    />
  );
  return (
    <figure className="min-w-0">
      <div className="sm:pl-51">
        <Axis span={span} now={now} />
      </div>
      <div className="space-y-1" aria-hidden="true">
        {hands.map((bars, t) => (
          <Lane key={t} name={<strong>{technicians === 1 ? "Hands" : `Hands ${t + 1}`}</strong>} tall>
            {bars.map((one) => (
              <span
                key={`${one.job} ${one.path ?? ""} ${one.index}`}
                title={`${clockTime(one.from)}–${clockTime(one.to)} ${titleOf(one.job)}, ${byId.get(one.job)?.machineName ?? ""}`}
                className="absolute inset-y-1 grid place-items-center overflow-hidden border-r border-surface bg-fill text-xs font-bold text-on-fill"
                style={bar(one)}
              >
                {isWide(one, span) && one.letter}
              </span>
            ))}
            {breaks.map((one) => (
              <span
                key={one.from}
                title={`${clockTime(one.from)}–${clockTime(one.to)} Break`}
                className="absolute inset-y-2 grid place-items-center overflow-hidden border-2 border-dotted border-ink text-xs"
                style={bar(one)}
              >
                {isWide(one, span) && "Break"}
              </span>
            ))}
            {finger(bars)}
          </Lane>
        ))}
        {lanes.flatMap(({ job, letter, bars, bench, worked }) => [
          <Lane
            key={job}
            name={
              <>
                <span className="figure mr-1.5 inline-block border border-ink px-1 text-xs font-bold">{letter}</span>
                {byId.get(job)?.machineName ?? ""}
                <span className="block text-ink-soft">{titleOf(job)}</span>
              </>
            }
          >
            <Bars bars={bars} span={span} />
            {worked && (
              <>
                <span
                  className="absolute bottom-0.5 h-1.5 bg-tan-fill"
                  style={bar(worked)}
                  title={`Worked from ${clockTime(worked.from)}`}
                />
                {worked.waits.map((wait) => (
                  <span
                    key={wait.from}
                    className="hatched absolute bottom-0.5 h-1.5 bg-surface text-ink"
                    style={bar(wait)}
                  />
                ))}
              </>
            )}
            {finger(bars)}
          </Lane>,
          ...bench.map((way) => (
            <Lane
              key={`${job} ${way.path}`}
              name={
                <>
                  <span className="figure mr-1.5 inline-block border border-ink-soft px-1 text-xs">{letter}</span>
                  <span className="text-ink-soft">bench: {inWords(way.path)}</span>
                </>
              }
            >
              <Bars bars={way.bars} span={span} />
              {finger(way.bars)}
            </Lane>
          )),
        ])}
      </div>
      <p role="status" className="min-h-6 text-sm wrap-anywhere">
        {named && (
          <>
            <span className="figure">
              {clockTime(named.from)}–{clockTime(named.to)}
            </span>{" "}
            {phaseInWords(named, byId)}
          </>
        )}
      </p>
      <figcaption className="mt-1 flex flex-wrap gap-x-5 gap-y-1 text-sm text-ink-soft">
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
        <StepTable list={list} breaks={breaks} duties={byId} />
      </Disclosure>
    </figure>
  );
}

/** What a bar is: whose work or wait, on which way, and the steps in it. */
function phaseInWords(bar: ScoreBar, duties: ReadonlyMap<string, ScoreDuty>): string {
  const duty = duties.get(bar.job);
  const steps = duty?.steps?.find((way) => way.path === (bar.path ?? ""))?.steps[bar.index] ?? [];
  return [
    `${bar.hands ? "Work" : "Wait"}: ${duty?.machineName ?? "a machine"}, ${duty?.title ?? "a duty"}`,
    ...(bar.path === null ? [] : [`, bench: ${inWords(bar.path)}`]),
    ...(steps.length === 0 ? [] : [`: ${steps.join("; ")}`]),
  ].join("");
}

/** Where a span lies on the axis; never too narrow to be seen. */
const placed = ({ from, to }: Span, span: Span) => ({
  left: `${percent(from, span)}%`,
  width: `${Math.max(0.4, percent(to, span) - percent(from, span))}%`,
});

/** Whether a letter finds room on a bar; half a letter says nothing. */
const isWide = ({ from, to }: Span, span: Span): boolean => percent(to, span) - percent(from, span) >= 3;

/** Hands on, waits hatched, and by when to be back from them. */
function Bars({ bars, span }: { bars: readonly ScoreBar[]; span: Span }) {
  return bars.map((one) => (
    <span key={one.index}>
      <span
        className={clsx("absolute top-1 bottom-3", one.hands ? "bg-fill" : "hatched border-y border-ink text-ink-soft")}
        style={placed(one, span)}
        title={`${clockTime(one.from)}–${clockTime(one.to)} ${one.hands ? "hands on" : "wait"}`}
      />
      {one.backBy !== null && one.backBy <= span.to && (
        <span
          className="absolute top-0 bottom-2 border-r-4 border-double border-ink"
          style={{ left: `calc(${percent(one.backBy, span)}% - 4px)` }}
          title={`Back by ${clockTime(one.backBy)}`}
        />
      )}
    </span>
  ));
}

function StepTable({
  list,
  breaks,
  duties,
}: {
  list: readonly ScoreBar[];
  breaks: readonly Span[];
  duties: ReadonlyMap<string, ScoreDuty>;
}) {
  const rows = [
    ...list.map((bar) => ({ from: bar.from, to: bar.to, bar })),
    ...breaks.map(({ from, to }) => ({ from, to, bar: null })),
  ].sort((a, b) => a.from - b.from);
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
        {rows.map(({ from, to, bar: one }) => (
          <tr key={one ? `${one.job} ${one.path ?? ""} ${one.index}` : `break ${from}`}>
            <td className="figure">{clockTime(from)}</td>
            <td className="figure">{clockTime(to)}</td>
            <td className="wrap-anywhere">
              {one ? phaseInWords(one, duties) : "Break"}
              {one && one.backBy !== null && (
                <>
                  {" "}
                  – back by <strong className="figure">{clockTime(one.backBy)}</strong>
                </>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
