import { Form } from "react-router";

import type { FormAnswer } from "~/kit/forms/form-answer";
import { Disclosure } from "~/ui/disclosure";
import { AreaField, SelectField, SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { FaultCode } from "./codes.server";
import { addCodeSchema } from "./fault-schemas";

/** What the firm has keyed in: codes that the machines display, and tests of functions; each leads to what the guide knows of it. */
export function CodesOfFamily({
  codes,
  models,
  symptoms,
  answer,
}: {
  codes: readonly FaultCode[];
  models: readonly string[];
  symptoms: readonly { id: string; says: string }[];
  answer: FormAnswer | undefined;
}) {
  const [form, fields] = useCheckedForm(addCodeSchema, answer, {
    form: "add-code",
    id: "add-code",
    defaultValue: { kind: "code" },
  });
  const isAnswered = answer?.form === "add-code";
  return (
    <>
      {codes.length === 0 ? (
        <p className="panel p-4">None keyed in yet. Take them from the maker&apos;s manual, in your own words.</p>
      ) : (
        <ul className="panel divide-y divide-line">
          {codes.map(({ id, kind, code, model, says, symptom }) => (
            <li key={id} className="flex flex-wrap items-start justify-between gap-x-4 p-3">
              <div className="min-w-0 flex-1 basis-64 wrap-anywhere">
                <p>
                  <strong className={kind === "code" ? "figure" : ""}>{code}</strong>
                  <span className="text-sm text-ink-soft">
                    {" "}
                    {kind === "test" && "function test · "}
                    {model === "" ? "all models" : model}
                  </span>
                </p>
                <p>{says}</p>
                {symptom !== null && (
                  <p className="text-sm text-ink-soft">
                    “{symptoms.find((one) => one.id === symptom)?.says ?? symptom}”
                  </p>
                )}
              </div>
              <Form method="post" preventScrollReset>
                <input type="hidden" name="code" value={id} />
                <button
                  name="intent"
                  value="end-code"
                  className="min-h-11 text-sm underline"
                  aria-label={`Take out: ${code}`}
                >
                  Take it out
                </button>
              </Form>
            </li>
          ))}
        </ul>
      )}
      <Disclosure title="Key one in" open={isAnswered && !answer.said} className="mt-2">
        <Form
          method="post"
          id={form.id}
          onSubmit={form.onSubmit}
          noValidate={form.noValidate}
          preventScrollReset
          className="panel mt-2 max-w-xl p-4"
        >
          {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
          <input type="hidden" name="intent" value="add-code" />
          <SelectField
            field={fields.kind}
            label="What it is"
            options={[
              ["code", "A code that the machine displays"],
              ["test", "A test of a function"],
            ]}
          />
          <TextField field={fields.name} label="The code, or the test's name" autoComplete="off" />
          <TextField
            field={fields.model}
            label="Model"
            hint={`Empty: all models.${models.length > 0 ? ` In your register: ${models.slice(0, 8).join(", ")}.` : ""}`}
            autoComplete="off"
          />
          <AreaField field={fields.says} label="What it says, or how it is run and what it should show" rows={3} />
          <SelectField
            field={fields.symptom}
            label="Leads to"
            options={[["", "No symptom of the guide"], ...symptoms.map(({ id, says }) => [id, says] as const)]}
          />
          <SubmitButton>Keep it</SubmitButton>
        </Form>
      </Disclosure>
    </>
  );
}
