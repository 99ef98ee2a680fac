import { Form } from "react-router";

import type { FaultCode } from "./codes.server";

/** What the firm's dictionary says to what was typed, each a tap away from the sheet. */
export function CodesThatFit({
  codes,
  report,
}: {
  codes: readonly (FaultCode & { symptomSays: string | null })[];
  report: string | null;
}) {
  if (codes.length === 0) return null;
  return (
    <ul aria-label="From your dictionary" className="panel mt-3 divide-y divide-line">
      {codes.map(({ id, kind, code, says, symptom, symptomSays }) => (
        <li key={id} className="p-3 wrap-anywhere">
          <p>
            <strong className={kind === "code" ? "figure" : ""}>{code}</strong>
            {kind === "test" && <span className="text-sm text-ink-soft"> function test</span>}: {says}
          </p>
          {symptom !== null && symptomSays !== null && (
            <Form method="post" className="mt-2">
              <input type="hidden" name="intent" value="start" />
              <input type="hidden" name="code" value={id} />
              {report !== null && <input type="hidden" name="report" value={report} />}
              <button name="symptom" value={symptom} className="btn btn-big text-left">
                Look for it: {symptomSays}
              </button>
            </Form>
          )}
        </li>
      ))}
    </ul>
  );
}
