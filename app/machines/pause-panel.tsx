import { Form } from "react-router";

import type { PauseView } from "~/duties/duties.server";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { OnDay } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { SelectField, SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { Section } from "~/ui/section";
import { useCheckedForm } from "~/ui/use-checked-form";

import { pauseSchema } from "./machine-schemas";

/** Pauses of a machine's duties: those that run, and one to begin. */
export function PausePanel({
  pauses,
  duties,
  answer,
}: {
  pauses: readonly PauseView[];
  duties: readonly { dutyId: string; title: string }[];
  answer: FormAnswer | undefined;
}) {
  const [form, fields] = useCheckedForm(pauseSchema, answer, { form: "pause", id: "pause-form" });
  const titles = new Map(duties.map((duty) => [duty.dutyId, duty.title]));
  const open = pauses.filter((pause) => pause.open);
  return (
    <Section id="pauses" title={open.length > 0 ? "Paused" : "Pause"} panel>
      <ul className="text-sm">
        {open.map((pause) => (
          <li key={pause.id} className="mt-2 border-l-4 border-ink pl-3">
            {pause.dutyId ? (titles.get(pause.dutyId) ?? "One duty") : "All duties"} from <OnDay on={pause.fromOn} />
            {pause.toOn && (
              <>
                {" "}
                to <OnDay on={pause.toOn} />
              </>
            )}
            : {pause.reason} ({pause.by})
            <Form method="post">
              <input type="hidden" name="intent" value="resume" />
              <input type="hidden" name="pause" value={pause.id} />
              <button className="min-h-11 font-semibold underline">Resume today</button>
            </Form>
          </li>
        ))}
      </ul>
      <Disclosure
        title="The machine is stored or the site closes for a season"
        open={answer?.form === "pause"}
        className="mt-1"
        titleClass="text-sm"
      >
        <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
          {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
          <input type="hidden" name="intent" value="pause" />
          <SelectField
            field={fields.dutyId}
            label="What"
            options={[["", "All its duties"], ...duties.map((duty) => [duty.dutyId, duty.title] as const)]}
          />
          <TextField field={fields.fromOn} label="From" type="date" hint="Empty: today." />
          <TextField field={fields.toOn} label="Back on" type="date" hint="Empty: until somebody resumes it." />
          <TextField field={fields.reason} label="Why" />
          <SubmitButton>Pause</SubmitButton>
        </Form>
      </Disclosure>
    </Section>
  );
}
