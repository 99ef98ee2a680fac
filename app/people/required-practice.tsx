import { Form } from "react-router";

import type { FormAnswer } from "~/kit/forms/form-answer";
import { FAMILIES, familyName } from "~/ui/family-names";
import { SelectField, SubmitButton, TextField } from "~/ui/form";
import { Section } from "~/ui/section";
import { useCheckedForm } from "~/ui/use-checked-form";

import { requireSchema } from "./people-schemas";
import type { RequiredPractice as Required } from "./required-practice.server";

/** What authorisations ask for before they are granted. */
export function RequiredPractice({
  required,
  answer,
}: {
  required: readonly Required[];
  answer: FormAnswer | undefined;
}) {
  const [form, fields] = useCheckedForm(requireSchema, answer, {
    form: "require",
    id: "require-practice",
    defaultValue: { days: "365" },
  });
  return (
    <Section id="required" title="Practice before an authorisation" panel>
      <ul className="mb-3">
        {required.map(({ authorisation, family, days }) => (
          <li key={`${authorisation} ${family}`} className="flex flex-wrap items-center gap-x-3 wrap-anywhere">
            <span>
              {authorisation}: {familyName(family)}, passed within {days} {days === 1 ? "day" : "days"}
            </span>
            <Form method="post">
              <input type="hidden" name="authorisation" value={authorisation} />
              <input type="hidden" name="family" value={family} />
              <button
                name="intent"
                value="require-none"
                className="min-h-11 text-sm underline"
                aria-label={`Ask for it no more: ${authorisation}, ${familyName(family)}`}
              >
                Ask for it no more
              </button>
            </Form>
          </li>
        ))}
      </ul>
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
        <input type="hidden" name="intent" value="require" />
        <TextField
          field={fields.authorisation}
          label="Authorisation"
          hint="Granted only to who has passed; those that were granted stay."
        />
        <SelectField
          field={fields.family}
          label="A fault found on"
          options={Object.entries(FAMILIES).sort(([, a], [, b]) => a.localeCompare(b))}
        />
        <TextField field={fields.days} label="Counts for so many days" inputMode="numeric" />
        <SubmitButton>Ask for it</SubmitButton>
      </Form>
    </Section>
  );
}
