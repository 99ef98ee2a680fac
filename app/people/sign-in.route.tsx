import { useForm } from "@conform-to/react";
import { data, Form, redirect, useSearchParams } from "react-router";

import { signInSchema } from "~/kit/form-schemas";
import { parseWithYup } from "~/kit/parse-form";
import { Refusal } from "~/kit/refusal";
import { addressContext } from "~/kit/request-context";
import { SubmitButton, TextField } from "~/ui/form";
import { HoundMark } from "~/ui/hound-mark";
import { Notice } from "~/ui/notice";

import type { Route } from "./+types/sign-in.route";
import { sessionCookie, whoIs } from "./session.server";
import { signIn } from "./sessions.server";

export const meta: Route.MetaFunction = () => [{ title: "Sign in – Humble Hound" }];

export function loader({ context }: Route.LoaderArgs) {
  if (whoIs(context)) throw redirect("/round");
  return { demo: process.env.HOUND_DEMO === "1" };
}

export async function action({ request, context }: Route.ActionArgs) {
  const submission = parseWithYup(await request.formData(), { schema: signInSchema });
  if (submission.status !== "success")
    return data({ result: submission.reply({ hideFields: ["password"] }) }, { status: 422 });
  const { signIn: name, password, next } = submission.value;
  try {
    const token = await signIn(
      { signIn: name, password, device: request.headers.get("user-agent") ?? "", address: context.get(addressContext) },
      new Date(),
    );
    return redirect(safeNext(next), { headers: { "Set-Cookie": await sessionCookie.serialize(token) } });
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return data(
      { result: submission.reply({ formErrors: [error.message], hideFields: ["password"] }) },
      { status: error.status },
    );
  }
}

/** Only a path of this app: never another site, however it is written. */
function safeNext(next: string | undefined): string {
  return next && /^\/(?![/\\])[^\\]*$/.test(next) ? next : "/round";
}

export default function SignIn({ loaderData, actionData }: Route.ComponentProps) {
  const [params] = useSearchParams();
  const [form, fields] = useForm({
    lastResult: actionData?.result ?? null,
    onValidate: ({ formData }) => parseWithYup(formData, { schema: signInSchema }),
    shouldValidate: "onSubmit",
    defaultValue: { next: params.get("next") ?? "" },
  });
  return (
    <div className="mx-auto mt-6 max-w-md">
      <div className="mb-6 flex items-center gap-4">
        <HoundMark size={64} />
        <div>
          <h1 className="text-3xl">Humble Hound</h1>
          <p className="text-ink-soft">What is due, step by step, signed.</p>
        </div>
      </div>
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate} className="panel p-5">
        {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
        <div className="mt-2">
          <TextField field={fields.signIn} label="Sign-in name" autoComplete="username" />
          <TextField field={fields.password} label="Password" type="password" autoComplete="current-password" />
          <input type="hidden" name={fields.next.name} value={params.get("next") ?? ""} />
        </div>
        <SubmitButton big>Sign in</SubmitButton>
      </Form>
      {loaderData.demo && (
        <p className="mt-4 text-sm text-ink-soft">
          Demo data. Technician: <span className="figure">mira</span>, lead: <span className="figure">jonas</span>,
          password for both: <span className="figure">harbour-demo-1</span>
        </p>
      )}
    </div>
  );
}
