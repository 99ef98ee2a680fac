import { useForm } from "@conform-to/react";
import { parseWithYup } from "@conform-to/yup";
import { data, Form, Link, redirect } from "react-router";
import { hardnessClass } from "@core";
import { DueList } from "~/components/due-list";
import { outcomeName } from "~/shared/outcomes";
import { FamilyGlyph, familyName } from "~/components/family-glyph";
import { SelectField, SubmitButton, TextField } from "~/components/form";
import { Notice } from "~/components/notice";
import { served } from "~/served.server";
import { listMachineDuties } from "~/services/due.server";
import { getMachine, logMachineEvent, logMeterReading, meterQuestion } from "~/services/machines.server";
import { newestProcedures } from "~/services/procedures.server";
import { actorOf } from "~/session.server";
import { eventSchema, meterSchema } from "~/shared/form-schemas";
import type { Route } from "./+types/machine";

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData?.machine.name ?? "Machine"} – Humble Hound` }];

const EVENT_NAMES: Record<string, string> = {
  "after-run": "A run has ended",
  "warning-light": "The warning light came on",
  "idle-ahead": "It will stand idle",
};

export async function loader({ params }: Route.LoaderArgs) {
  const view = await served(getMachine(params.machineId));
  const procedures = await newestProcedures([view.machine.family]);
  const meters = new Map(procedures.flatMap((procedure) => procedure.meters).map((meter) => [meter.id, meter]));
  const events = new Set(procedures.flatMap((procedure) => procedure.plan.triggers).flatMap((trigger) => (trigger.kind === "event" ? [trigger.event] : [])));
  return { ...view, duties: await listMachineDuties(params.machineId, new Date()), knownMeters: [...meters.values()], knownEvents: [...events] };
}

export async function action({ params, request, context }: Route.ActionArgs) {
  const actor = actorOf(context);
  const formData = await request.formData();
  const here = `/machines/${params.machineId}`;
  if (formData.get("intent") === "event") {
    const submission = parseWithYup(formData, { schema: eventSchema });
    if (submission.status !== "success") return data({ form: "event", result: submission.reply(), ask: null }, { status: 422 });
    const { event, on, note } = submission.value;
    await logMachineEvent(actor, params.machineId, { event, on: on ?? null, note: note ?? "" }, new Date());
    return redirect(here);
  }
  const submission = parseWithYup(formData, { schema: meterSchema });
  if (submission.status !== "success") return data({ form: "meter", result: submission.reply(), ask: null }, { status: 422 });
  const { meter, value, confirmed } = submission.value;
  const ask = confirmed ? null : await meterQuestion(params.machineId, meter, value);
  if (ask) return data({ form: "meter", result: submission.reply(), ask }, { status: 422 });
  await logMeterReading(actor, params.machineId, { meter, value }, new Date());
  return redirect(here);
}

export default function Machine({ loaderData, actionData }: Route.ComponentProps) {
  const { machine, site, meters, runs, events, duties, knownMeters, knownEvents } = loaderData;
  const facts: [string, string | null][] = [
    ["Maker", machine.maker],
    ["Model", machine.model],
    ["Serial", machine.serial],
    ["Commissioned", machine.commissionedOn],
    ["Options", machine.options.join(", ")],
    ["Access", site.accessHours],
    ["Address", site.address],
    ["Water", site.waterHardness === null ? null : `${site.waterHardness} mg/L as CaCO₃, ${hardnessClass(site.waterHardness)}`],
    ["Notes", machine.notes],
  ];
  return (
    <>
      <p className="text-sm">
        <Link to="/machines">Machines</Link>
      </p>
      <div className="mt-1 mb-5 flex items-start gap-4">
        <FamilyGlyph family={machine.family} size={56} />
        <div className="min-w-0">
          <h1 className="text-2xl wrap-anywhere">{machine.name}</h1>
          <p className="text-ink-soft wrap-anywhere">
            <span className="figure">{machine.tag}</span> · {familyName(machine.family)} · {site.name}
            {machine.area && `, ${machine.area}`}
          </p>
        </div>
      </div>
      <div className="grid gap-6 lg:grid-cols-[1fr_20rem]">
        <div className="min-w-0 space-y-7">
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
                      {run.status === "open" ? "open" : run.status === "signed" ? "signed" : outcomeName(run.outcome ?? "").toLowerCase()}{" "}
                      <span className="figure">{new Date(run.closedAt ?? run.openedAt).toISOString().slice(0, 10)}</span>
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
                  <dd className={name === "Serial" || name === "Model" ? "figure wrap-anywhere" : "wrap-anywhere"}>{value}</dd>
                </div>
              ))}
          </dl>
          {knownMeters.length > 0 && <MeterForm meters={meters} known={knownMeters} result={actionData?.form === "meter" ? actionData : null} />}
          {knownEvents.length > 0 && <EventForm known={knownEvents} events={events} result={actionData?.form === "event" ? actionData : null} />}
        </aside>
      </div>
    </>
  );
}

type FormAnswer = { result: Parameters<typeof useForm>[0]["lastResult"]; ask: string | null } | null;

function MeterForm({
  meters,
  known,
  result,
}: {
  meters: { meter: string; value: number; readAt: Date }[];
  known: { id: string; name: string; unit: string }[];
  result: FormAnswer;
}) {
  const [form, fields] = useForm({
    lastResult: (result?.result ?? null) as never,
    onValidate: ({ formData }) => parseWithYup(formData, { schema: meterSchema }),
    shouldValidate: "onSubmit",
    defaultValue: { meter: known[0]!.id },
  });
  return (
    <section aria-labelledby="meters" className="panel p-4">
      <h2 id="meters" className="mb-2 text-lg">
        Meters
      </h2>
      <ul className="mb-3">
        {known.map((meter) => {
          const last = meters.find((one) => one.meter === meter.id);
          return (
            <li key={meter.id} className="flex justify-between gap-2">
              {meter.name}
              <span className="figure">
                {last ? `${last.value} ${meter.unit}` : "no reading"}
                {last && <span className="block text-right text-xs text-ink-soft">{new Date(last.readAt).toISOString().slice(0, 10)}</span>}
              </span>
            </li>
          );
        })}
      </ul>
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
        <input type="hidden" name="intent" value="meter" />
        {known.length > 1 ? (
          <SelectField field={fields.meter} label="Meter" options={known.map((meter) => [meter.id, meter.name] as const)} />
        ) : (
          <input type="hidden" name="meter" value={known[0]!.id} />
        )}
        <TextField field={fields.value} label="It shows now" inputMode="decimal" />
        {result?.ask && (
          <Notice tone="problem">
            {result.ask}
            <label className="mt-2 flex min-h-11 items-center gap-2">
              <input type="checkbox" name="confirmed" value="true" className="size-5" /> Yes, log it as typed
            </label>
          </Notice>
        )}
        <SubmitButton>Log the reading</SubmitButton>
      </Form>
    </section>
  );
}

function EventForm({ known, events, result }: { known: string[]; events: { event: string; on: string; note: string }[]; result: FormAnswer }) {
  const [form, fields] = useForm({
    lastResult: (result?.result ?? null) as never,
    onValidate: ({ formData }) => parseWithYup(formData, { schema: eventSchema }),
    shouldValidate: "onSubmit",
  });
  return (
    <section aria-labelledby="events" className="panel p-4">
      <h2 id="events" className="mb-2 text-lg">
        Something happened
      </h2>
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
        <input type="hidden" name="intent" value="event" />
        <SelectField field={fields.event} label="What" options={known.map((event) => [event, EVENT_NAMES[event] ?? event.replaceAll("-", " ")] as const)} />
        <TextField field={fields.on} label="Day" type="date" hint="Empty: today at the site." />
        <SubmitButton>Log it</SubmitButton>
      </Form>
      {events.length > 0 && (
        <ul className="mt-3 text-sm text-ink-soft">
          {events.slice(0, 4).map((event, i) => (
            <li key={i}>
              <span className="figure">{event.on}</span> {EVENT_NAMES[event.event] ?? event.event}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
