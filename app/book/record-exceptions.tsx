import { Link } from "react-router";

import { capital } from "~/kit/capital";
import { dayInWords } from "~/kit/days/day-time";
import { useDay } from "~/ui/day";
import { FOUND, foundName } from "~/wear/intervals/interval-words";

import type { Route } from "./+types/record.route";
import { Correct, Corrections } from "./record-parts";

type Data = Route.ComponentProps["loaderData"];

/** What is not as it should be, before everything else: what was found and noted, what was left open, what was settled. */
export function RecordExceptions({
  state,
  leftOpen,
  settled,
  machineId,
  name,
}: {
  state: Data["state"];
  leftOpen: Data["leftOpen"];
  settled: Data["settled"];
  machineId: string;
  name: (id: string) => string;
}) {
  const dayOf = useDay();
  const { asFound } = state;
  if (!asFound && state.findings.length + state.notes.length + leftOpen.length + settled.length === 0) return null;
  return (
    <div className="mb-6 grid gap-6 sm:grid-cols-2">
      {asFound && (
        <section>
          <h2 className="mb-1 text-lg">How it was found</h2>
          <div>
            {capital(foundName(asFound.found))}, {name(asFound.by)} says.{" "}
            <Correct entryId={asFound.eventId} field="answer" was={foundName(asFound.found)} choices={FOUND} />
            <Corrections list={asFound.corrections} name={name} />
          </div>
        </section>
      )}
      {[...state.findings, ...state.notes].length > 0 && (
        <section>
          <h2 className="mb-1 text-lg">Findings and notes</h2>
          <ul className="list-disc pl-5">
            {[...state.findings, ...state.notes].map((text) => (
              <li key={text.eventId}>
                {text.severity && <strong>{text.severity}: </strong>}
                {text.text}
                <Correct entryId={text.eventId} field="text" was="these words" />
                <Corrections list={text.corrections} name={name} />
              </li>
            ))}
          </ul>
        </section>
      )}
      {leftOpen.length > 0 && (
        <section>
          <h2 className="mb-1 text-lg">
            <Link to={`/machines/${machineId}/left`}>Left open</Link>
          </h2>
          <ul className="list-disc pl-5">
            {leftOpen.map((one) => (
              <li key={one.id} className="wrap-anywhere">
                {one.title}
                {one.settledAt && <span className="text-sm"> (settled on {dayInWords(dayOf(one.settledAt))})</span>}
              </li>
            ))}
          </ul>
        </section>
      )}
      {settled.length > 0 && (
        <section>
          <h2 className="mb-1 text-lg">Settled of what was left before</h2>
          <ul className="list-disc pl-5">
            {settled.map((one) => (
              <li key={one.id} className="wrap-anywhere">
                {one.title}
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}
