import { useForm } from "@conform-to/react";
import type { ExpectedRange } from "@core";
import { Form } from "react-router";

import { meterSchema, replaceMeterSchema } from "~/kit/form-schemas";
import type { PanelAnswer } from "~/kit/panel-answer";
import { parseWithYup } from "~/kit/parse-form";
import { SelectField, SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";

export interface KnownMeter {
  id: string;
  name: string;
  unit: string;
}

/** Meters of a machine: the last value, where the next is expected, a new reading, a replaced meter. */
export function MeterPanel({
  known,
  expected,
  answer,
}: {
  known: readonly KnownMeter[];
  expected: Record<string, ExpectedRange>;
  answer: PanelAnswer;
}) {
  return (
    <section aria-labelledby="meters" className="panel p-4">
      <h2 id="meters" className="mb-2 text-lg">
        Meters
      </h2>
      <ul className="mb-3 divide-y divide-line">
        {known.map((meter) => {
          const range = expected[meter.id];
          return (
            <li key={meter.id} className="py-1.5">
              <div className="flex justify-between gap-2">
                {meter.name}
                <span className="figure">{range ? `${round(range.last)} ${meter.unit}` : "no reading"}</span>
              </div>
              {range && (
                <p className="text-right text-xs text-ink-soft">
                  <span className="figure">{range.lastOn}</span>
                  {range.perDay !== null && range.perDay > 0 && (
                    <>
                      {" · "}
                      <span className="figure">{round(range.perDay)}</span> a day
                    </>
                  )}
                  {Number.isFinite(range.high) && (
                    <>
                      {" · expected up to "}
                      <span className="figure">{Math.floor(range.high)}</span>
                    </>
                  )}
                </p>
              )}
            </li>
          );
        })}
      </ul>
      <ReadingForm known={known} answer={answer?.form === "meter" ? answer : null} />
      <ReplaceForm known={known} answer={answer?.form === "replace-meter" ? answer : null} />
    </section>
  );
}

const round = (value: number): number => Math.round(value * 10) / 10;
const names = (known: readonly KnownMeter[]) => known.map((meter) => [meter.id, meter.name] as const);

function ReadingForm({ known, answer }: { known: readonly KnownMeter[]; answer: PanelAnswer }) {
  const [form, fields] = useForm({
    id: "meter-form",
    lastResult: answer?.result ?? null,
    onValidate: ({ formData }) => parseWithYup(formData, { schema: meterSchema }),
    shouldValidate: "onSubmit",
    defaultValue: { meter: known[0]!.id },
  });
  return (
    <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
      <input type="hidden" name="intent" value="meter" />
      {known.length > 1 ? (
        <SelectField field={fields.meter} label="Meter" options={names(known)} />
      ) : (
        <input type="hidden" name="meter" value={known[0]!.id} />
      )}
      <TextField field={fields.value} label="It shows now" inputMode="decimal" />
      {answer?.ask && (
        <Notice tone="problem">
          {answer.ask}
          <label className="mt-2 flex min-h-11 items-center gap-2">
            <input type="checkbox" name="confirmed" value="true" className="size-5" /> Yes, log it as typed
          </label>
        </Notice>
      )}
      <SubmitButton>Log the reading</SubmitButton>
    </Form>
  );
}

function ReplaceForm({ known, answer }: { known: readonly KnownMeter[]; answer: PanelAnswer }) {
  const [form, fields] = useForm({
    id: "replace-meter-form",
    lastResult: answer?.result ?? null,
    onValidate: ({ formData }) => parseWithYup(formData, { schema: replaceMeterSchema }),
    shouldValidate: "onSubmit",
    defaultValue: { meter: known[0]!.id, startsAt: "0" },
  });
  return (
    <details className="mt-3" open={answer !== null}>
      <summary className="inline-block min-h-11 py-2 underline decoration-dotted underline-offset-4">
        The meter was replaced
      </summary>
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
        {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
        <input type="hidden" name="intent" value="replace-meter" />
        <SelectField field={fields.meter} label="Which" options={names(known)} />
        <TextField
          field={fields.lastValue}
          label="The old one showed at last"
          inputMode="decimal"
          hint="Empty if it cannot be read any more."
        />
        <TextField field={fields.startsAt} label="The new one shows" inputMode="decimal" />
        <TextField field={fields.note} label="Note" />
        <SubmitButton>Log the replacement</SubmitButton>
      </Form>
    </details>
  );
}
