import { hardnessClass } from "@core";
import { data, Link, redirect } from "react-router";

import { listMachineDuties } from "~/duties/due.server";
import { DueList } from "~/duties/due-list";
import { HoldPanel } from "~/duties/hold-panel";
import { clearHold, holdsOf } from "~/duties/holds.server";
import { getMachineNames } from "~/duties/machine-names.server";
import { listPauses, pause, resume } from "~/duties/plans.server";
import {
  clearHoldSchema,
  closeReportSchema,
  eventSchema,
  meterSchema,
  pauseSchema,
  replaceMeterSchema,
} from "~/kit/form-schemas";
import { textOf } from "~/kit/form-text";
import { outcomeName } from "~/kit/outcomes";
import { parseWithYup } from "~/kit/parse-form";
import { Refusal } from "~/kit/refusal";
import { addressContext } from "~/kit/request-context";
import { served } from "~/kit/served.server";
import { dayInZone } from "~/kit/site-day";
import { actorOf } from "~/people/session.server";
import { confirmPassword } from "~/people/sessions.server";
import { useIsLead } from "~/people/use-me";
import { FamilyGlyph, familyName } from "~/ui/family-glyph";

import type { Route } from "./+types/machine.route";
import { EventPanel } from "./event-panel";
import { getMachine, logMachineEvent } from "./machines.server";
import { MeterPanel } from "./meter-panel";
import { expectations, logMeterReading, meterQuestion, replaceMeter } from "./meters.server";
import { PausePanel } from "./pause-panel";
import { ReportPanel, TickPanel } from "./report-panel";
import { closeReport, recentTicks, reportsOf } from "./reports.server";
import { SlotPanel } from "./slot-panel";
import { slotsOfMachine } from "./slots.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.machine.name ?? "Machine"} – Humble Hound` },
];

export async function loader({ params }: Route.LoaderArgs) {
  const now = new Date();
  const view = await served(getMachine(params.machineId));
  const names = await served(getMachineNames(params.machineId));
  return {
    ...view,
    duties: await listMachineDuties(params.machineId, now),
    knownMeters: names.meters,
    knownEvents: names.events,
    expected: await expectations(
      params.machineId,
      names.meters.map((meter) => meter.id),
      now,
    ),
    pauses: await listPauses(params.machineId, dayInZone(now, view.site.timeZone)),
    holds: await holdsOf(params.machineId),
    slots: await slotsOfMachine(params.machineId),
    reports: await reportsOf(params.machineId),
    ticks: await recentTicks(params.machineId),
  };
}

export async function action({ params, request, context }: Route.ActionArgs) {
  const actor = actorOf(context);
  const formData = await request.formData();
  const { machineId } = params;
  const now = new Date();
  const form = textOf(formData, "intent", 100_000);
  const refused = (result: unknown, ask: string | null = null, status = 422) => data({ form, result, ask }, { status });
  try {
    switch (form) {
      case "event": {
        const submission = parseWithYup(formData, { schema: eventSchema });
        if (submission.status !== "success") return refused(submission.reply());
        const { event, on, note } = submission.value;
        await logMachineEvent(actor, machineId, { event, on: on ?? null, note: note ?? "" }, now);
        break;
      }
      case "replace-meter": {
        const submission = parseWithYup(formData, { schema: replaceMeterSchema });
        if (submission.status !== "success") return refused(submission.reply());
        const { meter, lastValue, startsAt, note } = submission.value;
        try {
          await replaceMeter(
            actor,
            machineId,
            { meter, lastValue: lastValue ?? null, startsAt, note: note ?? "" },
            now,
          );
        } catch (error) {
          if (!(error instanceof Refusal)) throw error;
          return refused(submission.reply({ fieldErrors: { [error.code]: [error.message] } }));
        }
        break;
      }
      case "pause": {
        const submission = parseWithYup(formData, { schema: pauseSchema });
        if (submission.status !== "success") return refused(submission.reply());
        const { planId, fromOn, toOn, reason } = submission.value;
        try {
          await pause(
            actor,
            machineId,
            { planId: planId ?? null, fromOn: fromOn ?? null, toOn: toOn ?? null, reason },
            now,
          );
        } catch (error) {
          if (!(error instanceof Refusal)) throw error;
          return refused(submission.reply({ formErrors: [error.message] }));
        }
        break;
      }
      case "resume":
        await resume(actor, textOf(formData, "pause", 36), now);
        break;
      case "clear-hold": {
        const submission = parseWithYup(formData, { schema: clearHoldSchema });
        if (submission.status !== "success") return refused(submission.reply({ hideFields: ["password"] }));
        const { hold, note, password } = submission.value;
        if (!(await confirmPassword(actor.id, password, context.get(addressContext))))
          return refused(
            submission.reply({
              hideFields: ["password"],
              fieldErrors: { password: ["This is not your password. The machine stays out of service."] },
            }),
          );
        await clearHold(actor, hold, note, now);
        break;
      }
      case "close-report": {
        const submission = parseWithYup(formData, { schema: closeReportSchema });
        if (submission.status !== "success") return refused(submission.reply(), "Say what was done about it.");
        await closeReport(actor, machineId, submission.value.report, submission.value.note, now);
        break;
      }
      default: {
        const submission = parseWithYup(formData, { schema: meterSchema });
        if (submission.status !== "success")
          return data({ form: "meter", result: submission.reply(), ask: null }, { status: 422 });
        const { meter, value, confirmed } = submission.value;
        const ask = confirmed ? null : await meterQuestion(machineId, meter, value, now);
        if (ask) return data({ form: "meter", result: submission.reply(), ask }, { status: 422 });
        await logMeterReading(actor, machineId, { meter, value }, now);
      }
    }
  } catch (error) {
    if (error instanceof Refusal) throw new Response(error.message, { status: error.status });
    throw error;
  }
  return redirect(`/machines/${machineId}`);
}

export default function Machine({ loaderData, actionData }: Route.ComponentProps) {
  const {
    machine,
    site,
    runs,
    events,
    duties,
    knownMeters,
    knownEvents,
    expected,
    pauses,
    reports,
    ticks,
    holds,
    slots,
  } = loaderData;
  const lead = useIsLead();
  const answer = actionData ?? null;
  const facts: [string, string | null][] = [
    ["Maker", machine.maker],
    ["Model", machine.model],
    ["Serial", machine.serial],
    ["Stands", machine.position],
    ["Commissioned", machine.commissionedOn],
    ["Options", machine.options.join(", ")],
    ["Access", site.accessHours],
    ["Address", site.address],
    [
      "Water",
      site.waterHardness === null ? null : `${site.waterHardness} mg/L as CaCO₃, ${hardnessClass(site.waterHardness)}`,
    ],
    ["Notes", machine.notes],
  ];
  return (
    <>
      <p className="text-sm">
        <Link to="/machines">Machines</Link>
      </p>
      <div className="mt-1 mb-5 flex items-start gap-4">
        <FamilyGlyph family={machine.family} size={56} />
        <div className="min-w-0 flex-1">
          <h1 className="text-2xl wrap-anywhere">{machine.name}</h1>
          <p className="text-ink-soft wrap-anywhere">
            <span className="figure">{machine.tag}</span> · {familyName(machine.family)} ·{" "}
            <Link to={`/sites/${site.id}`}>{site.name}</Link>
            {machine.area && `, ${machine.area}`}
          </p>
        </div>
        <div className="flex flex-wrap justify-end gap-2">
          <Link to={`/machines/${machine.id}/trail`} className="btn">
            Trail
          </Link>
          {lead && (
            <Link to={`/machines/${machine.id}/set-up`} className="btn">
              Set up
            </Link>
          )}
        </div>
      </div>
      <div className="grid gap-6 lg:grid-cols-[1fr_20rem]">
        <div className="min-w-0 space-y-7">
          <HoldPanel holds={holds} lead={lead} answer={answer?.form === "clear-hold" ? answer : null} />
          <ReportPanel reports={reports} problem={answer?.form === "close-report" ? answer.ask : null} />
          <section aria-labelledby="duties">
            <h2 id="duties" className="mb-2 text-lg">
              Duties
            </h2>
            {duties.length > 0 ? (
              <DueList rows={duties} showMachine={false} />
            ) : (
              <p className="panel p-4">No procedure for this family yet, so nothing comes due.</p>
            )}
          </section>
          <section aria-labelledby="sheets">
            <h2 id="sheets" className="mb-2 text-lg">
              Latest sheets
            </h2>
            {runs.length === 0 ? (
              <p className="panel p-4">None yet. Open one from a duty above.</p>
            ) : (
              <ul className="panel divide-y divide-line">
                {runs.map((run) => (
                  <li key={run.id} className="flex flex-wrap justify-between gap-2 px-3 py-2">
                    <Link to={run.status === "open" ? `/sheet/${run.id}` : `/book/records/${run.id}`}>{run.title}</Link>
                    <span className="text-sm">
                      {run.status === "open"
                        ? "open"
                        : run.status === "signed"
                          ? "signed"
                          : outcomeName(run.outcome ?? "").toLowerCase()}{" "}
                      <span className="figure">
                        {new Date(run.closedAt ?? run.openedAt).toISOString().slice(0, 10)}
                      </span>
                    </span>
                  </li>
                ))}
              </ul>
            )}
          </section>
        </div>
        <aside className="space-y-6">
          <dl className="panel divide-y divide-line px-4 py-1">
            {facts
              .filter(([, value]) => value)
              .map(([name, value]) => (
                <div key={name} className="py-2">
                  <dt className="text-sm text-ink-soft">{name}</dt>
                  <dd className={name === "Serial" || name === "Model" ? "figure wrap-anywhere" : "wrap-anywhere"}>
                    {value}
                  </dd>
                </div>
              ))}
          </dl>
          {machine.photoId && (
            <img
              src={`/photos/${machine.photoId}`}
              alt={`${machine.name}, as it stands`}
              className="w-full border border-line"
            />
          )}
          {machine.documents.length > 0 && (
            <section className="panel p-4" aria-labelledby="documents">
              <h2 id="documents" className="mb-1 text-lg">
                Documents
              </h2>
              <ul>
                {machine.documents.map((one) => (
                  <li key={one.href} className="wrap-anywhere">
                    <a href={one.href} target="_blank" rel="noreferrer" className="inline-block min-h-8">
                      {one.title}
                    </a>
                  </li>
                ))}
              </ul>
            </section>
          )}
          {knownMeters.length > 0 && <MeterPanel known={knownMeters} expected={expected} answer={answer} />}
          {knownEvents.length > 0 && (
            <EventPanel known={knownEvents} events={events} answer={answer?.form === "event" ? answer : null} />
          )}
          <TickPanel ticks={ticks} />
          <SlotPanel slots={slots} />
          {duties.length > 0 && (
            <PausePanel pauses={pauses} duties={duties} answer={answer?.form === "pause" ? answer : null} />
          )}
          <section className="panel p-4" aria-labelledby="tag">
            <h2 id="tag" className="mb-1 text-lg">
              Tag
            </h2>
            <img
              src={`/machines/${machine.id}/tag.svg`}
              alt={`QR code of ${machine.tag}`}
              width={132}
              height={132}
              className="bg-white"
            />
            <p className="text-sm">
              <a
                href={`/machines/${machine.id}/tag.png`}
                download={`${machine.tag}.png`}
                className="inline-block min-h-8"
              >
                PNG
              </a>{" "}
              ·{" "}
              <a href={`/tags.pdf?site=${site.id}`} className="inline-block min-h-8">
                A4 sheet of this site
              </a>
            </p>
          </section>
        </aside>
      </div>
    </>
  );
}
