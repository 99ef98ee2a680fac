import { type AppliedCorrection, isFaultProcedure, limitWords, must, type SheetStep, sumMaterials } from "@core";
import { Form, Link } from "react-router";

import { LeadMark, leadWords } from "~/duties/lead-mark";
import { shortDay } from "~/kit/days/day-time";
import { materialName, partName } from "~/sheet/item-names";
import { checkLines, outcomeOf } from "~/sheet/step-outcome";
import { AtSite, WhyThisDay } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { PageHead } from "~/ui/page-head";
import { Table } from "~/ui/table";

import type { Route } from "./+types/record.route";
import { askedWords } from "./asked-words";
import { looseEnds } from "./loose-ends";

type Data = Route.ComponentProps["loaderData"];

export function RecordHead({
  title,
  machine,
  sheet,
  letterhead,
  onSite,
}: {
  title: string;
  machine: Data["machine"];
  sheet: Data["sheet"];
  letterhead: Data["letterhead"];
  /** In words. */
  onSite: string | null;
}) {
  return (
    <>
      {letterhead && (
        <div className="mb-3 border-b border-line pb-2 text-sm wrap-anywhere">
          <p className="font-bold">{letterhead.name}</p>
          <p className="whitespace-pre-line text-ink-soft">{letterhead.lines}</p>
        </div>
      )}
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
            {onSite && <p className="text-ink-soft">{onSite}</p>}
          </>
        }
      >
        {isFaultProcedure(sheet.procedureId) && (
          <Link to={`/sheet/${sheet.id}/packet`} className="btn no-print">
            Service packet
          </Link>
        )}
        <a href={`/book/records/${sheet.id}/pdf`} className="btn no-print">
          PDF
        </a>
      </PageHead>
    </>
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
          foretoldFrom={next.row.foretoldFrom}
          foretoldTo={next.row.foretoldTo}
          hardStop={next.row.hardStop}
          width={140}
        />
        <p>
          <strong>{state.outcome ? "Still due" : "Next time"}:</strong>{" "}
          {next.row.dueOn === null ? "no day yet" : shortDay(next.row.dueOn, next.row.today)},{" "}
          {leadWords(next.row.state, next.row.dueOn, next.row.today)}
        </p>
      </div>
      <div className="no-print mt-2">
        <WhyThisDay because={next.because} />
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
                <div className="flex flex-wrap gap-x-4">
                  {(one.state?.readings ?? []).map((reading) => (
                    <Correct
                      key={reading.eventId}
                      entryId={reading.eventId}
                      field="value"
                      was={`${reading.value} ${reading.unit}`}
                    />
                  ))}
                </div>
              </td>
              <td className="text-sm whitespace-nowrap">
                {one.state?.by && name(one.state.by)}
                {one.state?.at && (
                  <span className="block text-ink-soft">
                    <AtSite at={one.state.at} timeZone={timeZone} />
                  </span>
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
            {sumMaterials(state.consumables).map((sum) => {
              const uses = state.consumables.filter((one) => one.item === sum.item && one.unit === sum.unit);
              const each = uses.map((used) => (
                <Use key={used.eventId} used={used} name={name} withQty={uses.length > 1} />
              ));
              return (
                <li key={`${sum.item} ${sum.unit}`}>
                  {materialName(procedure, sum.item, itemNames)}, <span className="figure">{sum.qty}</span> {sum.unit}
                  {uses.length > 1 ? (
                    <ul className="pl-4 text-sm">
                      {each.map((one) => (
                        <li key={one.key}>{one}</li>
                      ))}
                    </ul>
                  ) : (
                    each
                  )}
                </li>
              );
            })}
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

/** One use of a material: its lot, and what was corrected in it. */
function Use({
  used,
  name,
  withQty,
}: {
  used: Data["state"]["consumables"][number];
  name: (id: string) => string;
  withQty: boolean;
}) {
  const { eventId, qty, unit, lot, corrections } = used;
  return (
    <>
      {withQty && (
        <>
          <span className="figure">{qty}</span> {unit}
        </>
      )}
      {lot && <span className="figure text-sm"> lot {lot}</span>}
      <Correct entryId={eventId} field="qty" was={`${qty} ${unit}`} />
      <Corrections list={corrections} name={name} />
    </>
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
  choices,
}: {
  entryId: string;
  field: "value" | "qty" | "text" | "lot" | "answer";
  was: string;
  /** Of a fact that is one of a few. */
  choices?: readonly { id: string; name: string }[];
}) {
  return (
    <Disclosure
      title={`correct ${was}`}
      label={`Correct ${was}`}
      className="no-print inline-block align-top text-sm wrap-anywhere"
    >
      <Form method="post" className="mt-1 mb-2 max-w-72 space-y-2 border-l-4 border-line pl-2">
        <input type="hidden" name="ref" value={entryId} />
        <input type="hidden" name="field" value={field} />
        <label className="block">
          <span className="block font-semibold">Should be, instead of {was}</span>
          {choices ? (
            <select name="to" className="field">
              {choices.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </select>
          ) : (
            <input
              name="to"
              required
              className="field"
              inputMode={field === "value" || field === "qty" ? "decimal" : "text"}
              maxLength={4000}
            />
          )}
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
      {checkLines(one).map((line) => (
        <span key={line} className="block text-sm text-ink-soft">
          {line}
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
