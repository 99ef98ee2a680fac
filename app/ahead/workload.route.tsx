import { addDays, must } from "@core";
import { lazy, Suspense } from "react";
import { Link } from "react-router";

import { served } from "~/kit/server/served.server";
import { OnDay } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";
import { useHydrated } from "~/ui/use-hydrated";
import { Why } from "~/ui/why";

import type { Route } from "./+types/workload.route";
import { aheadFilter } from "./ahead-schemas";
import { hoursWords } from "./cell-words";
import { workload } from "./workload.server";

export const meta: Route.MetaFunction = () => [{ title: "52 weeks – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const params = new URL(request.url).searchParams;
    return { load: await workload(aheadFilter(params), new Date()), query: params.toString() };
  });
}

const Chart = lazy(() => import("./workload-chart"));
const hours = (minutes: number): number => Math.round(minutes / 6) / 10;

export default function AheadWorkload({ loaderData }: Route.ComponentProps) {
  const { load, query } = loaderData;
  const hydrated = useHydrated();
  const weeks = load.before.map((before, i) => ({
    week: addDays(load.today, i * 7).slice(5),
    before: hours(before),
    after: hours(must(load.after[i])),
  }));
  // The present week stays as it is.
  const peak = Math.max(...load.before.slice(1));
  const levelled = Math.max(...load.after.slice(1));
  return (
    <>
      <PageHead
        back={
          <>
            <Link to={`/ahead?${query}`}>Ahead</Link>
          </>
        }
        title="The next 52 weeks"
        subtitle={
          <>
            <span className="figure">{load.duties}</span> duties come due{" "}
            <span className="figure">{load.occurrences}</span> times.
          </>
        }
      />
      <Section
        id="peaks"
        title={
          <>
            Fullest week from the next one on: <span className="figure">{hoursWords(peak)}</span> as it falls,{" "}
            <span className="figure">{hoursWords(levelled)}</span> levelled
          </>
        }
        panel
        className="mt-4"
      >
        <p className="mt-1">
          {load.moved === 0
            ? "Nothing is gained by moving work."
            : `${load.moved} of the ${load.movable} services that may be done early are moved to an earlier week. None is later than due.`}
        </p>
        <Why
          because={[
            "Each service may be done early by up to a quarter of its interval, and is never moved past its due day. The present week stays as it is.",
            `A mixed-integer programme makes the fullest week as short as possible, then brings the other full weeks towards the mean, by as few moves as possible. ${load.optimal ? "Solved to the optimum." : "Stopped at its time limit: the best found so far."}`,
            `No plan inside these tolerances can have a fullest week below ${hoursWords(load.bound)} (the line in the chart).`,
            "Repeats are forecast from each duty's rules, meters at the rate of the last quarter. Operators' duties are left out.",
          ]}
        />
        <div className="mt-3 h-80 min-w-0 overflow-hidden" aria-hidden="true">
          {hydrated && (
            <Suspense fallback={null}>
              <Chart weeks={weeks} bound={hours(load.bound)} />
            </Suspense>
          )}
        </div>
      </Section>
      <Disclosure title="The same as a table" className="panel mt-4 p-4">
        <table className="table-plain">
          <caption className="sr-only">Hands-on hours a week</caption>
          <thead>
            <tr>
              <th scope="col">Week from</th>
              <th scope="col">As it falls</th>
              <th scope="col">Levelled</th>
            </tr>
          </thead>
          <tbody>
            {load.before.map((before, i) => (
              <tr key={i}>
                <td>
                  <OnDay on={addDays(load.today, i * 7)} />
                </td>
                <td className="figure">{hoursWords(before)}</td>
                <td className="figure">{hoursWords(must(load.after[i]))}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Disclosure>
    </>
  );
}
