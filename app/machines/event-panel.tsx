import { Form } from "react-router";

import type { FormAnswer } from "~/kit/forms/form-answer";
import { SelectField, SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { useCheckedForm } from "~/ui/use-checked-form";

import { eventName } from "./event-names";
import { eventSchema } from "./machine-schemas";

/** Something happened on the machine that makes a duty due. */
export function EventPanel({
  known,
  events,
  answer,
}: {
  known: readonly string[];
  events: readonly { event: string; on: string; note: string }[];
  answer: FormAnswer | undefined;
}) {
  const [form, fields] = useCheckedForm(eventSchema, answer, { form: "event", id: "event-form" });
  return (
    <section aria-labelledby="events" className="panel p-4">
      <h2 id="events" className="mb-2 text-lg">
        Something happened
      </h2>
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
        {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
        <input type="hidden" name="intent" value="event" />
        <SelectField
          field={fields.event}
          label="What"
          options={known.map((event) => [event, eventName(event)] as const)}
        />
        <TextField field={fields.on} label="Day" type="date" hint="Empty: today at the site." />
        <SubmitButton>Log it</SubmitButton>
      </Form>
      {events.length > 0 && (
        <ul className="mt-3 text-sm text-ink-soft">
          {events.slice(0, 4).map((event, i) => (
            <li key={i}>
              <span className="figure">{event.on}</span> {eventName(event.event)}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
