import { clockTime, dayFigures, type DayPlan, leastEnd } from "@core";

import { inHours } from "~/kit/days/day-time";
import { inPercent } from "~/kit/in-percent";
import { Why } from "~/ui/why";

import type { DayView } from "./day.server";
import { DayLine } from "./day-line";

/** What the figures of a day hold, wherever they stand. */
export const FIGURES_HOLD =
  "On site: from being let in to leaving, arriving and tidying up included, without breaks. On the way: under way alone. Waiting: for a ferry, or until a door opens. Together with the breaks they go from the start to the end.";
/** What the share of days rests on, wherever it is told. */
export const HOLDS_IN =
  "Holds in: each day is worked 1,000 times with minutes that scatter as past services did. It holds when nothing is late anywhere and one is back in time; the higher the share that is wanted, the more room is left on it.";

/** What the day comes to, and its line. */
export function DaySummary({
  view,
  shown,
  searching,
  siteName,
  done,
}: {
  view: Pick<DayView, "day" | "problem" | "now">;
  /** The plan that is kept, or the best so far while it is searched. */
  shown: DayPlan;
  searching: boolean;
  siteName: (id: string) => string;
  done: (site: string) => boolean;
}) {
  const { day, problem } = view;
  const kept = searching ? null : day.figures;
  // While it is searched nobody has drawn days yet.
  const figures = kept ?? dayFigures(problem, shown, { startAt: problem.startAt, risk: { holds: 0 } });
  const saved = figures.oneByOne - figures.packed;
  return (
    <section aria-label="The round" className="panel mb-5 p-4">
      <dl className="mb-3 flex flex-wrap gap-x-8 gap-y-2">
        <Figure name="Back at" value={clockTime(figures.backAt)} />
        <Figure name="On site" value={inHours(figures.onSite)} />
        <Figure name="On the way" value={inHours(figures.way)} />
        {figures.waiting >= 1 && <Figure name="Waiting" value={inHours(figures.waiting)} />}
        {(figures.breaks ?? 0) > 0 && <Figure name="Breaks" value={inHours(figures.breaks ?? 0)} />}
        {saved > 0 && (
          <Figure
            name="Saved by packing"
            value={`${inHours(saved)} (${Math.round((100 * saved) / figures.oneByOne)} %)`}
          />
        )}
        {kept && <Figure name="Holds in" value={inPercent(kept.holds)} />}
      </dl>
      <DayLine
        plan={shown}
        startAt={day.startMinute}
        endBy={day.endMinute}
        siteName={siteName}
        now={view.now}
        done={done}
      />
      {day.risk && (
        <Why
          summary="What these rest on"
          because={[
            "Hands-on minutes are the median of past services of the same procedure, here and by this person where there are at least three; else the typical figure.",
            FIGURES_HOLD,
            "The order of the sites and the packing of each visit are searched together: fewest minutes late first, then back earliest, then least on the way.",
            `No round is back before ${clockTime(Math.ceil(leastEnd(problem)))}: all the work at its quickest, with the cheapest way to each site.`,
            `${day.risk.samples} days were drawn with minutes that scatter as past ones did: nine in ten are over by ${clockTime(day.risk.endBy90)}. The day holds when nothing is late anywhere and one is back by ${clockTime(day.endMinute)}.`,
          ]}
        />
      )}
    </section>
  );
}

function Figure({ name, value }: { name: string; value: string }) {
  return (
    <div>
      <dt className="text-sm text-ink-soft">{name}</dt>
      <dd className="figure text-xl font-semibold">{value}</dd>
    </div>
  );
}
