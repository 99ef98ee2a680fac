import type { ExpectedRange } from "@core";
import { must } from "@core";
import { Form } from "react-router";

import { answerTo } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { OnDay } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { SelectField, SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { Section } from "~/ui/section";
import { useCheckedForm } from "~/ui/use-checked-form";

import { meterSchema, replaceMeterSchema } from "./machine-schemas";

export interface KnownMeter {
  id: string;
  name: string;
  unit: string;
}

/** A value that looks like a slip is asked about before it is taken. */
export type MeterAnswer = FormAnswer<{ ask: string }> | undefined;

/** Meters of a machine: the last value, where the next is expected, a new reading, a replaced meter. */
export function MeterPanel({
  known,
  expected,
  answer,
}: {
  known: readonly KnownMeter[];
  expected: Record<string, ExpectedRange>;
  answer: MeterAnswer;
}) {
  return (
    <Section id="meters" title="Meters" panel>
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
                  <OnDay on={range.lastOn} />
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
      <ReadingForm known={known} answer={answer} />
      <ReplaceForm known={known} answer={answer} />
    </Section>
  );
}

const round = (value: number): number => Math.round(value * 10) / 10;
const names = (known: readonly KnownMeter[]) => known.map((meter) => [meter.id, meter.name] as const);

function ReadingForm({ known, answer }: { known: readonly KnownMeter[]; answer: MeterAnswer }) {
  const [form, fields] = useCheckedForm(meterSchema, answer, {
    form: "meter",
    id: "meter-form",
    defaultValue: { meter: must(known[0]).id },
  });
  const ask = answerTo(answer, "meter").result?.ask;
  return (
    <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate}>
      {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
      <input type="hidden" name="intent" value="meter" />
      {known.length > 1 ? (
        <SelectField field={fields.meter} label="Meter" options={names(known)} />
      ) : (
        <input type="hidden" name="meter" value={must(known[0]).id} />
      )}
      <TextField field={fields.value} label="It shows now" inputMode="decimal" />
      {ask && (
        <Notice tone="problem">
          {ask}
          <label className="mt-2 flex min-h-11 items-center gap-2">
            <input type="checkbox" name="confirmed" value="true" className="size-5" /> Yes, log it as typed
          </label>
        </Notice>
      )}
      <SubmitButton>Log the reading</SubmitButton>
    </Form>
  );
}

function ReplaceForm({ known, answer }: { known: readonly KnownMeter[]; answer: MeterAnswer }) {
  const [form, fields] = useCheckedForm(replaceMeterSchema, answer, {
    form: "replace-meter",
    id: "replace-meter-form",
    defaultValue: { meter: must(known[0]).id, startsAt: "0" },
  });
  return (
    <Disclosure title="The meter was replaced" open={answer?.form === "replace-meter"} className="mt-3">
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
    </Disclosure>
  );
}
