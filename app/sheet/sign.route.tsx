import { foldRun, missingSteps, must } from "@core";
import { useState, useSyncExternalStore } from "react";
import { Form, Link, redirect } from "react-router";

import { Refusal } from "~/kit/refusal";
import { form, formAction } from "~/kit/server/form-action.server";
import { addressContext } from "~/kit/server/request-context";
import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";
import { confirmPassword } from "~/people/sessions.server";
import { outbox } from "~/sheet/log/outbox";
import { type CustomerSignature, loadSheet, signSheet } from "~/sheet/log/sheets.server";
import { AreaField, SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/sign.route";
import { type SignForm, signSchema } from "./sheet-schemas";
import { SignaturePad } from "./signature-pad";

export const meta: Route.MetaFunction = () => [{ title: "Sign – Humble Hound" }];

export function loader({ params, context }: Route.LoaderArgs) {
  return served(async () => {
    const { sheet, title, procedure, machine, entries } = await loadSheet(params.sheetId);
    if (sheet.status !== "open") throw redirect(`/book/records/${sheet.id}`);
    const state = foldRun(procedure, entries);
    return {
      sheetId: sheet.id,
      title,
      machine: `${machine.name} ${machine.tag}, ${machine.siteName}`,
      missing: missingSteps(procedure, state, { options: machine.options }),
      me: actorOf(context).name,
    };
  });
}

export function action(args: Route.ActionArgs) {
  const { params, context } = args;
  return formAction(args, {
    sign: form(signSchema, async (value, who, now) => {
      if (!(await confirmPassword(who.id, value.password, context.get(addressContext))))
        throw new Refusal(422, "password", "This is not your password. Nothing is signed yet.");
      const { missingReason } = value;
      const signature = { customer: customerOf(value), missingReason: missingReason || null, device: "browser" };
      const result = await signSheet(who, params.sheetId, signature, now);
      if (!result.signed)
        throw new Refusal(422, "missingReason", "Steps are missing. Do them, or say why you sign without them.");
      return redirect(`/book/records/${params.sheetId}`);
    }),
  });
}

/** How the customer signs; the schema asks for what each way needs. */
function customerOf({ customer, customerName = "", drawing = "", absentReason = "" }: SignForm): CustomerSignature {
  if (customer === "drawn") return { method: "drawn", name: customerName, drawing };
  return customer === "typed"
    ? { method: "typed", name: customerName }
    : { method: "not-present", reason: absentReason };
}

const WEIGHTS = {
  reset: "The counter is not reset",
  proof: "The proof is missing",
  safety: "Safety not confirmed",
  step: "",
} as const;

export default function Sign({ loaderData, actionData }: Route.ComponentProps) {
  const { sheetId, title, machine, missing, me } = loaderData;
  const { waiting } = useSyncExternalStore(outbox.subscribe, outbox.snapshot, outbox.serverSnapshot);
  const unsent = waiting.filter((entry) => entry.runId === sheetId).length;
  const [signForm, fields] = useCheckedForm(signSchema, actionData, {
    form: "sign",
    defaultValue: { customer: "drawn" },
  });
  const [method, setMethod] = useState(fields.customer.initialValue ?? "drawn");
  const [drawing, setDrawing] = useState("");
  return (
    <div className="mx-auto max-w-2xl">
      <PageHead
        back={
          <>
            <Link to={`/sheet/${sheetId}`}>Back to the sheet</Link>
          </>
        }
        title={<>Sign: {title}</>}
        subtitle={machine}
      />
      {unsent > 0 && (
        <Notice title={`${unsent} not sent yet`}>
          Signing needs everything at the server first. It goes by itself as soon as there is a connection.
        </Notice>
      )}

      {/* A form's data lives in its fields: it works before and without the drawing script. */}
      <Form
        method="post"
        id={signForm.id}
        onSubmit={signForm.onSubmit}
        noValidate={signForm.noValidate}
        className="mt-4 space-y-6"
      >
        {signForm.errors && <Notice tone="problem">{signForm.errors.join(" ")}</Notice>}
        {missing.length > 0 && (
          <section className="panel border-2 border-ink p-4">
            <h2 className="text-lg">
              <span aria-hidden="true">! </span>Not settled yet
            </h2>
            <ul className="my-2 list-disc pl-5">
              {missing.map((one) => (
                <li key={`${one.step}#${one.round}`}>
                  {one.weight !== "step" && <strong>{WEIGHTS[one.weight]}: </strong>}
                  {one.title}
                </li>
              ))}
            </ul>
            <AreaField
              field={fields.missingReason}
              label="Why do you sign without them?"
              hint="Better: go back and settle them. The reason goes on the record."
              rows={2}
            />
          </section>
        )}

        <fieldset className="panel p-4">
          <legend className="float-left mb-2 w-full text-lg font-bold">The customer</legend>
          <div className="clear-both mb-3 flex flex-wrap gap-x-6">
            {[
              ["drawn", "Signs here"],
              ["typed", "Name typed"],
              ["not-present", "Nobody present"],
            ].map(([value, label]) => (
              <label key={value} className="flex min-h-12 items-center gap-2">
                <input
                  type="radio"
                  name={fields.customer.name}
                  value={value}
                  className="size-5 accent-(--fill)"
                  checked={method === value}
                  onChange={() => setMethod(must(value))}
                />
                {label}
              </label>
            ))}
          </div>
          {method === "not-present" ? (
            <AreaField field={fields.absentReason} label="Why does nobody sign?" rows={2} />
          ) : (
            <TextField field={fields.customerName} label="Customer's name" autoComplete="off" />
          )}
          {method === "drawn" && (
            <>
              <SignaturePad onChange={setDrawing} />
              <input type="hidden" name={fields.drawing.name} value={drawing} />
              <p
                id={fields.drawing.errorId}
                role={fields.drawing.errors ? "alert" : undefined}
                className="min-h-6 text-sm font-semibold"
              >
                {fields.drawing.errors && `! ${fields.drawing.errors.join(" ")}`}
              </p>
            </>
          )}
        </fieldset>

        <section className="panel p-4">
          <h2 className="mb-2 text-lg">You, {me}</h2>
          <TextField
            field={fields.password}
            label="Your password"
            type="password"
            autoComplete="current-password"
            hint="With it you sign that the sheet is as it was done."
          />
        </section>
        {unsent === 0 && <SubmitButton big>Sign the sheet</SubmitButton>}
      </Form>
    </div>
  );
}
