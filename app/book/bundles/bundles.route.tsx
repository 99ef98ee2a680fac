import { Link } from "react-router";

import { jobsOf, KEPT_DAYS, openJobsOfOthers } from "~/kit/jobs/jobs.server";
import { isOpen } from "~/kit/jobs/open-states";
import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";
import { Day } from "~/ui/day";
import { Empty } from "~/ui/empty";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";
import { useAskAgain } from "~/ui/use-ask-again";

import type { Route } from "./+types/bundles.route";
import { bundleIn } from "./bundle-in";
import { progressWords } from "./progress-words";

export const meta: Route.MetaFunction = () => [{ title: "Bundles – Humble Hound" }];

export function loader({ context }: Route.LoaderArgs) {
  return served(async () => {
    const who = actorOf(context);
    return {
      jobs: await jobsOf(who, 50),
      // Whoever waits for theirs may ask a lead what is before it.
      others: who.role === "lead" ? await openJobsOfOthers(who) : [],
      keptDays: KEPT_DAYS,
    };
  });
}

const STATES: Record<string, string> = {
  waiting: "Waits for its turn",
  running: "Being made",
  done: "Made",
  failed: "Not made",
  stopped: "Stopped",
};

export default function Bundles({ loaderData }: Route.ComponentProps) {
  const { jobs, others, keptDays } = loaderData;
  useAskAgain(others.length > 0 || jobs.some(isOpen));
  return (
    <>
      <PageHead
        back={<Link to="/book">Book</Link>}
        title="Bundles"
        subtitle={`What you had put together from the book. Each stays for ${keptDays} days.`}
      />
      {jobs.length === 0 ? (
        <Empty title="Nothing yet.">
          Narrow <Link to="/book">the book</Link> to what is asked for, then take “One PDF of these”.
        </Empty>
      ) : (
        <ul className="panel divide-y divide-line">
          {jobs.map((job) => {
            const { said, counted } = bundleIn(job.what);
            return (
              <li
                key={job.id}
                className="relative flex flex-wrap items-start justify-between gap-x-4 gap-y-1 px-3 py-2.5 hover:bg-sunken"
              >
                <div className="min-w-0">
                  <p className="font-semibold">
                    <Link to={`/book/bundles/${job.id}`} className="after:absolute after:inset-0">
                      {job.title}
                    </Link>
                  </p>
                  <p className="text-sm text-ink-soft wrap-anywhere">{[...said, counted].join(" · ")}</p>
                </div>
                <p className="text-sm sm:text-right">
                  {STATES[job.state]}
                  {job.state === "running" && ` · ${progressWords(job)}`}
                  <span className="block text-ink-soft">
                    <Day at={job.askedAt} />
                  </span>
                </p>
              </li>
            );
          })}
        </ul>
      )}
      {others.length > 0 && <Others jobs={others} />}
    </>
  );
}

/** For leads: what else is worked on in the background, whoever asked for it. */
function Others({ jobs }: { jobs: Route.ComponentProps["loaderData"]["others"] }) {
  return (
    <Section id="others" title="Worked on for others" className="mt-6">
      <ul className="panel mt-2 divide-y divide-line">
        {jobs.map((job) => {
          const open = job.state === "running" && job.total > 1;
          // What tells two of the app's own from each other says nothing to a person.
          const name =
            job.askedByName === null ? (
              job.title.replace(/ \([0-9a-f]+\)$/u, "")
            ) : (
              <Link to={`/book/bundles/${job.id}`}>{job.title}</Link>
            );
          return (
            <li key={job.id} className="flex flex-wrap items-start justify-between gap-x-4 gap-y-1 px-3 py-2.5">
              <div className="min-w-0">
                <p className="font-semibold wrap-anywhere">{name}</p>
                <p className="text-sm text-ink-soft wrap-anywhere">
                  {job.askedByName ?? "The app by itself"} · <Day at={job.askedAt} />
                </p>
              </div>
              <div className="text-sm sm:text-right">
                <p id={`at-${job.id}`}>
                  {job.state === "running" ? "At work" : STATES[job.state]}
                  {open && ` · ${progressWords(job)}`}
                </p>
                {open && (
                  <progress
                    className="h-3 w-40"
                    max={job.total}
                    value={Math.min(job.done, job.total)}
                    aria-labelledby={`at-${job.id}`}
                  />
                )}
              </div>
            </li>
          );
        })}
      </ul>
    </Section>
  );
}
