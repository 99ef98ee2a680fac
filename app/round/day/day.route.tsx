import { addDays, clockTime, dayLegs, type DayPlan, leastEnd } from "@core";
import { useEffect, useRef } from "react";
import { Link, useFetcher, useLocation, useNavigation, useRevalidator } from "react-router";

import { listDue } from "~/duties/due.server";
import { dayInWords } from "~/kit/days/day-time";
import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { served } from "~/kit/server/served.server";
import { listSites } from "~/machines/sites/sites.server";
import { colleaguesOf } from "~/people/people.server";
import { actorOf } from "~/people/session.server";
import { loadProgress } from "~/stores/load/hold-load.server";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { titleOf } from "~/ui/title-of";
import { useHydrated } from "~/ui/use-hydrated";

import type { Route } from "./+types/day.route";
import { BreakLine } from "./break-line";
import { ChooseWork } from "./choose-work";
import { dangersOf } from "./dangers";
import { getDayView } from "./day.server";
import { dayAction, whoseDay } from "./day-action.server";
import { lastToTakeBack, whereOne } from "./day-events";
import { DayMap } from "./day-map";
import { DaySummary } from "./day-summary";
import { DayTools } from "./day-tools";
import { ExtrasPanel } from "./extras-panel";
import { Ferry } from "./ferry";
import { Impossible } from "./impossible";
import { LoadPanel } from "./load-panel";
import { NextBar } from "./next-bar";
import { PutBack } from "./put-back";
import { stillOpen } from "./still-open.server";
import { StopOrder } from "./stop-order";
import { StopPanel } from "./stop-panel";
import { nextActs, todayDuties, todayStops } from "./today-stops";
import { useDayPlanner } from "./use-day-planner";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => dayInWords(data.view.on), "Day") },
];

/** Half a minute: a lane moves by a pixel or so. */
const LOOK_AGAIN_MS = 30_000;

export function loader({ request, context }: Route.LoaderArgs) {
  return served(async () => {
    const actor = actorOf(context);
    const now = new Date();
    const { personId, on, params } = await whoseDay({ request, context });
    const view = await getDayView(personId, on, now);
    const adding = params.has("add");
    const siteId = params.get("site");
    const at = whereOne(view.events);
    return {
      view,
      leaving: at === null ? [] : await stillOpen(personId, at),
      own: personId === actor.id,
      mayChange: personId === actor.id || actor.role === "lead",
      colleagues: await colleaguesOf(personId),
      load: await loadProgress(personId, on, now),
      choice: adding
        ? {
            rows: (await listDue({ siteId, after: params.get("after") }, now)).rows.filter(
              (row) => row.plannedOn === null || row.plannedOn < view.today,
            ),
            sites: await listSites(),
            siteId,
          }
        : null,
    };
  });
}

export function action(args: Route.ActionArgs) {
  return dayAction(args);
}

export default function RoundDay({ loaderData, actionData }: Route.ComponentProps) {
  const { view, own, mayChange, colleagues, choice, load, leaving } = loaderData;
  const { day, problem, duties, sites, on } = view;
  const busy = useNavigation().state !== "idle";
  const { key } = useLocation();
  const hydrated = useHydrated();
  const keep = useFetcher();
  const { planning, start, take } = useDayPlanner(
    (plan) =>
      void keep.submit(
        { intent: "keep-plan", order: plan.stops.map((stop) => stop.site).join(" ") },
        { method: "post" },
      ),
  );
  // A day whose work has changed is planned anew without being asked, once.
  const wanted =
    hydrated &&
    mayChange &&
    day.status !== "ended" &&
    problem.sites.length > 0 &&
    (day.plan === null || day.figures === null || view.stale);
  const asked = useRef<string | null>(null);
  useEffect(() => {
    const key = JSON.stringify(problem.sites.map((site) => [site.id, site.jobs.map((job) => job.id)]));
    if (!wanted || asked.current === key) return;
    asked.current = key;
    start(problem);
  });
  // A day under way is looked at again now and then: what is worked moves the actual lines, and the marker of now goes on.
  const { revalidate, state } = useRevalidator();
  const running = day.status === "started" && on === view.today;
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(() => {
      if (document.visibilityState === "visible" && state === "idle") void revalidate();
    }, LOOK_AGAIN_MS);
    return () => clearInterval(timer);
  }, [running, state, revalidate]);
  const shown: DayPlan | null = planning.status === "searching" && planning.best ? planning.best : day.plan;
  const siteName = (id: string): string => sites.find((site) => site.id === id)?.name ?? "Site left";
  const here = whereOne(view.events);
  const last = on === view.today && mayChange ? lastToTakeBack(view.events) : null;
  const visited = (id: string): boolean => view.events.some((event) => event.type === "left" && event.siteId === id);
  const names = [...duties, ...view.closed.map((one) => ({ ...one, machineName: one.machineName }))];
  const words = {
    job: (id: string) => names.find((duty) => duty.dutyId === id)?.title ?? "a duty",
    site: siteName,
    inText: (sentence: string) => withNames(sentence, names),
  };
  const searching = planning.status === "searching";
  const holds = searching ? null : (day.figures?.holds ?? null);
  const standing = todayStops(shown ?? { stops: [] }, view.events, todayDuties(view), siteName);
  const acts = own && on === view.today && !searching ? nextActs(day.status, standing) : null;
  const isInBar = (kind: string, site: string | null = null): boolean =>
    acts?.main.kind === kind && (site === null || ("site" in acts.main && acts.main.site === site));
  const legs = shown ? dayLegs(day.problem ?? problem, shown) : [];
  const order = shown?.stops.map((stop) => stop.site) ?? [];
  const movable = day.status === "open" && mayChange;
  const query = (change: Record<string, string>): string =>
    `/round/day?${new URLSearchParams({ on, ...(own ? {} : { for: view.person.id }), ...change })}`;
  return (
    <div
      className="pb-14 sm:pb-0"
      aria-busy={
        busy || (wanted && planning.status === "idle") || planning.status === "searching" || keep.state !== "idle"
      }
    >
      <PageHead
        back={
          <>
            <Link to="/round">Round</Link>
          </>
        }
        title={dayInWords(on)}
        subtitle={
          <>
            {view.person.name}
            {on === view.today ? ", today" : ""} · <span className="figure">{clockTime(day.startMinute)}</span> to{" "}
            <span className="figure">{clockTime(day.endMinute)}</span>
            {day.technicians > 1 && `, ${day.technicians} people`}
          </>
        }
      >
        <Link to={query({ on: addDays(on, -1) })} className="btn">
          Day before
        </Link>
        <Link to={query({ on: addDays(on, 1) })} className="btn">
          Day after
        </Link>
      </PageHead>

      {actionData?.message && <Notice tone="problem">{actionData.message}</Notice>}
      {actionData?.said && (
        <Notice>
          {actionData.said}
          {actionData.result && actionData.result.moved.before.length > 0 && (
            <PutBack moved={actionData.result.moved} label="Put them back" />
          )}
        </Notice>
      )}
      {view.notes.map((note) => (
        <Notice key={note} tone="plain">
          {note}
        </Notice>
      ))}
      {planning.status === "failed" && (
        <Notice tone="problem">
          The day could not be planned here: {planning.message}. Use “Plan again”: the server does it then.
        </Notice>
      )}

      {duties.length === 0 && view.closed.length === 0 && (
        <section className="panel mb-5 p-5">
          <p className="text-lg font-semibold">Nothing is on this day yet.</p>
          <p className="mt-1">Let a round be proposed for the hours there are, or choose duties yourself.</p>
        </section>
      )}

      {planning.status === "searching" && (
        <div role="status" className="panel mb-4 flex flex-wrap items-center gap-3 p-3">
          <p className="flex-1">
            Looking for the best round…{" "}
            {planning.best && (
              <>
                so far back at <strong className="figure">{clockTime(planning.best.endAt)}</strong>, and no round is
                back before <strong className="figure">{clockTime(Math.ceil(leastEnd(problem)))}</strong>
              </>
            )}
          </p>
          {planning.best && (
            <button type="button" className="btn" onClick={take}>
              Take this one
            </button>
          )}
        </div>
      )}

      {shown && shown.stops.length > 0 && (
        <DaySummary view={view} shown={shown} searching={searching} siteName={siteName} done={visited} />
      )}

      {shown && day.status !== "ended" && (
        <BreakLine
          breaks={shown.breaks ?? []}
          next={running && mayChange ? (day.problem?.breaks?.[0] ?? null) : null}
          now={view.now}
          siteName={siteName}
        />
      )}

      {day.plan &&
        !view.stale &&
        (day.plan.lateMinutes > 0 || day.plan.overtime > 0 || (holds !== null && holds < view.chance)) &&
        planning.status !== "searching" &&
        day.status !== "ended" && (
          <Impossible
            plan={day.plan}
            problem={problem}
            holds={holds}
            dangers={dangersOf(
              day.risk,
              view.chance,
              order.filter((site) => !visited(site)),
              siteName,
            )}
            duties={duties}
            chance={view.chance}
            hours={{ start: day.startMinute, end: day.endMinute }}
            names={words}
            mayChange={mayChange}
          />
        )}

      {acts && (
        <div className="sm:hidden">
          <NextBar
            {...acts}
            dayHref={query({ add: "1" })}
            eveningHref={query({}).replace("/round/day", "/round/evening")}
          />
        </div>
      )}

      <div className="grid gap-5 lg:grid-cols-[1fr_20rem]">
        <div className="min-w-0 space-y-5">
          {(shown?.stops ?? []).map((stop, i) => (
            <StopPanel
              key={stop.site}
              stop={stop}
              number={i + 1}
              on={on}
              site={sites.find((site) => site.id === stop.site) ?? null}
              siteName={siteName(stop.site)}
              problem={day.problem ?? problem}
              duties={duties.filter((duty) => duty.siteId === stop.site)}
              likely={load.likely}
              names={names}
              actual={view.actual}
              breaks={(shown?.breaks ?? []).filter((one) => one.site === stop.site)}
              now={view.now}
              technicians={day.technicians}
              risk={day.risk?.closing.find((one) => one.site === stop.site) ?? null}
              here={here === stop.site}
              leaving={leaving}
              live={day.status === "started" && mayChange && planning.status !== "searching"}
              elsewhere={here !== null && here !== stop.site}
              visited={visited(stop.site)}
              inBar={isInBar("arrive", stop.site) || isInBar("leave", stop.site)}
              leg={legs.find((leg) => leg.to === stop.site) ?? null}
              mayChange={mayChange && day.status !== "ended"}
            />
          ))}
          {legs
            .filter((leg) => leg.to === null)
            .map((leg) => (
              <Ferry key="home" leg={leg} />
            ))}
        </div>
        <aside className="no-print min-w-0 space-y-5">
          {shown && movable && order.length > 1 && (
            <StopOrder
              key={order.join(" ")}
              problem={problem}
              plan={shown}
              siteName={siteName}
              fixed={day.fixedOrder !== null}
            />
          )}
          {shown && (
            <DayMap
              depot={view.depot}
              stops={shown.stops.flatMap((stop) => sites.find((site) => site.id === stop.site) ?? [])}
            />
          )}
          {shown && mayChange && day.status !== "ended" && duties.length > 0 && (
            <ExtrasPanel key={key} href={query({}).replace("/round/day", "/round/extras")} />
          )}
          <LoadPanel {...load} href={query({}).replace("/round/day", "/round/load")} />
          {mayChange && (
            <DayTools
              status={day.status}
              today={on === view.today}
              there={here !== null}
              inBar={isInBar("start") || isInBar("end")}
              start={clockTime(day.startMinute)}
              end={clockTime(day.endMinute)}
              technicians={day.technicians}
              fixed={day.fixedOrder !== null}
              empty={duties.length === 0}
              colleagues={colleagues}
              addHref={query({ add: "1" })}
              icsHref={query({}).replace("/round/day", "/round/day.ics")}
              eveningHref={query({}).replace("/round/day", "/round/evening")}
              beforeHref={query({}).replace("/round/day", "/round/before")}
              last={
                last && {
                  id: last.id,
                  says: `${STEP_WORDS[last.type]}${last.siteId === null ? "" : ` ${at(last.type)}${siteName(last.siteId)}`}, ${clockTime(last.minute)}`,
                }
              }
              answer={actionData}
            />
          )}
        </aside>
      </div>
      {choice && hydrated && (
        <ChooseWork
          {...choice}
          closeHref={query({})}
          on={on}
          person={own ? null : view.person.id}
          problem={allFaults(answerTo(actionData, "put-on"))}
        />
      )}
    </div>
  );
}

const STEP_WORDS = { started: "started", arrived: "arrived at", left: "left", rested: "break", ended: "ended" };

const at = (type: string): string => (type === "rested" ? "at " : "");

/** Sentences of the core speak of ids: people read names. */
function withNames(
  sentence: string,
  duties: readonly { dutyId: string; title: string; machineName: string }[],
): string {
  return duties.reduce((text, duty) => text.replaceAll(duty.dutyId, `“${duty.title}” (${duty.machineName})`), sentence);
}
