import { must } from "@core";
import { Form, Link } from "react-router";

import type { FormAnswer } from "~/kit/forms/form-answer";
import { Day } from "~/ui/day";
import { AreaField, SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { useCheckedForm } from "~/ui/use-checked-form";

import { clearHoldSchema } from "./hold-schema";
import type { Clearance, HoldView } from "./holds.server";

/** A machine out of service: why, since when, its repair, and the signature that returns it. */
export function HoldPanel({
  holds,
  clearances,
  answer,
}: {
  holds: readonly HoldView[];
  /** Who may return it, for each open hold. */
  clearances: readonly Clearance[];
  answer: FormAnswer | undefined;
}) {
  const open = holds.filter((hold) => hold.clearedAt === null);
  const cleared = holds.filter((hold) => hold.clearedAt !== null);
  if (holds.length === 0) return null;
  return (
    <section aria-labelledby="holds" className={`panel p-4 ${open.length > 0 ? "border-4 border-ink" : ""}`}>
      <h2 id="holds" className="text-lg">
        {open.length > 0 ? "! Out of service" : "Was out of service"}
      </h2>
      <ul className="space-y-3">
        {open
          .map((hold) => ({ hold, may: clearances.find((one) => one.holdId === hold.id) }))
          .map(({ hold, may }) => (
            <li key={hold.id} className="mt-2">
              <p className="font-semibold wrap-anywhere">{hold.reason}</p>
              <p className="text-sm text-ink-soft">
                {hold.byName}, <Day at={hold.since} />
                {hold.sheetId && (
                  <>
                    {" · "}
                    <Link to={`/book/records/${hold.sheetId}`}>the sheet</Link>
                  </>
                )}
                {may?.repairDutyId && (
                  <>
                    {" · "}
                    <Link to={`/duties/${may.repairDutyId}`}>its repair</Link>
                  </>
                )}
                {may?.needs && ` · takes ${may.needs}`}
                {" · "}
                <Link to={`/machines/${hold.machineId}/stop-tag`}>tag to print</Link>
              </p>
              {may?.whyNot === null ? (
                <ClearForm hold={hold} answer={answer} />
              ) : (
                <p className="text-sm">{may?.whyNot}</p>
              )}
            </li>
          ))}
      </ul>
      {cleared.length > 0 && (
        <ul className="mt-2 space-y-1 text-sm text-ink-soft">
          {cleared.slice(0, 5).map((hold) => (
            <li key={hold.id} className="wrap-anywhere">
              <Day at={hold.since} /> {hold.reason}; returned to service by {hold.clearedByName} on{" "}
              <Day at={must(hold.clearedAt)} />: {hold.clearedNote}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function ClearForm({ hold, answer }: { hold: HoldView; answer: FormAnswer | undefined }) {
  const [form, fields] = useCheckedForm(clearHoldSchema, answer, {
    form: "clear-hold",
    id: `clear-${hold.id}`,
    row: ["hold", hold.id],
  });
  return (
    <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate} className="mt-2">
      {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
      <input type="hidden" name="intent" value="clear-hold" />
      <input type="hidden" name="hold" value={hold.id} />
      <AreaField field={fields.note} label="What was put right, and how do you know that it is safe?" rows={2} />
      <TextField
        field={fields.password}
        label="Your password"
        type="password"
        autoComplete="current-password"
        hint="With it you sign that it may be used again."
      />
      <SubmitButton>Return to service</SubmitButton>
    </Form>
  );
}
