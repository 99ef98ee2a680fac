import { Form, Link, useNavigation } from "react-router";

import { listDue } from "~/duties/due.server";
import { DueList } from "~/duties/due-list";
import { openHolds } from "~/duties/holds.server";
import { UnreadMeters } from "~/duties/unread-meters";
import { unreadMeters } from "~/duties/unread-meters.server";
import { inHours } from "~/kit/days/day-time";
import { firmDay } from "~/kit/days/firm-day.server";
import { machineSearchSchema } from "~/kit/forms/search-schemas";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { addedToCheck } from "~/machines/adding/added.server";
import { AddedOnTheSpot } from "~/machines/adding/added-panel";
import { countMachines, parkedInAll } from "~/machines/machines.server";
import { openReports } from "~/machines/reports.server";
import { listSites } from "~/machines/sites/sites.server";
import { actorOf } from "~/people/session.server";
import { glanceAt } from "~/round/day/day.server";
import { anySigned } from "~/round/start/first-steps.server";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/round.route";
import { Glance, NothingDue, OutOfService, Reported } from "./round-parts";

export const meta: Route.MetaFunction = () => [{ title: "Round – Humble Hound" }];

export function loader({ request, context }: Route.LoaderArgs) {
  return served(async () => {
    const { site: siteId = null, after = null } = readQuery(request, machineSearchSchema);
    const { id: me, role } = actorOf(context);
    const now = new Date();
    // What stands above the list stands on its first page.
    const first = !after;
    const { on: today } = await firmDay(now);
    const [due, glance, sites, holds, reports, unread, parked, added] = await Promise.all([
      listDue({ siteId, after }, now),
      first && !siteId ? glanceAt(me, now) : null,
      listSites(),
      first ? openHolds(6) : [],
      first ? openReports(6) : [],
      first && !siteId ? unreadMeters(today) : [],
      first && role === "lead" ? parkedInAll() : 0,
      first && role === "lead" ? addedToCheck() : { machines: [], sites: [] },
    ]);
    const machines = due.rows.length === 0 ? await countMachines() : null;
    // A firm that begins is led on until its first record.
    const begins = due.rows.length === 0 && role === "lead" && !(await anySigned());
    return {
      ...due,
      glance,
      lead: role === "lead",
      sites,
      siteId,
      machines,
      holds,
      reports,
      unread,
      today,
      parked,
      added,
      begins,
    };
  });
}

const GROUPS = [
  { states: ["stopped", "overdue"], title: "Past the due day" },
  { states: ["due"], title: "Due today" },
  { states: ["warning", "notice"], title: "Coming up" },
] as const;

export default function Round({ loaderData }: Route.ComponentProps) {
  const { rows, next, sites, siteId, machines, reports, holds, glance, lead, parked, unread, today, added, begins } =
    loaderData;
  const busy = useNavigation().state === "loading";
  return (
    <div aria-busy={busy}>
      <PageHead title="Round" subtitle="What needs you now, the longest waiting first.">
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
      </PageHead>

      <Glance glance={glance} lead={lead} />

      <OutOfService holds={holds} />

      <Reported reports={reports} />

      {parked > 0 && (
        <div className="mb-6">
          <Notice title={parked === 1 ? "A value waits to be looked at" : `${parked} values wait to be looked at`}>
            Until then they move no due day. <Link to="/machines/gateway">Take or drop them</Link>
          </Notice>
        </div>
      )}

      <AddedOnTheSpot added={added} />

      <UnreadMeters meters={unread} today={today} />

      <NothingDue rows={rows} machines={machines} siteId={siteId} begins={begins} />

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
