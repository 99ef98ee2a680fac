import { Form } from "react-router";

import { LeadMark, leadWords } from "~/duties/lead-mark";
import { shortDay } from "~/kit/days/day-time";
import type { OwnAnswer } from "~/kit/forms/answer-to";
import { typed } from "~/kit/forms/answer-to";
import { PhotoField } from "~/ui/photo-field";

import type { Route } from "./+types/operator.route";

/** What the operator does, ticked and logged. */
export function OperatorDuties({
  open,
  duties,
  today,
  tick,
  busy,
}: {
  open: Route.ComponentProps["loaderData"]["duties"];
  duties: Route.ComponentProps["loaderData"]["duties"];
  today: Route.ComponentProps["loaderData"]["today"];
  tick: OwnAnswer<null>;
  busy: boolean;
}) {
  return (
    <section aria-labelledby="today" className="panel mt-4 p-4">
      <h2 id="today" className="mb-2 text-lg">
        {open.length === 0
          ? duties.length === 0
            ? "No operator duties here"
            : "All done for today"
          : "What did you do?"}
      </h2>
      <Form method="post" key={open.length}>
        <input type="hidden" name="intent" value="tick" />
        <ul className="divide-y divide-line">
          {duties.map((duty) => (
            <li key={duty.dutyId} className="py-2">
              {duty.doneToday ? (
                <p>
                  <span aria-hidden="true">✓ </span>
                  {duty.title} <span className="text-sm text-ink-soft">by {duty.doneToday.name}</span>
                </p>
              ) : (
                <label className="flex min-h-12 items-center gap-3">
                  <input type="checkbox" name="dutyIds" value={duty.dutyId} className="size-7 shrink-0" />
                  <span className="min-w-0 flex-1">
                    <span className="font-semibold">{duty.title}</span>
                    {duty.steps.length > 0 && (
                      <span className="block text-sm text-ink-soft">{duty.steps.join(" · ")}</span>
                    )}
                  </span>
                  <span className="shrink-0 text-center text-xs text-ink-soft">
                    <LeadMark state={duty.state} anchorOn={null} dueOn={duty.dueOn} today={today} width={64} />
                    <span className="block">{leadWords(duty.state, duty.dueOn, today)}</span>
                  </span>
                </label>
              )}
            </li>
          ))}
        </ul>
        {open.length > 0 && (
          <div className="mt-3">
            <label htmlFor="tick-name" className="block font-semibold">
              Your name or initials
            </label>
            <input
              id="tick-name"
              name="name"
              className="field"
              autoComplete="name"
              maxLength={60}
              defaultValue={typed(tick, "name") ?? ""}
              required
            />
            <button className="btn btn-main btn-big mt-3 w-full" aria-disabled={busy}>
              Log as done
            </button>
          </div>
        )}
      </Form>
    </section>
  );
}

/** What was reported, and what comes of it. */
export function YourReports({
  reports,
  today,
}: {
  reports: Route.ComponentProps["loaderData"]["reports"];
  today: string;
}) {
  if (reports.length === 0) return null;
  return (
    <section aria-labelledby="reported" className="panel mt-4 p-4">
      <h2 id="reported" className="mb-2 text-lg">
        Reported
      </h2>
      <ul className="divide-y divide-line">
        {reports.map((report) => (
          <li key={report.id} className="py-2">
            <p className="wrap-anywhere">
              {report.text}{" "}
              <span className="text-sm whitespace-nowrap text-ink-soft">{shortDay(report.on, today)}</span>
            </p>
            <p className="font-semibold wrap-anywhere">{report.says}</p>
          </li>
        ))}
      </ul>
    </section>
  );
}

export function ReportForm({
  report,
  actionData,
  busy,
}: {
  report: OwnAnswer<null>;
  actionData: Route.ComponentProps["actionData"];
  busy: boolean;
}) {
  return (
    <details className="panel mt-4 p-4" open={report.refused}>
      <summary className="min-h-12 py-2 text-lg font-bold">Report a problem</summary>
      <Form method="post" encType="multipart/form-data" key={actionData?.said ?? ""}>
        <input type="hidden" name="intent" value="report" />
        <label htmlFor="report-text" className="mt-2 block font-semibold">
          What is wrong?
        </label>
        <textarea
          id="report-text"
          name="text"
          rows={4}
          className="field"
          maxLength={2000}
          required
          defaultValue={typed(report, "text") ?? ""}
        />
        <label className="my-2 flex min-h-12 items-center gap-3">
          <input type="checkbox" name="stopped" className="size-7" /> The machine is stopped
        </label>
        <PhotoField name="photo" label="Picture, if it helps" />
        <label htmlFor="report-name" className="block font-semibold">
          Your name or initials
        </label>
        <input
          id="report-name"
          name="name"
          className="field"
          autoComplete="name"
          maxLength={60}
          defaultValue={typed(report, "name") ?? ""}
          required
        />
        <button className="btn btn-main btn-big mt-3 w-full" aria-disabled={busy}>
          Report it
        </button>
        <p className="mt-2 text-sm">In danger to people: switch off, keep clear and call the emergency number first.</p>
      </Form>
    </details>
  );
}
