import { useForm } from "@conform-to/react";
import { data, Form, redirect } from "react-router";

import { passwordSchema } from "~/kit/form-schemas";
import { parseWithYup } from "~/kit/parse-form";
import { Refusal } from "~/kit/refusal";
import { addressContext } from "~/kit/request-context";
import { SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";

import type { Route } from "./+types/password.route";
import { changeOwnPassword } from "./people.server";
import { actorOf, whoIs } from "./session.server";
import { confirmPassword } from "./sessions.server";

export const meta: Route.MetaFunction = () => [{ title: "New password – Humble Hound" }];

export function loader({ context }: Route.LoaderArgs) {
  return { must: whoIs(context)?.mustChangePassword ?? false };
}

export async function action({ request, context }: Route.ActionArgs) {
  const actor = actorOf(context);
  const submission = parseWithYup(await request.formData(), { schema: passwordSchema });
  const hideFields = ["current", "password", "again"] as ("current" | "password" | "again")[];
  if (submission.status !== "success") return data({ result: submission.reply({ hideFields }) }, { status: 422 });
  try {
    if (!(await confirmPassword(actor.id, submission.value.current, context.get(addressContext)))) {
      return data(
        { result: submission.reply({ fieldErrors: { current: ["This is not your present password."] }, hideFields }) },
        { status: 422 },
      );
    }
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return data({ result: submission.reply({ formErrors: [error.message], hideFields }) }, { status: error.status });
  }
  await changeOwnPassword(actor, whoIs(context)!.sessionId, submission.value.password, new Date());
  return redirect("/round");
}

export default function Password({ loaderData, actionData }: Route.ComponentProps) {
  const [form, fields] = useForm({
    lastResult: actionData?.result ?? null,
    onValidate: ({ formData }) => parseWithYup(formData, { schema: passwordSchema }),
    shouldValidate: "onSubmit",
  });
  return (
    <div className="mx-auto max-w-md">
      <h1 className="mb-4 text-2xl">New password</h1>
      {loaderData.must && <Notice>Your password was set by a lead. Choose one of your own before you go on.</Notice>}
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate} className="panel mt-4 p-5">
        {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
        <TextField field={fields.current} label="Present password" type="password" autoComplete="current-password" />
        <TextField
          field={fields.password}
          label="New password"
          type="password"
          autoComplete="new-password"
          hint="At least 10 characters."
        />
        <TextField field={fields.again} label="New password again" type="password" autoComplete="new-password" />
        <SubmitButton>Save</SubmitButton>
      </Form>
    </div>
  );
}
