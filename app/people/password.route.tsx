import { Form, redirect } from "react-router";

import { Refusal } from "~/kit/refusal";
import { form, formAction } from "~/kit/server/form-action.server";
import { addressContext } from "~/kit/server/request-context";
import { SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/password.route";
import { changeOwnPassword } from "./people.server";
import { passwordSchema } from "./people-schemas";
import { sessionOf, whoIs } from "./session.server";
import { confirmPassword } from "./sessions.server";

export const meta: Route.MetaFunction = () => [{ title: "New password – Humble Hound" }];

export function loader({ context }: Route.LoaderArgs) {
  return { must: whoIs(context)?.mustChangePassword ?? false };
}

export function action(args: Route.ActionArgs) {
  const { context } = args;
  return formAction(args, {
    change: form(passwordSchema, async ({ current, password }, who, now) => {
      if (!(await confirmPassword(who.id, current, context.get(addressContext))))
        throw new Refusal(422, "current", "This is not your present password.");
      await changeOwnPassword(who, sessionOf(context), password, now);
      return redirect("/round");
    }),
  });
}

export default function Password({ loaderData, actionData }: Route.ComponentProps) {
  const [passwordForm, fields] = useCheckedForm(passwordSchema, actionData, { form: "change" });
  return (
    <div className="mx-auto max-w-md">
      <PageHead title="New password" />
      {loaderData.must && <Notice>Your password was set by a lead. Choose one of your own before you go on.</Notice>}
      <Form
        method="post"
        id={passwordForm.id}
        onSubmit={passwordForm.onSubmit}
        noValidate={passwordForm.noValidate}
        className="panel mt-4 p-5"
      >
        {passwordForm.errors && <Notice tone="problem">{passwordForm.errors.join(" ")}</Notice>}
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
