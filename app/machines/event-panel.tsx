import { useForm } from "@conform-to/react";
import { Form } from "react-router";

import { eventSchema } from "~/kit/form-schemas";
import type { PanelAnswer } from "~/kit/panel-answer";
import { parseWithYup } from "~/kit/parse-form";
import { SelectField, SubmitButton, TextField } from "~/ui/form";

import { eventName } from "./event-names";

/** Something happened on the machine that makes a duty due. */
export function EventPanel({
  known,
  events,
  answer,
}: {
  known: readonly string[];
  events: readonly { event: string; on: string; note: string }[];
  answer: PanelAnswer;
}) {
  const [form, fields] = useForm({
    id: "event-form",
    lastResult: answer?.result ?? null,
    onValidate: ({ formData }) => parseWithYup(formData, { schema: eventSchema }),
    shouldValidate: "onSubmit",
  });
  return (
    <section aria-labelledby="events" className="panel p-4">
      <h2 id="events" className="mb-2 text-lg">
        Something happened
      </h2>
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
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
