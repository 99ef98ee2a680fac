import type { Procedure, RunState } from "@core";
import { findStepOf } from "@core";
import { Link } from "react-router";

/** What was found on this sheet, each with the way to its cause; nothing on a sheet that looks for one. */
export function FoundHere({
  machineId,
  procedure,
  findings,
}: {
  machineId: string;
  procedure: Procedure;
  findings: RunState["findings"];
}) {
  if (findings.length === 0 || findStepOf(procedure)) return null;
  return (
    <section aria-labelledby="found-here" className="mt-4">
      <h2 id="found-here" className="text-lg">
        Found on this sheet
      </h2>
      <ul className="divide-y divide-line">
        {findings.map(({ eventId, text }) => (
          <li key={eventId} className="flex flex-wrap items-center justify-between gap-x-4">
            <span className="min-w-0 flex-1 basis-48 py-1 wrap-anywhere">{text}</span>
            <Link to={aboutPath(machineId, text)} className="inline-block min-h-11 py-2">
              Look for its cause<span className="sr-only">: {text}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Longer, it is told from the sheet that it stands on. */
const LONGEST = 300;

/** Where the cause of something is looked for that was seen on a machine. */
export const aboutPath = (machineId: string, about: string): string =>
  `/machines/${machineId}/fault?${new URLSearchParams({ about: about.slice(0, LONGEST) }).toString()}`;
