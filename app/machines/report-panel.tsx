import { Form, Link } from "react-router";

import { shortDay } from "~/kit/days/day-time";
import { allFaults, answerTo } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { OnDay, useDay } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { Notice } from "~/ui/notice";
import { PlainField, PlainSelect } from "~/ui/plain-field";
import { Section } from "~/ui/section";

import type { ReportView } from "./reports.server";

/** What operators reported: each becomes work with one press, or is answered, and says what came of it. */
export function ReportPanel({
  reports,
  people,
  me,
  today,
  answer,
}: {
  reports: readonly ReportView[];
  /** Whom work may be given to. */
  people: readonly { id: string; name: string }[];
  me: string;
  today: string;
  answer: FormAnswer | undefined;
}) {
  const dayOf = useDay();
  if (reports.length === 0) return null;
  return (
    <Section id="reports" title="Reported by operators">
      <ul className="panel divide-y divide-line">
        {reports.map((report) => (
          <li key={report.id} className="p-3">
            <p className="wrap-anywhere">
              {report.stopped && <strong>Machine stopped. </strong>}
              {report.text}
            </p>
            {!report.closedAt && (
              <p>
                <Link to={`/machines/${report.machineId}/fault?${new URLSearchParams({ report: report.id })}`}>
                  Look for the cause
                </Link>
              </p>
            )}
            <p className="text-sm text-ink-soft">
              {report.name}, {shortDay(dayOf(report.loggedAt), today)}
              {report.photoId && (
                <>
                  {" · "}
                  <a href={`/photos/${report.photoId}`} target="_blank" rel="noreferrer">
                    Picture
                  </a>
                </>
              )}
            </p>
            {report.closedAt ? (
              <p className="text-sm wrap-anywhere">
                Closed by {report.closedByName}: {report.closedNote}
              </p>
            ) : (
              <OpenReport report={report} people={people} me={me} today={today} answer={answer} />
            )}
          </li>
        ))}
      </ul>
    </Section>
  );
}

function OpenReport({
  report,
  people,
  me,
  today,
  answer,
}: {
  report: ReportView;
  people: readonly { id: string; name: string }[];
  me: string;
  today: string;
  answer: FormAnswer | undefined;
}) {
  const [work, told, close] = (["make-work", "answer-report", "close-report"] as const).map((name) =>
    answerTo(answer, name, ["report", report.id]),
  );
  const fault = [work, told, close].map((one) => one && allFaults(one)).find(Boolean);
  return (
    <>
      {fault && <Notice tone="problem">{fault}</Notice>}
      {report.workDutyId ? (
        <p className="text-sm wrap-anywhere">
          <Link to={`/duties/${report.workDutyId}`}>Its call</Link>
          {report.plannedOn &&
            ` is on ${report.plannedForName ? `${report.plannedForName}'s day, ` : ""}${shortDay(report.plannedOn, today)}`}
        </p>
      ) : (
        <Form method="post" className="mt-2 flex flex-wrap items-end gap-3">
          <input type="hidden" name="intent" value="make-work" />
          <input type="hidden" name="report" value={report.id} />
          <PlainSelect
            id={`who-${report.id}`}
            name="personId"
            label="Who goes"
            options={people}
            defaultValue={me}
            answer={undefined}
          />
          <PlainField
            id={`on-${report.id}`}
            name="on"
            type="date"
            label="When"
            min={today}
            defaultValue={today}
            answer={undefined}
          />
          <button className="btn btn-main">Make work of it</button>
        </Form>
      )}
      {report.seenAt && (
        <p className="mt-1 text-sm text-ink-soft wrap-anywhere">
          Read by {report.seenByName}
          {report.answer && `; the operator is told: ${report.answer}`}
        </p>
      )}
      <Disclosure title="Answer or close" label={`Answer or close: ${report.text.slice(0, 60)}`}>
        <Form method="post" className="flex flex-wrap items-end gap-3">
          <input type="hidden" name="intent" value="answer-report" />
          <input type="hidden" name="report" value={report.id} />
          <PlainField
            id={`answer-${report.id}`}
            name="answer"
            label="What the operator is told"
            className="min-w-44 flex-1"
            maxLength={300}
            defaultValue={report.answer}
            required
            answer={undefined}
          />
          <button className="btn">Tell them</button>
        </Form>
        <Form method="post" className="mt-2 flex flex-wrap items-end gap-3">
          <input type="hidden" name="intent" value="close-report" />
          <input type="hidden" name="report" value={report.id} />
          <PlainField
            id={`note-${report.id}`}
            name="note"
            label="What was done about it"
            className="min-w-44 flex-1"
            maxLength={500}
            required
            answer={undefined}
          />
          <button className="btn">Close it</button>
        </Form>
      </Disclosure>
    </>
  );
}

export function TickPanel({ ticks }: { ticks: readonly { title: string; doneOn: string; name: string }[] }) {
  if (ticks.length === 0) return null;
  return (
    <Section id="ticks" title="Done by operators" panel>
      <ul className="text-sm">
        {ticks.map((tick, i) => (
          <li key={i}>
            <OnDay on={tick.doneOn} /> {tick.title}, {tick.name}
          </li>
        ))}
      </ul>
    </Section>
  );
}
