import { useForm } from "@conform-to/react";
import { data, Form, Link, redirect } from "react-router";

import { addPersonSchema, changePersonSchema, grantSchema, resetSchema, revokeSchema } from "~/kit/form-schemas";
import { parseWithYup } from "~/kit/parse-form";
import { Refusal } from "~/kit/refusal";
import { SelectField, SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";

import type { Route } from "./+types/people.route";
import * as people from "./people.server";
import { actorOf } from "./session.server";

export const meta: Route.MetaFunction = () => [{ title: "People – Humble Hound" }];

export async function loader() {
  const now = new Date();
  return { people: await people.listPeople(now), today: now.toISOString().slice(0, 10) };
}

export async function action({ request, context }: Route.ActionArgs) {
  const actor = actorOf(context);
  const now = new Date();
  const formData = await request.formData();
  const [target, intent] = ["person", "intent"].map((name) => {
    const value = formData.get(name);
    return typeof value === "string" ? value : "";
  }) as [string, string];
  const schema = schemaFor(intent);
  if (!schema) throw new Response("This form is not known.", { status: 400 });
  const submission = parseWithYup(formData, { schema });
  const answer = (status: number, reply: Parameters<typeof submission.reply>[0]) =>
    data({ intent, target, result: submission.reply({ ...reply, hideFields: ["password"] as never }) }, { status });
  if (submission.status !== "success") return answer(422, {});
  try {
    await carryOut(actor, submission.value, now);
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return answer(error.status, { formErrors: [error.message] });
  }
  return redirect("/book/people");
}

function schemaFor(intent: string) {
  switch (intent) {
    case "add":
      return addPersonSchema;
    case "deactivate":
    case "activate":
    case "end-sign-ins":
      return changePersonSchema;
    case "reset":
      return resetSchema;
    case "grant":
      return grantSchema;
    case "revoke":
      return revokeSchema;
    default:
      return null;
  }
}

type FormValue =
  | { intent: "add"; name: string; signIn: string; role: "technician" | "lead"; password: string }
  | { intent: "deactivate" | "activate" | "end-sign-ins"; person: string }
  | { intent: "reset"; person: string; password: string }
  | { intent: "grant"; person: string; kind: string; expiresOn?: string }
  | { intent: "revoke"; person: string; authorisation: string };

async function carryOut(actor: ReturnType<typeof actorOf>, value: FormValue, now: Date): Promise<void> {
  switch (value.intent) {
    case "add":
      await people.addPerson(actor, value, now);
      return;
    case "deactivate":
    case "activate":
      return people.setActive(actor, value.person, value.intent === "activate", now);
    case "end-sign-ins":
      return people.endSignIns(actor, value.person, now);
    case "reset":
      return people.resetPassword(actor, value.person, value.password, now);
    case "grant":
      return people.grantAuthorisation(
        actor,
        value.person,
        { kind: value.kind, expiresOn: value.expiresOn ?? null },
        now,
      );
    case "revoke":
      return people.revokeAuthorisation(actor, value.person, value.authorisation, now);
  }
}

type Answer = { intent: string; target: string; result: unknown } | undefined;

export default function People({ loaderData, actionData }: Route.ComponentProps) {
  return (
    <div className="grid gap-6 lg:grid-cols-[1fr_21rem]">
      <div className="min-w-0">
        <p className="text-sm">
          <Link to="/book">Book</Link>
        </p>
        <h1 className="mt-1 mb-4 text-2xl">People</h1>
        <ul className="space-y-3">
          {loaderData.people.map((person) => (
            <PersonCard
              key={person.id}
              person={person}
              today={loaderData.today}
              answer={actionData?.target === person.id ? actionData : undefined}
            />
          ))}
        </ul>
      </div>
      <AddPerson answer={actionData?.intent === "add" ? actionData : undefined} />
    </div>
  );
}

function PersonCard({ person, today, answer }: { person: people.PersonView; today: string; answer: Answer }) {
  const plain = (answer?.result as { error?: Record<string, string[]> } | undefined)?.error?.[""];
  return (
    <li className="panel p-4">
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h2 className={`text-lg wrap-anywhere ${person.active ? "" : "line-through"}`}>{person.name}</h2>
        <p className="text-sm">
          <span className="figure">{person.signIn}</span> · {person.role}
          {!person.active && " · deactivated"}
          {person.openSessions > 0 && ` · signed in on ${person.openSessions}`}
        </p>
      </div>
      {plain && (
        <div className="mt-2">
          <Notice tone="problem">{plain.join(" ")}</Notice>
        </div>
      )}
      {person.authorisations.length > 0 && (
        <ul className="mt-2">
          {person.authorisations.map((one) => (
            <li key={one.id} className="flex flex-wrap items-center gap-3">
              <span>
                {one.kind}
                {one.expiresOn && (
                  <>
                    {" "}
                    until <span className="figure">{one.expiresOn}</span>
                    {one.expiresOn < today && <strong> (expired)</strong>}
                  </>
                )}
              </span>
              <Form method="post">
                <input type="hidden" name="intent" value="revoke" />
                <input type="hidden" name="person" value={person.id} />
                <input type="hidden" name="authorisation" value={one.id} />
                <button className="min-h-11 text-sm underline" aria-label={`Revoke ${one.kind} of ${person.name}`}>
                  Revoke
                </button>
              </Form>
            </li>
          ))}
        </ul>
      )}
      <details className="mt-2" open={answer !== undefined}>
        <summary className="inline-block min-h-11 py-2 underline decoration-dotted underline-offset-4">
          Change <span className="sr-only">{person.name}</span>
        </summary>
        <div className="mt-2 space-y-4">
          <Form method="post" className="flex flex-wrap gap-2">
            <input type="hidden" name="person" value={person.id} />
            <button name="intent" value={person.active ? "deactivate" : "activate"} className="btn">
              {person.active ? "Deactivate" : "Activate"}
            </button>
            <button name="intent" value="end-sign-ins" className="btn">
              End all sign-ins
            </button>
          </Form>
          <ResetForm person={person.id} answer={answer?.intent === "reset" ? answer : undefined} />
          <GrantForm person={person.id} answer={answer?.intent === "grant" ? answer : undefined} />
        </div>
      </details>
    </li>
  );
}

function ResetForm({ person, answer }: { person: string; answer: Answer }) {
  const [form, fields] = useForm({
    id: `reset-${person}`,
    lastResult: answer?.result ?? null,
    onValidate: ({ formData }) => parseWithYup(formData, { schema: resetSchema }),
    shouldValidate: "onSubmit",
  });
  return (
    <Form
      method="post"
      id={form.id}
      onSubmit={form.onSubmit}
      noValidate={form.noValidate}
      className="border-t border-line pt-3"
    >
      <input type="hidden" name="intent" value="reset" />
      <input type="hidden" name="person" value={person} />
      <TextField
        field={fields.password}
        label="New password"
        hint="For the next sign-in; the person must then choose another."
        autoComplete="off"
      />
      <SubmitButton>Reset the password</SubmitButton>
    </Form>
  );
}

function GrantForm({ person, answer }: { person: string; answer: Answer }) {
  const [form, fields] = useForm({
    id: `grant-${person}`,
    lastResult: answer?.result ?? null,
    onValidate: ({ formData }) => parseWithYup(formData, { schema: grantSchema }),
    shouldValidate: "onSubmit",
  });
  return (
    <Form
      method="post"
      id={form.id}
      onSubmit={form.onSubmit}
      noValidate={form.noValidate}
      className="border-t border-line pt-3"
    >
      <input type="hidden" name="intent" value="grant" />
      <input type="hidden" name="person" value={person} />
      <TextField field={fields.kind} label="Authorisation" hint="Such as licensed-refrigeration or licensed-gas." />
      <TextField field={fields.expiresOn} label="Counts until" type="date" hint="Empty: no end." />
      <SubmitButton>Grant it</SubmitButton>
    </Form>
  );
}

function AddPerson({ answer }: { answer: Answer }) {
  const [form, fields] = useForm({
    id: "add-person",
    lastResult: answer?.result ?? null,
    onValidate: ({ formData }) => parseWithYup(formData, { schema: addPersonSchema }),
    shouldValidate: "onSubmit",
    defaultValue: { role: "technician" },
  });
  return (
    <section aria-labelledby="add" className="panel self-start p-4">
      <h2 id="add" className="mb-3 text-lg">
        Add a person
      </h2>
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
        {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
        <input type="hidden" name="intent" value="add" />
        <TextField field={fields.name} label="Name" autoComplete="off" />
        <TextField field={fields.signIn} label="Sign-in name" autoComplete="off" />
        <SelectField
          field={fields.role}
          label="Role"
          options={[
            ["technician", "Technician"],
            ["lead", "Lead"],
          ]}
        />
        <TextField
          field={fields.password}
          label="First password"
          hint="They must choose another at the first sign-in."
          autoComplete="off"
        />
        <SubmitButton>Add</SubmitButton>
      </Form>
    </section>
  );
}
