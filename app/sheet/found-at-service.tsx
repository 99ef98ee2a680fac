import { asFoundOf, foundBySheet, type MachineFacts, type Procedure, type RunEventBody, type RunState } from "@core";

import { Disclosure } from "~/ui/disclosure";
import { FOUND, foundName } from "~/wear/intervals/interval-words";

/** How the machine was found: asked in one tap where the sheet does not tell, to be said otherwise where it does. */
export function FoundAtService({
  procedure,
  state,
  machine,
  log,
}: {
  procedure: Procedure;
  state: RunState;
  machine: MachineFacts;
  log: (...bodies: RunEventBody[]) => void;
}) {
  const said = asFoundOf(procedure, state, machine);
  const taps = (
    <div role="group" aria-label="How was it found?" className="mt-2 grid grid-cols-2 gap-2 sm:grid-cols-4">
      {FOUND.map(({ id, name, means }) => (
        <button
          key={id}
          type="button"
          className="btn h-auto min-h-14 flex-col items-start justify-start gap-0 py-2 text-left"
          aria-pressed={said?.found === id}
          onClick={() => log({ type: "as-found", found: id })}
        >
          <span className="font-semibold">{name}</span>
          <span className="text-sm font-normal">{means}</span>
        </button>
      ))}
    </div>
  );
  if (!said)
    return (
      <section aria-labelledby="as-found" className="mb-5">
        <h3 id="as-found" className="font-semibold">
          How was it found?
        </h3>
        {taps}
      </section>
    );
  const bySheet = said.told === "sheet" ? said : foundBySheet(procedure, state, machine);
  return (
    <section aria-labelledby="as-found" className="mb-5">
      <h3 id="as-found" role="status" className="font-semibold">
        Found {foundName(said.found)}.
      </h3>
      {bySheet && (
        <p className="text-sm text-ink-soft">
          {said.told === "sheet" ? "So the sheet says" : `The sheet says ${foundName(bySheet.found)}`}:{" "}
          {bySheet.because.join("; ")}
        </p>
      )}
      <Disclosure title="Say otherwise">{taps}</Disclosure>
    </section>
  );
}
