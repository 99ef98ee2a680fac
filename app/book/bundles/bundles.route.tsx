import { Link } from "react-router";

import { jobsOf, KEPT_DAYS } from "~/kit/jobs/jobs.server";
import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";
import { Day } from "~/ui/day";
import { Empty } from "~/ui/empty";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/bundles.route";
import { bundleIn } from "./bundle-in";

export const meta: Route.MetaFunction = () => [{ title: "Bundles – Humble Hound" }];

export function loader({ context }: Route.LoaderArgs) {
  return served(async () => ({ jobs: await jobsOf(actorOf(context), 50), keptDays: KEPT_DAYS }));
}

const STATES: Record<string, string> = {
  waiting: "Waits for its turn",
  running: "Being made",
  done: "Made",
  failed: "Not made",
  stopped: "Stopped",
};

export default function Bundles({ loaderData }: Route.ComponentProps) {
  const { jobs, keptDays } = loaderData;
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
                  {job.state === "running" && ` · ${job.done} of ${job.total}`}
                  <span className="block text-ink-soft">
                    <Day at={job.askedAt} />
                  </span>
                </p>
              </li>
            );
          })}
        </ul>
      )}
    </>
  );
}
