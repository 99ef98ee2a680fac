import { Link } from "react-router";

import { formAction, leadForm } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { useIsLead } from "~/people/use-me";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/intervals.route";
import { decideInterval } from "./decide-interval.server";
import { decideSchema, intervalsSearchSchema } from "./interval-schemas";
import { listIntervals } from "./list-intervals.server";
import { ProposalCard } from "./proposal-card";

export const meta: Route.MetaFunction = () => [{ title: "Intervals · Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const query = readQuery(request, intervalsSearchSchema);
    const show = query.show ?? ("open" as const);
    return { ...(await listIntervals(show, query.after ?? null)), show };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    decide: leadForm("Only a lead decides how often a duty comes.", decideSchema, async (value, who, now) => {
      const { proposal: id, decision, reason } = value;
      await decideInterval(who, { id, accept: decision === "accept", reason }, now);
      return decision === "accept" ? "Accepted: the duty comes by it from now on." : "Refused: the interval stays.";
    }),
  });
}

/** Intervals that findings ask for, to be accepted or refused. */
export default function Intervals({ loaderData, actionData }: Route.ComponentProps) {
  const { rows, next, show } = loaderData;
  const lead = useIsLead();
  return (
    <>
      <PageHead
        back={<Link to="/machines">Machines</Link>}
        title="Intervals"
        subtitle={
          show === "open"
            ? "What machines were found like asks for these; each is accepted or refused with a reason"
            : "What was accepted and refused, newest first"
        }
      >
        {show === "open" ? (
          <Link to="?show=decided" className="btn">
            What was decided
          </Link>
        ) : (
          <Link to="/machines/intervals" className="btn">
            What is open
          </Link>
        )}
        <Link to="/machines/intervals/found" className="btn">
          Sites beside each other
        </Link>
      </PageHead>
      {actionData?.said && (
        <p role="status" className="mb-4 font-semibold">
          {actionData.said}
        </p>
      )}
      {rows.length === 0 ? (
        <div className="panel p-6">
          <p className="text-lg font-semibold">
            {show === "open" ? "No interval is asked to change." : "Nothing was decided yet."}
          </p>
          <p className="mt-1">
            At the end of a service a sheet asks how the machine was found. Poor or failed asks for a shorter interval,
            clean three times in a row for a longer one.
          </p>
        </div>
      ) : (
        <ul className="space-y-4">
          {rows.map((row) => (
            <ProposalCard key={row.id} row={row} lead={lead} answer={actionData} />
          ))}
        </ul>
      )}
      {next && (
        <p className="mt-4">
          <Link
            to={`?${new URLSearchParams({ ...(show === "decided" ? { show } : {}), after: next })}`}
            className="btn"
          >
            Next 20
          </Link>
        </p>
      )}
    </>
  );
}
