import { Form } from "react-router";

import { Notice } from "~/ui/notice";
import { Section } from "~/ui/section";

import type { ReportView } from "./reports.server";

/** What operators reported and ticked: read on arrival. */
export function ReportPanel({ reports, problem }: { reports: readonly ReportView[]; problem: string | null }) {
  if (reports.length === 0) return null;
  return (
    <Section id="reports" title="Reported by operators">
      {problem && <Notice tone="problem">{problem}</Notice>}
      <ul className="panel divide-y divide-line">
        {reports.map((report) => (
          <li key={report.id} className="p-3">
            <p className="wrap-anywhere">
              {report.stopped && <strong>Machine stopped. </strong>}
              {report.text}
            </p>
            <p className="text-sm text-ink-soft">
              {report.name},{" "}
              <span className="figure">{new Date(report.loggedAt).toISOString().slice(0, 16).replace("T", " ")}</span>{" "}
              UTC
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
              <Form method="post" className="mt-1 flex flex-wrap items-end gap-2">
                <input type="hidden" name="intent" value="close-report" />
                <input type="hidden" name="report" value={report.id} />
                <div className="min-w-44 flex-1">
                  <label htmlFor={`note-${report.id}`} className="block text-sm font-semibold">
                    What was done about it
                  </label>
                  <input id={`note-${report.id}`} name="note" className="field" maxLength={500} required />
                </div>
                <button className="btn">Close it</button>
              </Form>
            )}
          </li>
        ))}
      </ul>
    </Section>
  );
}

export function TickPanel({ ticks }: { ticks: readonly { title: string; doneOn: string; name: string }[] }) {
  if (ticks.length === 0) return null;
  return (
    <Section id="ticks" title="Done by operators" panel>
      <ul className="text-sm">
        {ticks.map((tick, i) => (
          <li key={i}>
            <span className="figure">{tick.doneOn}</span> {tick.title}, {tick.name}
          </li>
        ))}
      </ul>
    </Section>
  );
}
