import { clockTime } from "@core";
import { Form, Link, useNavigation } from "react-router";

import { listDue } from "~/duties/due.server";
import { DueList } from "~/duties/due-list";
import { openHolds } from "~/duties/holds.server";
import { inHours } from "~/kit/days/day-time";
import { machineSearchSchema } from "~/kit/forms/search-schemas";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { countMachines } from "~/machines/machines.server";
import { openReports } from "~/machines/reports.server";
import { listSites } from "~/machines/sites/sites.server";
import { actorOf } from "~/people/session.server";
import { glanceAt } from "~/round/day/day.server";

import type { Route } from "./+types/round.route";

export const meta: Route.MetaFunction = () => [{ title: "Round – Humble Hound" }];

export function loader({ request, context }: Route.LoaderArgs) {
  return served(async () => {
    const { site: siteId = null, after = null } = readQuery(request, machineSearchSchema);
    const due = await listDue({ siteId, after }, new Date());
    return {
      ...due,
      glance: after || siteId ? null : await glanceAt(actorOf(context).id, new Date()),
      lead: actorOf(context).role === "lead",
      sites: await listSites(),
      siteId,
      machines: due.rows.length === 0 ? await countMachines() : null,
      holds: after ? [] : await openHolds(6),
      reports: after ? [] : await openReports(6),
    };
  });
}

const GROUPS = [
  { states: ["stopped", "overdue"], title: "Past the due day" },
  { states: ["due"], title: "Due today" },
  { states: ["warning", "notice"], title: "Coming up" },
] as const;

export default function Round({ loaderData }: Route.ComponentProps) {
  const { rows, next, sites, siteId, machines, reports, holds, glance, lead } = loaderData;
  const busy = useNavigation().state === "loading";
  return (
    <div aria-busy={busy}>
      <div className="mb-5 flex flex-wrap items-end justify-between gap-4">
        <div>
          <h1 className="text-2xl">Round</h1>
          <p className="text-ink-soft">What needs you now, the longest waiting first.</p>
        </div>
        <Form method="get" className="flex items-end gap-2">
          <div>
            <label htmlFor="site" className="block text-sm font-semibold">
              Site
            </label>
            <select
              id="site"
              name="site"
              defaultValue={siteId ?? ""}
              className="field"
              onChange={(event) => event.currentTarget.form?.requestSubmit()}
            >
              <option value="">All sites</option>
              {sites.map((site) => (
                <option key={site.id} value={site.id}>
                  {site.name}
                </option>
              ))}
            </select>
          </div>
          <noscript>
            <button className="btn">Show</button>
          </noscript>
        </Form>
      </div>

      {glance && (
        <section
          aria-labelledby="today"
          className="panel mb-6 flex flex-wrap items-center justify-between gap-x-6 gap-y-3 border-l-8 border-l-tan-fill p-4"
        >
          <div className="min-w-0">
            <h2 id="today" className="text-lg">
              Today
            </h2>
            <p className="wrap-anywhere">
              {glance.duties === 0 ? (
                "Nothing is on your day yet."
              ) : (
                <>
                  {glance.duties} {glance.duties === 1 ? "duty" : "duties"} at {glance.sites}{" "}
                  {glance.sites === 1 ? "site" : "sites"}
                  {glance.endAt !== null && (
                    <>
                      , back at <strong className="figure">{clockTime(glance.endAt)}</strong>
                    </>
                  )}
                  {glance.next && glance.status !== "ended" && (
                    <>
                      {" "}
                      · next {glance.next.name}, <span className="figure">{clockTime(glance.next.arrive)}</span>
                    </>
                  )}
                </>
              )}
            </p>
          </div>
          {lead && (
            <Link to="/round/week" className="btn">
              The week
            </Link>
          )}
          <Link to="/round/day" className="btn btn-main">
            {glance.duties === 0 ? "Plan the day" : glance.status === "started" ? "Go on with the day" : "Open the day"}
          </Link>
        </section>
      )}

      {holds.length > 0 && (
        <section aria-labelledby="out-of-service" className="mb-6">
          <h2 id="out-of-service" className="mb-2 text-lg">
            Out of service
          </h2>
          <ul className="panel divide-y divide-line border-2 border-ink">
            {holds.map((hold) => (
              <li key={hold.id} className="relative px-3 py-2 hover:bg-sunken">
                <p className="font-semibold wrap-anywhere">
                  <span aria-hidden="true">! </span>
                  {hold.reason}
                </p>
                <p className="text-sm text-ink-soft wrap-anywhere">
                  <Link to={`/machines/${hold.machineId}`} className="after:absolute after:inset-0">
                    {hold.machineName}
                  </Link>
                  , {hold.siteName} · {hold.byName},{" "}
                  <span className="figure">{new Date(hold.since).toISOString().slice(0, 10)}</span>
                </p>
              </li>
            ))}
          </ul>
        </section>
      )}

      {reports.length > 0 && (
        <section aria-labelledby="reported" className="mb-6">
          <h2 id="reported" className="mb-2 text-lg">
            Reported by operators
          </h2>
          <ul className="panel divide-y divide-line border-2 border-ink">
            {reports.map((report) => (
              <li key={report.id} className="relative px-3 py-2 hover:bg-sunken">
                <p className="wrap-anywhere">
                  {report.stopped ? <strong>Machine stopped: </strong> : null}
                  {report.text}
                </p>
                <p className="text-sm text-ink-soft wrap-anywhere">
                  <Link to={`/machines/${report.machineId}`} className="after:absolute after:inset-0">
                    {report.machineName}
                  </Link>
                  , {report.siteName} · {report.name},{" "}
                  <span className="figure">{new Date(report.loggedAt).toISOString().slice(0, 10)}</span>
                </p>
              </li>
            ))}
          </ul>
        </section>
      )}

      {rows.length === 0 && (
        <div className="panel p-6">
          {machines === 0 ? (
            <>
              <p className="text-lg font-semibold">No machines yet.</p>
              <p className="mt-1">Import your machine register first: their duties come from it.</p>
              <Link to="/machines/import" className="btn btn-main mt-4">
                Import machines
              </Link>
            </>
          ) : (
            <>
              <p className="text-lg font-semibold">Nothing is due{siteId ? " at this site" : ""}.</p>
              <p className="mt-1">Duties show up here when their notice begins.</p>
            </>
          )}
        </div>
      )}

      {GROUPS.map(({ states, title }) => {
        const group = rows.filter((row) => (states as readonly string[]).includes(row.state));
        if (group.length === 0) return null;
        const minutes = group.reduce((sum, row) => sum + row.minutes, 0);
        return (
          <section key={title} className="mb-7">
            <h2 className="mb-2 flex flex-wrap items-baseline gap-x-3 text-lg">
              {title}
              <span className="text-sm font-normal text-ink-soft">
                {group.length} {group.length === 1 ? "duty" : "duties"},{" "}
                <span className="figure">{inHours(minutes)}</span>
              </span>
            </h2>
            <DueList rows={group} />
          </section>
        );
      })}
      <p className="mb-4">
        <Link to="/ahead?who=operator&as=table" className="inline-block min-h-11 py-2">
          Operators&apos; own duties
        </Link>
      </p>
      {next && (
        <Link to={`?${new URLSearchParams({ ...(siteId ? { site: siteId } : {}), after: next })}`} className="btn">
          Next 50
        </Link>
      )}
    </div>
  );
}
