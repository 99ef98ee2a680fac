import { useState, useSyncExternalStore } from "react";
import { Form, Link, redirect } from "react-router";

import { Refusal } from "~/kit/refusal";
import { form, formAction } from "~/kit/server/form-action.server";
import { addressContext } from "~/kit/server/request-context";
import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";
import { confirmPassword } from "~/people/sessions.server";
import { outbox } from "~/sheet/log/outbox";
import { type CustomerSignature, signSheets } from "~/sheet/log/sign-sheets.server";
import { type SignForm, signSchema } from "~/sheet/sheet-schemas";
import { SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/sign.route";
import { CustomerPart } from "./customer-part";
import { MissingReason, SheetPanel, visitInWords } from "./visit-summary";
import { type SheetToSign, visitToSign } from "./visit-to-sign.server";

export const meta: Route.MetaFunction = () => [{ title: "Sign – Humble Hound" }];

export function loader({ params, context }: Route.LoaderArgs) {
  return served(async () => {
    const me = actorOf(context);
    const visit = await visitToSign(me.id, params.sheetId, new Date());
    if (!visit) throw redirect(`/book/records/${params.sheetId}`);
    return { ...visit, me: me.name };
  });
}

export function action(args: Route.ActionArgs) {
  const { params, context } = args;
  return formAction(args, {
    sign: form(signSchema, async (value, who, now) => {
      if (!(await confirmPassword(who.id, value.password, context.get(addressContext))))
        throw new Refusal(422, "password", "This is not your password. Nothing is signed yet.");
      const others = (value.others ?? []).filter((one) => one.id !== params.sheetId);
      const toSign = [
        { sheetId: params.sheetId, missingReason: value.missingReason || null },
        ...others.map((one) => ({ sheetId: one.id, missingReason: one.missingReason || null })),
      ];
      const result = await signSheets(who, toSign, { customer: customerOf(value), device: "browser" }, now);
      if (!result.signed) {
        const lacking = result.missing.some((one) => one.sheetId === params.sheetId)
          ? "missingReason"
          : `others[${others.findIndex((one) => one.id === result.missing[0]?.sheetId)}].missingReason`;
        throw new Refusal(422, lacking, "Steps are missing. Do them, or say why you sign without them.");
      }
      return redirect(`/book/records/${params.sheetId}?signed`);
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

export default function Sign({ loaderData, actionData }: Route.ComponentProps) {
  const { sheets, site, today, known, me } = loaderData;
  const [first, ...others] = sheets as [SheetToSign, ...SheetToSign[]];
  const [signForm, fields] = useCheckedForm(signSchema, actionData, {
    form: "sign",
    defaultValue: { customer: "drawn" },
  });
  const [left, setLeft] = useState<readonly string[]>(
    others.filter((one) => one.missing.length > 0).map((one) => one.sheetId),
  );
  const also = others.filter((one) => !left.includes(one.sheetId));
  const signed = [first, ...also];
  const { waiting } = useSyncExternalStore(outbox.subscribe, outbox.snapshot, outbox.serverSnapshot);
  const unsent = waiting.filter((entry) => signed.some((one) => one.sheetId === entry.runId)).length;
  return (
    <div className="mx-auto max-w-2xl">
      <PageHead
        back={<Link to={`/sheet/${first.sheetId}`}>Back to the sheet</Link>}
        title={<>Sign: {signed.length > 1 ? `${signed.length} sheets` : first.title}</>}
        subtitle={`${site.customer}, ${site.name}`}
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
        className="mt-4 space-y-4"
      >
        {signForm.errors && <Notice tone="problem">{signForm.errors.join(" ")}</Notice>}
        <SheetPanel sheet={first} today={today}>
          {first.missing.length > 0 && (
            <MissingReason
              sheet={first}
              name={fields.missingReason.name}
              {...(fields.missingReason.errors ? { faults: fields.missingReason.errors } : {})}
            />
          )}
        </SheetPanel>
        {others.length > 0 && <p className="font-semibold">Signed with it, at this site:</p>}
        {others.map((one) => {
          const at = also.indexOf(one);
          const name = `others[${at}].missingReason`;
          const faults = signForm.allErrors[name];
          return (
            <SheetPanel
              key={one.sheetId}
              sheet={one}
              today={today}
              ticked={at >= 0}
              onTick={(ticked) => setLeft(ticked ? left.filter((id) => id !== one.sheetId) : [...left, one.sheetId])}
            >
              {at >= 0 && <input type="hidden" name={`others[${at}].id`} value={one.sheetId} />}
              {at >= 0 && one.missing.length > 0 && (
                <MissingReason sheet={one} name={name} {...(faults ? { faults } : {})} />
              )}
            </SheetPanel>
          );
        })}

        <CustomerPart
          fields={fields}
          known={known}
          summary={visitInWords(signed, site)}
          onSigned={() => document.getElementById(fields.password.id)?.focus()}
        />

        <section className="panel p-4">
          <h2 className="mb-2 text-lg">You, {me}</h2>
          <TextField
            field={fields.password}
            label="Your password"
            type="password"
            autoComplete="current-password"
            hint={`With it you sign that ${signed.length > 1 ? "the sheets are" : "the sheet is"} as it was done.`}
          />
        </section>
        {unsent === 0 && (
          <SubmitButton big>{signed.length > 1 ? `Sign ${signed.length} sheets` : "Sign the sheet"}</SubmitButton>
        )}
      </Form>
    </div>
  );
}
