import { Form, Link, redirect } from "react-router";

import { firmDay } from "~/kit/days/firm-day.server";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { editSchema } from "~/kit/forms/search-schemas";
import { changesOf } from "~/kit/server/audit.server";
import { formAction, leadForm } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { useIsLead } from "~/people/use-me";
import { addInstrument, changeInstrument, listInstruments } from "~/sheet/instruments.server";
import { Day, OnDay } from "~/ui/day";
import { SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/instruments.route";
import { instrumentSchema } from "./book-schemas";

export const meta: Route.MetaFunction = () => [{ title: "Instruments – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const edit = readQuery(request, editSchema).edit ?? null;
    return {
      instruments: await listInstruments(),
      edit,
      changes: edit ? await changesOf("instrument", [edit]) : [],
      today: (await firmDay(new Date())).on,
    };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    instrument: leadForm(
      "Only a lead changes the register of instruments.",
      instrumentSchema,
      async ({ id, why, retired, calibrationDue, certificate, ...given }, who, now) => {
        const input = { ...given, calibrationDue: calibrationDue ?? null, certificate: certificate ?? "" };
        if (id) await changeInstrument(who, id, { ...input, retired }, why ?? "", now);
        else await addInstrument(who, input, now);
        return redirect("/book/instruments");
      },
    ),
  });
}

export default function Instruments({ loaderData, actionData }: Route.ComponentProps) {
  const { instruments, edit, changes, today } = loaderData;
  const lead = useIsLead();
  const edited = instruments.find((one) => one.id === edit) ?? null;
  return (
    <div className="max-w-4xl">
      <PageHead
        back={
          <>
            <Link to="/book">Book</Link>
          </>
        }
        title="Instruments"
        subtitle="What we measure with, and until when it is calibrated. A sheet records the one that was used."
      />
      {instruments.length === 0 ? (
        <p className="panel p-6">None yet. {lead ? "Add the first below." : "A lead adds them."}</p>
      ) : (
        <ul className="panel mb-6 divide-y divide-line">
          {instruments.map((one) => {
            const expired = one.calibrationDue !== null && one.calibrationDue < today;
            return (
              <li
                key={one.id}
                className="relative flex flex-wrap items-center justify-between gap-x-4 px-3 py-2.5 hover:bg-sunken"
              >
                <div className="min-w-0">
                  <p className="font-semibold wrap-anywhere">
                    <span className="figure">{one.code}</span> {one.name}
                  </p>
                  <p className="text-sm text-ink-soft">
                    {one.kind.replaceAll("-", " ")}
                    {one.certificate && (
                      <>
                        {" · "}
                        <a href={one.certificate} rel="noreferrer" className="relative z-10">
                          Certificate
                        </a>
                      </>
                    )}
                  </p>
                </div>
                <p className="text-sm sm:text-right">
                  {one.retiredAt ? (
                    "Out of use"
                  ) : one.calibrationDue === null ? (
                    "No calibration needed"
                  ) : (
                    <>
                      {expired ? <strong>! Calibration was due </strong> : "Calibrated until "}
                      <OnDay on={one.calibrationDue} />
                    </>
                  )}
                  {lead && (
                    <Link to={`?edit=${one.id}`} className="ml-3">
                      Change<span className="sr-only"> {one.code}</span>
                    </Link>
                  )}
                </p>
              </li>
            );
          })}
        </ul>
      )}
      {lead && <InstrumentForm key={edit ?? "new"} edited={edited} answer={actionData} />}
      {changes.length > 0 && (
        <section className="mt-5">
          <h2 className="text-lg">Changes</h2>
          <ul className="text-sm">
            {changes.map((change, i) => (
              <li key={i} className="wrap-anywhere">
                <Day at={change.at} /> {change.by}: {change.action}
                {typeof change.details.why === "string" && `, ${String(change.details.why)}`}
                {oldDue(change.details) && (
                  <>
                    ; was due <span className="figure">{oldDue(change.details)}</span>
                  </>
                )}
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

function oldDue(details: Record<string, unknown>): string | null {
  const old = details.old as { calibrationDue?: string | null } | undefined;
  return old?.calibrationDue ?? null;
}

type Edited = Route.ComponentProps["loaderData"]["instruments"][number];

function InstrumentForm({ edited, answer }: { edited: Edited | null; answer: FormAnswer | undefined }) {
  const [form, fields] = useCheckedForm(instrumentSchema, answer, {
    form: "instrument",
    id: edited ? `change-${edited.id}` : "add-instrument",
    ...(edited
      ? {
          defaultValue: {
            code: edited.code,
            kind: edited.kind,
            name: edited.name,
            calibrationDue: edited.calibrationDue ?? "",
            certificate: edited.certificate,
            why: "",
          },
        }
      : {}),
  });
  return (
    <section className="panel p-4">
      <h2 className="mb-3 text-lg">{edited ? `Change ${edited.code}` : "Add an instrument"}</h2>
      <Form
        method="post"
        id={form.id}
        onSubmit={form.onSubmit}
        noValidate={form.noValidate}
        className="grid gap-x-4 sm:grid-cols-2"
      >
        {form.errors && (
          <div className="sm:col-span-2">
            <Notice tone="problem">{form.errors.join(" ")}</Notice>
          </div>
        )}
        {edited && <input type="hidden" name="id" value={edited.id} />}
        <TextField field={fields.code} label="Number on it" />
        <TextField
          field={fields.kind}
          label="Kind"
          hint="As procedures name it: thermometer, feeler-gauge, hydrometer, caliper …"
        />
        <TextField field={fields.name} label="Name" />
        <TextField field={fields.calibrationDue} label="Calibration due" type="date" hint="Empty: none needed." />
        <TextField field={fields.certificate} label="Link to the certificate" />
        {edited && <TextField field={fields.why} label="Why does it change?" />}
        {edited && (
          <label className="flex min-h-11 items-center gap-2">
            <input
              type="checkbox"
              name="retired"
              defaultChecked={edited.retiredAt !== null}
              className="size-5 accent-(--fill)"
            />
            Out of use
          </label>
        )}
        <div className="flex gap-2 sm:col-span-2">
          <SubmitButton>{edited ? "Change" : "Add"}</SubmitButton>
          {edited && (
            <Link to="/book/instruments" className="btn">
              Back
            </Link>
          )}
        </div>
      </Form>
    </section>
  );
}
