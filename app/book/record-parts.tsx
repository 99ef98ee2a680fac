import { type AppliedCorrection, limitWords, must, type SheetStep } from "@core";
import { Form, Link } from "react-router";

import { LeadMark, leadWords } from "~/duties/lead-mark";
import { outcomeOf } from "~/sheet/step-outcome";
import { Disclosure } from "~/ui/disclosure";
import { PageHead } from "~/ui/page-head";
import { siteTime } from "~/ui/site-time";
import { Table } from "~/ui/table";
import { Why } from "~/ui/why";

import type { Route } from "./+types/record.route";
import { askedWords } from "./asked-words";
import { materialName, partName } from "./item-names";
import { looseEnds } from "./loose-ends";

type Data = Route.ComponentProps["loaderData"];

export function RecordHead({
  title,
  machine,
  sheet,
}: {
  title: string;
  machine: Data["machine"];
  sheet: Data["sheet"];
}) {
  return (
    <PageHead
      title={title}
      subtitle={
        <>
          <p className="wrap-anywhere">
            <Link to={`/machines/${machine.id}`}>{machine.name}</Link> <span className="figure">{machine.tag}</span>
          </p>
          <p className="text-ink-soft wrap-anywhere">
            {machine.customerName}, {machine.siteName}
            {machine.area && `, ${machine.area}`}
          </p>
        </>
      }
    >
      <a href={`/book/records/${sheet.id}/pdf`} className="btn no-print">
        PDF
      </a>
    </PageHead>
  );
}

/** When this duty comes due again. */
export function NextDue({ next, state }: { next: Data["next"]; state: Data["state"] }) {
  if (!next) return null;
  return (
    <section className="panel mb-5 p-4">
      <div className="flex flex-wrap items-center gap-4">
        <LeadMark
          state={next.row.state}
          anchorOn={next.row.anchorOn}
          dueOn={next.row.dueOn}
          today={next.row.today}
          rivals={next.row.rivals}
          hardStop={next.row.hardStop}
          width={140}
        />
        <p>
          <strong>{state.outcome ? "Still due" : "Next time"}:</strong>{" "}
          <span className="figure">{next.row.dueOn ?? "no day yet"}</span>,{" "}
          {leadWords(next.row.state, next.row.dueOn, next.row.today)}
        </p>
      </div>
      <div className="no-print mt-2">
        <Why because={next.because} summary="Why this day?" />
      </div>
    </section>
  );
}

/** Every step with what came of it. */
export function RecordSteps({
  timeZone,
  steps,
  name,
  instruments,
}: {
  timeZone: Data["timeZone"];
  steps: Data["steps"];
  name: (id: string) => string;
  instruments: Data["instruments"];
}) {
  return (
    <section className="mb-6">
      <h2 className="mb-2 text-lg">Steps</h2>
      <Table caption="Steps" panel>
        <thead>
          <tr>
            <th scope="col">Step</th>
            <th scope="col">Result</th>
            <th scope="col">By, at ({timeZone})</th>
          </tr>
        </thead>
        <tbody>
          {steps.map((one) => (
            <tr key={`${one.step}#${one.round}`}>
              <td>
                {one.definition.title}
                {one.round > 1 && <span className="text-ink-soft"> (pass {one.round})</span>}
              </td>
              <td>
                <StepResult one={one} name={name} instruments={instruments} />
                {(one.state?.readings ?? []).map((reading) => (
                  <Correct
                    key={reading.eventId}
                    entryId={reading.eventId}
                    field="value"
                    was={`${reading.value} ${reading.unit}`}
                  />
                ))}
              </td>
              <td className="text-sm whitespace-nowrap">
                {one.state?.by && name(one.state.by)}
                {one.state?.at && (
                  <span className="figure block text-ink-soft">{siteTime(one.state.at, timeZone)}</span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </section>
  );
}

/** Parts and consumables, and what is still off, locked or holds for now. */
export function RecordUses({
  state,
  procedure,
  itemNames,
  name,
}: {
  state: Data["state"];
  procedure: Data["procedure"];
  itemNames: Data["itemNames"];
  name: (id: string) => string;
}) {
  const open = looseEnds(procedure, state, name);
  return (
    <div className="mb-6 grid gap-6 sm:grid-cols-2">
      {state.parts.length > 0 && (
        <section>
          <h2 className="mb-1 text-lg">Parts fitted</h2>
          <ul className="list-disc pl-5">
            {state.parts.map((part) => (
              <li key={part.eventId}>
                {partName(procedure, part.item, part.slot, itemNames)}
                {part.turnedUsesLeft !== null && <span className="text-sm"> (turned, {part.turnedUsesLeft} left)</span>}
                {part.lot && <span className="figure text-sm"> lot {part.lot}</span>}
                {part.lot && <Correct entryId={part.eventId} field="lot" was={`lot ${part.lot}`} />}
                <Corrections list={part.corrections} name={name} />
              </li>
            ))}
          </ul>
        </section>
      )}
      {state.consumables.length > 0 && (
        <section>
          <h2 className="mb-1 text-lg">Materials used</h2>
          <ul className="list-disc pl-5">
            {state.consumables.map((used) => (
              <li key={used.eventId}>
                {materialName(procedure, used.item, itemNames)}, <span className="figure">{used.qty}</span> {used.unit}
                {used.lot && <span className="figure text-sm"> lot {used.lot}</span>}
                <Correct entryId={used.eventId} field="qty" was={`${used.qty} ${used.unit}`} />
                <Corrections list={used.corrections} name={name} />
              </li>
            ))}
          </ul>
        </section>
      )}
      {open.length > 0 && (
        <section>
          <h2 className="mb-1 text-lg">Parts off, locks, and what holds for now</h2>
          <ul className="list-disc pl-5">
            {open.map((words) => (
              <li key={words} className="wrap-anywhere">
                {words}
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

export function Signatures({
  state,
  signature,
  sheet,
  name,
  timeZone,
}: {
  state: Data["state"];
  signature: Data["state"]["technicianSignature"];
  sheet: Data["sheet"];
  name: (id: string) => string;
  timeZone: Data["timeZone"];
}) {
  return (
    <section className="grid gap-4 sm:grid-cols-2">
      <div className="panel p-4">
        <h2 className="mb-2 text-lg">Customer</h2>
        {state.customerSignature === null ? (
          <p>Did not sign.</p>
        ) : state.customerSignature.method === "not-present" ? (
          <p>Not present: {state.customerSignature.reason}</p>
        ) : (
          <>
            {state.customerSignature.method === "drawn" && (
              <svg
                viewBox="0 0 560 180"
                className="mb-1 w-full max-w-72 border-b border-ink"
                role="img"
                aria-label={`Signature of ${state.customerSignature.name}`}
              >
                <path
                  d={state.customerSignature.drawing}
                  fill="none"
                  stroke="currentColor"
                  strokeWidth="3"
                  strokeLinecap="round"
                  strokeLinejoin="round"
                />
              </svg>
            )}
            <p>
              {state.customerSignature.name}
              {state.customerSignature.method === "typed" && " (typed)"}
            </p>
          </>
        )}
      </div>
      <div className="panel p-4">
        <h2 className="mb-2 text-lg">Technician</h2>
        <p>{signature ? signature.name : sheet.closedBy ? name(sheet.closedBy) : ""}</p>
        <p className="text-sm text-ink-soft">
          {signature ? "Signed with password" : "Ended the sheet"}{" "}
          <span className="figure">{sheet.closedAt && siteTime(sheet.closedAt, timeZone)}</span>
        </p>
      </div>
    </section>
  );
}

export function Corrections({ list, name }: { list: AppliedCorrection[]; name: (id: string) => string }) {
  return list.map((one) => (
    <span key={one.eventId} className="block text-sm text-ink-soft">
      Corrected by {name(one.by)}: was {Object.values(one.old).join(", ")}, {one.why}
    </span>
  ));
}

/** A fact that reads otherwise: what it should be, and why. */
export function Correct({
  entryId,
  field,
  was,
}: {
  entryId: string;
  field: "value" | "qty" | "text" | "lot";
  was: string;
}) {
  return (
    <Disclosure title="correct" label={`Correct ${was}`} className="no-print inline-block align-top text-sm">
      <Form method="post" className="mt-1 mb-2 max-w-72 space-y-2 border-l-4 border-line pl-2">
        <input type="hidden" name="ref" value={entryId} />
        <input type="hidden" name="field" value={field} />
        <label className="block">
          <span className="block font-semibold">Should be, instead of {was}</span>
          <input
            name="to"
            required
            className="field"
            inputMode={field === "value" || field === "qty" ? "decimal" : "text"}
            maxLength={4000}
          />
        </label>
        <label className="block">
          <span className="block font-semibold">Why?</span>
          <input name="why" required className="field" maxLength={1000} />
        </label>
        <button className="btn">Add the correction</button>
      </Form>
    </Disclosure>
  );
}

function StepResult({
  one,
  name,
  instruments,
}: {
  one: SheetStep;
  name: (id: string) => string;
  instruments: { [id: string]: string };
}) {
  const limits = one.definition.kind === "measure" ? one.definition.limits : undefined;
  const out = (one.state?.readings ?? []).some((reading) => reading.verdict !== "in");
  return (
    <>
      {outcomeOf(one) || (one.settled ? "done" : <em>not settled</em>)}
      {limits && one.definition.kind === "measure" && (
        <span className="block text-sm text-ink-soft">allowed: {limitWords(limits, one.definition.unit)}</span>
      )}
      {out && must(one.state).readings.length > 1 && (
        <span className="block text-sm text-ink-soft">
          all readings:{" "}
          <span className="figure">
            {must(one.state)
              .readings.map((reading) => `${reading.value}${reading.verdict === "in" ? "" : " !"}`)
              .join(", ")}
          </span>
        </span>
      )}
      {[...new Set((one.state?.readings ?? []).map((reading) => reading.stage))].length > 1 && (
        <span className="block text-sm text-ink-soft">
          as found <span className="figure">{stageValues(one, "as-found")}</span>, as left{" "}
          <span className="figure">{stageValues(one, "as-left")}</span>
        </span>
      )}
      {[...new Set((one.state?.readings ?? []).flatMap((reading) => reading.instrument ?? []))].map((id) => (
        <span key={id} className="block text-sm text-ink-soft">
          with {instruments[id] ?? "an instrument that is not registered"}
          {must(one.state).readings.some((reading) => reading.instrument === id && reading.instrumentExpired) && (
            <strong className="text-ink"> ! calibration expired</strong>
          )}
        </span>
      ))}
      {askedWords(one).map((words) => (
        <span key={words} className="block text-sm text-ink-soft">
          {words}
        </span>
      ))}
      {(one.state?.readings ?? []).map((reading) => (
        <Corrections key={reading.eventId} list={reading.corrections} name={name} />
      ))}
    </>
  );
}

function stageValues(one: SheetStep, stage: "as-found" | "as-left"): string {
  return must(one.state)
    .readings.filter((reading) => reading.stage === stage)
    .map((reading) => reading.value)
    .join(", ");
}
