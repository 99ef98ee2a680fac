import { Form } from "react-router";

import type { FormAnswer } from "~/kit/forms/form-answer";
import { OnDay } from "~/ui/day";
import { SelectField, SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { Section } from "~/ui/section";
import { useCheckedForm } from "~/ui/use-checked-form";

import { occurrenceSchema } from "./machine-schemas";
import { occurrenceName } from "./occurrence-names";

/** Something happened on the machine that makes a duty due. */
export function OccurrencePanel({
  known,
  occurrences,
  answer,
}: {
  known: readonly string[];
  occurrences: readonly { event: string; on: string; note: string }[];
  answer: FormAnswer | undefined;
}) {
  const [form, fields] = useCheckedForm(occurrenceSchema, answer, { form: "event", id: "event-form" });
  return (
    <Section id="occurrences" title="Something happened" panel>
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
        {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
        <input type="hidden" name="intent" value="event" />
        <SelectField
          field={fields.event}
          label="What"
          options={known.map((event) => [event, occurrenceName(event)] as const)}
        />
        <TextField field={fields.on} label="Day" type="date" hint="Empty: today at the site." />
        <SubmitButton>Log it</SubmitButton>
      </Form>
      {occurrences.length > 0 && (
        <ul className="mt-3 text-sm text-ink-soft">
          {occurrences.slice(0, 4).map((occurrence, i) => (
            <li key={i}>
              <OnDay on={occurrence.on} /> {occurrenceName(occurrence.event)}
            </li>
          ))}
        </ul>
      )}
    </Section>
  );
}
