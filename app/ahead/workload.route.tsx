import { addDays, must } from "@core";
import { lazy, Suspense, useEffect, useRef, useState } from "react";
import { Link, useFetcher } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { isOpen } from "~/kit/jobs/open-states";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { Day, OnDay } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";
import { useAskAgain } from "~/ui/use-ask-again";
import { useHydrated } from "~/ui/use-hydrated";
import { Why } from "~/ui/why";

import type { Route } from "./+types/workload.route";
import { aheadFilter } from "./ahead-schemas";
import { hoursWords } from "./cell-words";
import { askForYear, keptWorkload } from "./workload.server";

export const meta: Route.MetaFunction = () => [{ title: "52 weeks – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const params = new URL(request.url).searchParams;
    return { ...(await keptWorkload(aheadFilter(params), new Date())), query: params.toString() };
  });
}

/** Has it worked out anew; the page asks for it by itself when what is kept is not how things are. */
export function action(args: Route.ActionArgs) {
  return formAction(args, {
    work: form(NOTHING, async (_, __, now) => {
      const params = new URL(args.request.url).searchParams;
      await askForYear(aheadFilter(params), now);
    }),
  });
}

const Chart = lazy(() => import("./workload-chart"));
const hours = (minutes: number): number => Math.round(minutes / 6) / 10;

export default function AheadWorkload({ loaderData }: Route.ComponentProps) {
  const { load, madeAt, current, query, job } = loaderData;
  const working = useFetcher<typeof action>();
  const refused = working.data ? allFaults(answerTo(working.data, "work")) : null;
  const onItsWay = job !== null && isOpen(job);
  const failed = job?.state === "failed" ? job.message : null;
  const fault = refused ?? (current || working.state !== "idle" ? null : failed);
  const wanted = !current && !onItsWay && fault === null;
  const { state, submit } = working;
  const asked = useRef(false);
  useEffect(() => {
    if (!wanted || state !== "idle") return undefined;
    // At once, and again while things go on changing.
    const timer = setTimeout(() => void submit({ intent: "work" }, { method: "post" }), asked.current ? AGAIN_MS : 0);
    asked.current = true;
    return () => clearTimeout(timer);
  }, [wanted, state, submit]);
  useAskAgain(onItsWay);
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
          load && (
            <>
              <span className="figure">{load.duties}</span> duties come due{" "}
              <span className="figure">{load.occurrences}</span> times.
            </>
          )
        }
      />
      {fault && (
        <Notice tone="problem" title="It was not worked out">
          {fault}
          <working.Form method="post" className="mt-2">
            <button name="intent" value="work" className="btn">
              Work it out again
            </button>
          </working.Form>
        </Notice>
      )}
      {!current && !fault && <Working since={madeAt} waits={job?.state === "waiting"} />}
      {load && <Levelled load={load} />}
    </>
  );
}

/** That it is worked out anew, with how long at most. */
function Working({ since, waits }: { since: Date | null; waits: boolean }) {
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => setSeconds((now) => now + 1), 1000);
    return () => clearInterval(timer);
  }, []);
  return (
    <div role="status" className="panel mb-4 p-3">
      <p>
        {since === null
          ? "The year is worked out for the first time"
          : "Something has changed since: it is worked out anew"}
        {since !== null && (
          <>
            . Below it is as of <Day at={since} />
          </>
        )}
        .{waits && " It waits for its turn."}
      </p>
      <progress className="mt-2 block h-3 w-full" max={MOST_SECONDS} value={Math.min(seconds, MOST_SECONDS - 1)}>
        {seconds} of at most {MOST_SECONDS} seconds
      </progress>
    </div>
  );
}

/** Asked for again so long after the one before. */
const AGAIN_MS = 2000;
/** So long it takes at most, with what is read before and until a process takes it up. */
const MOST_SECONDS = 15;

function Levelled({ load }: { load: NonNullable<Route.ComponentProps["loaderData"]["load"]> }) {
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
