import { Form, redirect, useSearchParams } from "react-router";

import { form, formAction } from "~/kit/server/form-action.server";
import { addressContext } from "~/kit/server/request-context";
import { SubmitButton, TextField } from "~/ui/form";
import { HoundMark } from "~/ui/hound-mark";
import { Notice } from "~/ui/notice";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/sign-in.route";
import { signInSchema } from "./people-schemas";
import { sessionCookie, whoIs } from "./session.server";
import { signIn } from "./sessions.server";

export const meta: Route.MetaFunction = () => [{ title: "Sign in – Humble Hound" }];

export function loader({ context }: Route.LoaderArgs) {
  if (whoIs(context)) throw redirect("/round");
  return { demo: process.env.HOUND_DEMO === "1" };
}

export function action(args: Route.ActionArgs) {
  const { request, context } = args;
  return formAction(args, {
    "sign-in": form(signInSchema, async ({ signIn: name, password, next }, _, now) => {
      const device = request.headers.get("user-agent") ?? "";
      const token = await signIn({ signIn: name, password, device, address: context.get(addressContext) }, now);
      return redirect(safeNext(next), { headers: { "Set-Cookie": await sessionCookie.serialize(token) } });
    }),
  });
}

/** Only a path of this app: never another site, however it is written. */
function safeNext(next: string | undefined): string {
  return next && /^\/(?![/\\])[\x21-\x5b\x5d-\x7e]*$/.test(next) ? next : "/round";
}

export default function SignIn({ loaderData, actionData }: Route.ComponentProps) {
  const [params] = useSearchParams();
  const [signInForm, fields] = useCheckedForm(signInSchema, actionData, {
    form: "sign-in",
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
      <Form
        method="post"
        id={signInForm.id}
        onSubmit={signInForm.onSubmit}
        noValidate={signInForm.noValidate}
        className="panel p-5"
      >
        {signInForm.errors && <Notice tone="problem">{signInForm.errors.join(" ")}</Notice>}
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
