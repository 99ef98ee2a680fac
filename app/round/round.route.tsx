import { Form, Link, redirect, useNavigation } from "react-router";

import { listDue } from "~/duties/due.server";
import { DueList } from "~/duties/due-list";
import { openHolds } from "~/duties/holds.server";
import { UnreadMeters } from "~/duties/unread-meters";
import { unreadMeters } from "~/duties/unread-meters.server";
import type { Actor } from "~/kit/actor";
import { inHours } from "~/kit/days/day-time";
import { firmDay } from "~/kit/days/firm-day.server";
import { allFaults, answerTo, typed } from "~/kit/forms/answer-to";
import { machineSearchSchema } from "~/kit/forms/search-schemas";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { addedToCheck } from "~/machines/adding/added.server";
import { AddedOnTheSpot } from "~/machines/adding/added-panel";
import { countMachines, parkedInAll } from "~/machines/machines.server";
import { openReports } from "~/machines/reports.server";
import { listSites } from "~/machines/sites/sites.server";
import { actorOf } from "~/people/session.server";
import { planAndKeep } from "~/round/day/day.server";
import { logDay } from "~/round/day/day-log.server";
import { restSchema, siteSchema } from "~/round/day/day-schemas";
import { todayOf } from "~/round/day/today.server";
import { FirmTodayPanel } from "~/round/firm/firm-today";
import { firmToday } from "~/round/firm/firm-today.server";
import { anySigned } from "~/round/start/first-steps.server";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { openIntervals } from "~/wear/intervals/list-intervals.server";

import type { Route } from "./+types/round.route";
import { bySite } from "./by-site";
import { ForTheLead, NothingDue, OutOfService, Reported } from "./round-parts";
import { TodayPanel } from "./today";

export const meta: Route.MetaFunction = () => [{ title: "Round – Humble Hound" }];

export function loader({ request, context }: Route.LoaderArgs) {
  return served(async () => {
    const { site: siteId = null, after = null } = readQuery(request, machineSearchSchema);
    const { id: me, name, role } = actorOf(context);
    const now = new Date();
    // What stands above the list stands on its first page.
    const first = !after;
    const clock = await firmDay(now);
    const today = clock.on;
    const [due, mine, firm, sites, holds, reports, unread, parked, intervals, added] = await Promise.all([
      listDue({ siteId, after }, now),
      first && !siteId ? todayOf(me, clock, now) : null,
      first && !siteId && role === "lead" ? firmToday(clock, now) : null,
      listSites(),
      first ? openHolds(6) : [],
      first ? openReports(6) : [],
      first && !siteId ? unreadMeters(today) : [],
      first && role === "lead" ? parkedInAll() : 0,
      first && role === "lead" ? openIntervals() : 0,
      first && role === "lead" ? addedToCheck() : { machines: [], sites: [] },
    ]);
    const machines = due.rows.length === 0 ? await countMachines() : null;
    // A firm that begins is led on until its first record.
    const begins = due.rows.length === 0 && role === "lead" && !(await anySigned());
    return {
      ...due,
      mine,
      firm,
      name,
      sites,
      siteId,
      machines,
      holds,
      reports,
      unread,
      today,
      parked,
      intervals,
      added,
      begins,
    };
  });
}

/** The day's next step, from where one is: the whole day can be gone through from here. */
export function action(args: Route.ActionArgs) {
  const log = (type: "started" | "arrived" | "left" | "ended") =>
    form(siteSchema, async ({ site, sure }, who: Actor, now) => {
      const { on } = await firmDay(now);
      await logDay(who, { personId: who.id, on, type, siteId: site ?? null, sure: sure === "yes" }, now);
      if (type === "ended") return redirect("/round/evening");
      await planAndKeep(who, who.id, on, null, now);
      return undefined;
    });
  const rest = (over: boolean) =>
    form(restSchema, async ({ minutes }, who: Actor, now) => {
      const { on } = await firmDay(now);
      await logDay(who, { personId: who.id, on, type: "rested", siteId: null, rest: { minutes, over } }, now);
      await planAndKeep(who, who.id, on, null, now);
    });
  return formAction(args, {
    started: log("started"),
    arrived: log("arrived"),
    left: log("left"),
    ended: log("ended"),
    rested: rest(false),
    "had-rest": rest(true),
    // Behind the scenes: what a person has opened meanwhile stays open.
    replan: form(NOTHING, async (_, who, now) => {
      await planAndKeep(who, who.id, (await firmDay(now)).on, null, now);
    }),
  });
}

export default function Round({ loaderData, actionData }: Route.ComponentProps) {
  const {
    rows,
    next,
    sites,
    siteId,
    machines,
    reports,
    holds,
    mine,
    firm,
    name,
    parked,
    intervals,
    unread,
    today,
    added,
    begins,
  } = loaderData;
  const answer = answerTo(actionData, actionData?.form ?? "");
  const problem = actionData ? allFaults(answer) : null;
  // Refused because something is open there: one may leave all the same.
  const leaves = actionData?.form === "left" && answer.refused ? (typed(answer, "site") ?? null) : null;
  const busy = useNavigation().state === "loading";
  return (
    <div aria-busy={busy} className="pb-14 sm:pb-0">
      <PageHead title="Round" subtitle="Today, in order. Below it what needs somebody, by site.">
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

      {problem && leaves === null && <Notice tone="problem">{problem}</Notice>}
      {mine && <TodayPanel today={mine} leaving={leaves === null ? null : { site: leaves, words: problem ?? "" }} />}
      {firm && <FirmTodayPanel firm={firm} on={today} />}

      <OutOfService holds={holds} />

      <Reported reports={reports} />

      <ForTheLead parked={parked} intervals={intervals} />

      <AddedOnTheSpot added={added} />

      <UnreadMeters meters={unread} today={today} />

      <NothingDue rows={rows} machines={machines} siteId={siteId} begins={begins} />

      {bySite(
        rows,
        (mine?.stops ?? []).map((stop) => stop.site),
        name,
      ).map((group) => (
        <section key={group.siteId} className="mb-7" aria-labelledby={`due-${group.siteId}`}>
          <h2 id={`due-${group.siteId}`} className="mb-2 flex flex-wrap items-baseline gap-x-3 text-lg">
            <span className="min-w-0 wrap-anywhere">{group.siteName}</span>
            <span className="text-sm font-normal text-ink-soft">
              {group.mine && "on your round · "}
              {group.rows.length} {group.rows.length === 1 ? "duty" : "duties"},{" "}
              <span className="figure">{inHours(group.minutes)}</span> hands-on
            </span>
          </h2>
          <DueList rows={group.rows} />
        </section>
      ))}
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
