import { Form, Link, redirect } from "react-router";

import { firmDay } from "~/kit/days/firm-day.server";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { OnDay } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { AreaField, SelectField, SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/people.route";
import { type Letterhead, letterheadOfFirm, saveLetterhead } from "./letterhead.server";
import * as people from "./people.server";
import {
  addPersonSchema,
  emailSchema,
  grantSchema,
  letterheadSchema,
  personSchema,
  requireNoneSchema,
  requireSchema,
  resetSchema,
  revokeSchema,
} from "./people-schemas";
import { RequiredPractice } from "./required-practice";
import { requiredPractices, requireNoPractice, requirePractice } from "./required-practice.server";

export const meta: Route.MetaFunction = () => [{ title: "People – Humble Hound" }];

export function loader() {
  return served(async () => {
    const now = new Date();
    const [list, letterhead, day, required] = await Promise.all([
      people.listPeople(now),
      letterheadOfFirm(),
      firmDay(now),
      requiredPractices(),
    ]);
    return { people: list, letterhead, today: day.on, required };
  });
}

export function action(args: Route.ActionArgs) {
  const back = () => redirect("/book/people");
  return formAction(args, {
    add: form(addPersonSchema, async (value, who, now) => {
      await people.addPerson(who, value, now);
      return back();
    }),
    letterhead: form(letterheadSchema, async ({ name, lines = "" }, who, now) => {
      await saveLetterhead(who, { name, lines }, now);
      return "The letterhead is saved.";
    }),
    activate: form(personSchema, async ({ person }, who, now) => {
      await people.setActive(who, person, true, now);
      return back();
    }),
    deactivate: form(personSchema, async ({ person }, who, now) => {
      await people.setActive(who, person, false, now);
      return back();
    }),
    "end-sign-ins": form(personSchema, async ({ person }, who, now) => {
      await people.endSignIns(who, person, now);
      return back();
    }),
    email: form(emailSchema, async ({ person, email }, who, now) => {
      await people.changeEmail(who, person, email, now);
      return back();
    }),
    reset: form(resetSchema, async ({ person, password }, who, now) => {
      await people.resetPassword(who, person, password, now);
      return back();
    }),
    grant: form(grantSchema, async ({ person, kind, expiresOn }, who, now) => {
      await people.grantAuthorisation(who, person, { kind, expiresOn: expiresOn ?? null }, now);
      return back();
    }),
    require: form(requireSchema, async (value, who, now) => {
      await requirePractice(who, value, now);
      return back();
    }),
    "require-none": form(requireNoneSchema, async (value, who, now) => {
      await requireNoPractice(who, value, now);
      return back();
    }),
    revoke: form(revokeSchema, async ({ person, authorisation }, who, now) => {
      await people.revokeAuthorisation(who, person, authorisation, now);
      return back();
    }),
  });
}

type Answer = FormAnswer | undefined;

export default function People({ loaderData, actionData }: Route.ComponentProps) {
  return (
    <div className="grid gap-6 lg:grid-cols-[1fr_21rem]">
      <div className="min-w-0">
        <PageHead
          back={
            <>
              <Link to="/book">Book</Link>
            </>
          }
          title="People"
        >
          <Link to="/machines/practice" className="btn">
            Practice
          </Link>
        </PageHead>
        <ul className="space-y-3">
          {loaderData.people.map((person) => (
            <PersonCard
              key={person.id}
              person={person}
              today={loaderData.today}
              answer={actionData?.values.person === person.id ? actionData : undefined}
            />
          ))}
        </ul>
      </div>
      <div className="space-y-6 self-start">
        <AddPerson answer={actionData} />
        <RequiredPractice required={loaderData.required} answer={actionData} />
        <FirmLetterhead letterhead={loaderData.letterhead} answer={actionData} />
      </div>
    </div>
  );
}

function PersonCard({ person, today, answer }: { person: people.PersonView; today: string; answer: Answer }) {
  // Forms with fields say it themselves.
  const plain = answer && !["reset", "grant", "email"].includes(answer.form) ? answer.message : null;
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
          <Notice tone="problem">{plain}</Notice>
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
                    until <OnDay on={one.expiresOn} />
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
      <Disclosure
        title={
          <>
            Change <span className="sr-only">{person.name}</span>
          </>
        }
        open={answer !== undefined}
        className="mt-2"
      >
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
          <EmailForm person={person.id} email={person.email} answer={answer} />
          <ResetForm person={person.id} answer={answer} />
          <GrantForm person={person.id} answer={answer} />
        </div>
      </Disclosure>
    </li>
  );
}

function EmailForm({ person, email, answer }: { person: string; email: string; answer: Answer }) {
  const [form, fields] = useCheckedForm(emailSchema, answer, {
    form: "email",
    id: `email-${person}`,
    defaultValue: { email },
  });
  return (
    <Form
      method="post"
      id={form.id}
      onSubmit={form.onSubmit}
      noValidate={form.noValidate}
      className="flex flex-wrap items-end gap-2"
    >
      <input type="hidden" name="intent" value="email" />
      <input type="hidden" name="person" value={person} />
      <TextField
        field={fields.email}
        label="E-mail address"
        hint="A lead is told there each morning what nobody has taken up."
        autoComplete="off"
        className="min-w-0 flex-1 basis-56"
      />
      <button className="btn mb-6">Keep the address</button>
    </Form>
  );
}

function ResetForm({ person, answer }: { person: string; answer: Answer }) {
  const [form, fields] = useCheckedForm(resetSchema, answer, { form: "reset", id: `reset-${person}` });
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
  const [form, fields] = useCheckedForm(grantSchema, answer, { form: "grant", id: `grant-${person}` });
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
  const [form, fields] = useCheckedForm(addPersonSchema, answer, {
    form: "add",
    id: "add-person",
    defaultValue: { role: "technician" },
  });
  return (
    <Section id="add" title="Add a person" panel>
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
    </Section>
  );
}

function FirmLetterhead({ letterhead, answer }: { letterhead: Letterhead | null; answer: Answer }) {
  const [form, fields] = useCheckedForm(letterheadSchema, answer, {
    form: "letterhead",
    id: "letterhead",
    ...(letterhead ? { defaultValue: letterhead } : {}),
  });
  return (
    <Section id="letterhead-of-firm" title="The firm's letterhead" panel>
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
        {answer?.form === "letterhead" && answer.said && <Notice>{answer.said}</Notice>}
        {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
        <input type="hidden" name="intent" value="letterhead" />
        <TextField field={fields.name} label="Firm's name" autoComplete="organization" />
        <AreaField field={fields.lines} label="Address, telephone" hint="Every record begins with it." rows={4} />
        <SubmitButton>Save the letterhead</SubmitButton>
      </Form>
    </Section>
  );
}
