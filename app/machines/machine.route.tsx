import { Link, redirect } from "react-router";

import { listMachineDuties } from "~/duties/due.server";
import { DueList } from "~/duties/due-list";
import { listPauses, pause, resume } from "~/duties/duties.server";
import { HoldPanel } from "~/duties/hold-panel";
import { clearHoldSchema } from "~/duties/hold-schema";
import { clearancesOf, clearHold, holdsOf } from "~/duties/holds.server";
import { LeftSection } from "~/duties/left/left-list";
import { openItemsOf } from "~/duties/left/open-items.server";
import { getMachineNames } from "~/duties/machine-names.server";
import { UnreadMeters } from "~/duties/unread-meters";
import { unreadMeters } from "~/duties/unread-meters.server";
import { notUsableYet } from "~/duties/usable-again.server";
import { dayInZone } from "~/kit/days/site-day";
import { Refusal } from "~/kit/refusal";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { addressContext } from "~/kit/server/request-context";
import { served } from "~/kit/server/served.server";
import { listWorkers } from "~/people/people.server";
import { actorOf } from "~/people/session.server";
import { confirmPassword } from "~/people/sessions.server";
import { useIsLead } from "~/people/use-me";
import { FamilyGlyph } from "~/ui/family-glyph";
import { familyName } from "~/ui/family-names";
import { NotUsable } from "~/ui/not-usable";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/machine.route";
import { addedFacts, checkAdded } from "./adding/added.server";
import { AddedNotice } from "./adding/added-panel";
import { Documents, Facts, LatestSheets, Tag, TakenOut } from "./machine-parts";
import {
  answerSchema,
  closeReportSchema,
  meterSchema,
  occurrenceSchema,
  pauseSchema,
  replaceMeterSchema,
  resumeSchema,
  workSchema,
} from "./machine-schemas";
import { getMachine, logOccurrence, parkedOf } from "./machines.server";
import { MeterPanel } from "./meter-panel";
import { expectations, logMeterReading, meterQuestion, replaceMeter } from "./meters.server";
import { OccurrencePanel } from "./occurrence-panel";
import { PausePanel } from "./pause-panel";
import { ReportPanel, TickPanel } from "./report-panel";
import { answerReport, closeReport, makeWork, recentTicks, reportsOf } from "./reports.server";
import { SlotPanel } from "./slot-panel";
import { slotsOfMachine } from "./slots.server";
import { useMachineNow } from "./use-machine-now";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => data.machine.name, "Machine") },
];

export function loader({ params, context }: Route.LoaderArgs) {
  return served(async () => {
    const now = new Date();
    const actor = actorOf(context);
    const view = await getMachine(params.machineId);
    const today = dayInZone(now, view.site.timeZone);
    const holds = await holdsOf(params.machineId);
    const names = await getMachineNames(params.machineId);
    return {
      ...view,
      duties: await listMachineDuties(params.machineId, now),
      unread: await unreadMeters(today, params.machineId),
      knownMeters: names.meters,
      knownOccurrences: names.events,
      expected: await expectations(
        params.machineId,
        names.meters.map((meter) => meter.id),
        now,
      ),
      pauses: await listPauses(params.machineId, today),
      holds,
      clearances: await clearancesOf(actor, holds, today),
      left: await openItemsOf(params.machineId),
      today,
      parked: await parkedOf(params.machineId),
      notUsable: await notUsableYet(params.machineId, view.site.timeZone, now),
      slots: await slotsOfMachine(params.machineId),
      reports: await reportsOf(params.machineId),
      me: actor.id,
      workers: actor.role === "lead" ? await listWorkers() : [{ id: actor.id, name: actor.name }],
      ticks: await recentTicks(params.machineId),
      ...(await addedFacts(actor, view.machine)),
    };
  });
}

export function action(args: Route.ActionArgs) {
  const { context } = args;
  const { machineId } = args.params;
  const back = () => redirect(`/machines/${machineId}`);
  return formAction(args, {
    meter: form(meterSchema, async ({ meter, value, confirmed }, who, now) => {
      const ask = confirmed ? null : await meterQuestion(machineId, meter, value, now);
      if (ask) return { result: { ask } };
      await logMeterReading(who, machineId, { meter, value }, now);
      return back();
    }),
    event: form(occurrenceSchema, async ({ event, on, note }, who, now) => {
      await logOccurrence(who, machineId, { event, on: on ?? null, note: note ?? "" }, now);
      return back();
    }),
    "replace-meter": form(replaceMeterSchema, async ({ meter, lastValue, startsAt, note }, who, now) => {
      await replaceMeter(who, machineId, { meter, lastValue: lastValue ?? null, startsAt, note: note ?? "" }, now);
      return back();
    }),
    pause: form(pauseSchema, async ({ dutyId, fromOn, toOn, reason }, who, now) => {
      await pause(who, machineId, { dutyId: dutyId ?? null, fromOn: fromOn ?? null, toOn: toOn ?? null, reason }, now);
      return back();
    }),
    resume: form(resumeSchema, async (value, who, now) => {
      await resume(who, value.pause, now);
      return back();
    }),
    "clear-hold": form(clearHoldSchema, async ({ hold, note, password }, who, now) => {
      if (!(await confirmPassword(who.id, password, context.get(addressContext))))
        throw new Refusal(422, "password", "This is not your password. The machine stays out of service.");
      await clearHold(who, hold, note, now);
      return back();
    }),
    "make-work": form(workSchema, async ({ report, personId, on, answer }, who, now) => {
      await makeWork(who, { machineId, reportId: report, personId, on: on ?? null, answer }, now);
      return back();
    }),
    "answer-report": form(answerSchema, async ({ report, answer }, who, now) => {
      await answerReport(who, { machineId, reportId: report, answer }, now);
      return back();
    }),
    "looked-over": form(NOTHING, async (_, who, now) => {
      await checkAdded(who, { kind: "machine", id: machineId }, now);
      return back();
    }),
    "close-report": form(closeReportSchema, async ({ report, note }, who, now) => {
      await closeReport(who, machineId, report, note, now);
      return back();
    }),
  });
}

export default function Machine({ loaderData, actionData }: Route.ComponentProps) {
  const {
    machine,
    site,
    sheets,
    occurrences,
    duties,
    unread,
    knownMeters,
    knownOccurrences,
    expected,
    pauses,
    reports,
    workers,
    me,
    ticks,
    holds,
    clearances,
    left,
    today,
    notUsable,
    parked,
    slots,
    addedBy,
    firstDuties,
  } = loaderData;
  const lead = useIsLead();
  useMachineNow(machine.id, { holds, reports });
  const answer = actionData;
  return (
    <>
      <PageHead
        back={
          <>
            <Link to="/machines">Machines</Link>
          </>
        }
        mark={<FamilyGlyph family={machine.family} size={56} />}
        title={machine.name}
        subtitle={
          <>
            <span className="figure">{machine.tag}</span> · {familyName(machine.family)} ·{" "}
            <Link to={`/sites/${site.id}`}>{site.name}</Link>
            {machine.area && `, ${machine.area}`}
          </>
        }
      >
        {machine.retiredOn === null && (
          <Link to={`/machines/${machine.id}/fault`} className="btn">
            Something is wrong
          </Link>
        )}
        <MoreOfIt id={machine.id} tag={machine.tag} />
        <Link to={`/machines/new?${new URLSearchParams({ like: machine.id })}`} className="btn">
          Add one like it
        </Link>
        {lead && (
          <Link to={`/machines/${machine.id}/set-up`} className="btn">
            Set up
          </Link>
        )}
      </PageHead>
      <div className="grid gap-6 lg:grid-cols-[1fr_20rem]">
        <div className="min-w-0 space-y-7">
          {machine.retiredOn !== null && <TakenOut machine={machine} />}
          {machine.toCheck && (
            <AddedNotice
              by={addedBy}
              change={`/machines/${machine.id}/set-up`}
              {...(firstDuties ? { first: `/machines/${machine.id}/first-duties` } : {})}
            />
          )}
          <NotUsable why={notUsable} />
          {parked > 0 && (
            <Notice title={parked === 1 ? "A value waits to be looked at" : `${parked} values wait to be looked at`}>
              Until then it moves no due day. <Link to="/machines/gateway">Take or drop it</Link>
            </Notice>
          )}
          <HoldPanel holds={holds} clearances={clearances} answer={answer} />
          <LeftSection items={left} today={today} machineId={machine.id} />
          <ReportPanel reports={reports} people={workers} me={me} today={today} answer={answer} />
          <UnreadMeters meters={unread} today={today} machine={machine.name} />
          <Section id="duties" title="Duties">
            {duties.length > 0 ? (
              <DueList rows={duties} showMachine={false} />
            ) : (
              <p className="panel p-4">No procedure for this family yet, so nothing comes due.</p>
            )}
          </Section>
          <LatestSheets sheets={sheets} />
        </div>
        <aside className="space-y-6">
          <Facts machine={machine} site={site} />
          {machine.photoId && (
            <img
              src={`/photos/${machine.photoId}`}
              alt={`${machine.name}, as it stands`}
              className="w-full border border-line"
            />
          )}
          <Documents machine={machine} />
          {knownMeters.length > 0 && <MeterPanel known={knownMeters} expected={expected} answer={answer} />}
          {knownOccurrences.length > 0 && (
            <OccurrencePanel known={knownOccurrences} occurrences={occurrences} answer={answer} />
          )}
          <TickPanel ticks={ticks} />
          <SlotPanel slots={slots} />
          {duties.length > 0 && <PausePanel pauses={pauses} duties={duties} answer={answer} />}
          <Tag machine={machine} site={site} />
        </aside>
      </div>
    </>
  );
}

/** What else is known of a machine, each on a page of its own. */
function MoreOfIt({ id, tag }: { id: string; tag: string }) {
  return (
    <>
      <Link to={`/machines/${id}/trail`} className="btn">
        Trail
      </Link>
      <Link to={`/machines/${id}/wear`} className="btn">
        Wear
      </Link>
      <Link to={`/book?${new URLSearchParams({ machine: tag })}`} className="btn">
        Records
      </Link>
    </>
  );
}
