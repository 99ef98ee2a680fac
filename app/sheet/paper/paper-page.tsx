import { type Procedure, type Step, timedBounds } from "@core";

import { placesOf } from "~/sheet/item-names";
import { StepFigure } from "~/ui/figure";
import { SafetySign } from "~/ui/safety-sign";
import { FOUND } from "~/wear/intervals/interval-words";
import { isTuned } from "~/wear/intervals/tuned-duties";

import { onlyWords, partsOnPaper, wantsOnPaper } from "./paper-words";

/** A sheet on paper: every step with a place to write, the tag to scan, lines for the signatures. */
export function PaperPage({
  procedure,
  machine,
}: {
  procedure: Procedure;
  machine: { name: string; tag: string; siteName: string; area: string; serial: string; tagSrc: string } | null;
}) {
  return (
    <article className="bg-white p-6 text-black print:p-0">
      <header className="flex items-start justify-between gap-6 border-b-2 border-black pb-3">
        <div>
          <h1 className="text-2xl">{procedure.title}</h1>
          <p className="figure text-sm">
            {procedure.id}, version {procedure.version}
          </p>
          <dl className="mt-2 grid grid-cols-[auto_minmax(0,1fr)] gap-x-3 text-sm">
            {[
              ["Machine", machine ? `${machine.name}, ${machine.tag}` : ""],
              ["Serial", machine?.serial ?? ""],
              ["Site", machine ? `${machine.siteName}${machine.area ? `, ${machine.area}` : ""}` : ""],
              ["Technician", ""],
              ["From, to", ""],
            ].map(([name, value]) => (
              <div key={name} className="contents">
                <dt className="font-semibold">{name}</dt>
                <dd className="max-w-full border-b print:min-w-60 sm:min-w-60 border-black/50">{value || " "}</dd>
              </div>
            ))}
          </dl>
        </div>
        {machine && <img src={machine.tagSrc} alt={`Tag ${machine.tag}`} width={130} height={130} />}
      </header>
      <ul className="my-3 flex flex-wrap gap-x-6 gap-y-1 text-sm">
        {procedure.hazards.map((hazard) => (
          <li key={hazard.text} className="flex items-center gap-2">
            <SafetySign kind={hazard.kind} size={28} />
            {hazard.text}
          </li>
        ))}
      </ul>
      <ToBring procedure={procedure} />
      <table className="mt-3 w-full border-collapse text-sm">
        <thead>
          <tr className="border-b-2 border-black text-left">
            <th scope="col" className="w-8 py-1">
              No.
            </th>
            <th scope="col">Step</th>
            <th scope="col" className="w-36 sm:w-56 print:w-56">
              Write here
            </th>
          </tr>
        </thead>
        <tbody>
          {procedure.steps.map((step, i) => (
            <tr key={step.id} className="break-inside-avoid border-b border-black/40 align-top">
              <td className="figure py-2">{i + 1}</td>
              <td className="py-2 pr-3">
                {step.area && step.area !== procedure.steps[i - 1]?.area && (
                  <p className="mb-1 w-fit border border-black/60 px-1 text-xs">{step.area}</p>
                )}
                <p className="font-semibold">{step.title}</p>
                {step.text && <p>{step.text}</p>}
                {wantsOnPaper(step, procedure).map((line) => (
                  <p key={line} className="text-black/70">
                    {line}
                  </p>
                ))}
                <Only words={onlyWords(step, procedure)} />
                <Drawn step={step} first={firstDrawn(procedure.steps, step)} />
              </td>
              <td className="py-2">
                <Place procedure={procedure} step={step} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {isTuned({ who: procedure.who, rules: procedure.plan }) && (
        <p className="mt-4 flex flex-wrap gap-x-6 text-sm">
          <span className="font-semibold">How was it found?</span>
          {FOUND.map(({ name, means }) => box(`${name}: ${means}`))}
        </p>
      )}
      <div className="mt-5 grid grid-cols-2 gap-8 break-inside-avoid text-sm">
        {["Found, left for next time", "Parts and materials with lots"].map((name) => (
          <div key={name}>
            <p className="font-semibold">{name}</p>
            {[1, 2, 3].map((line) => (
              <p key={line} className="h-7 border-b border-black/50" />
            ))}
          </div>
        ))}
        {["Technician, date", "Customer, name"].map((name) => (
          <p key={name} className="mt-6 border-t border-black pt-1">
            {name}
          </p>
        ))}
      </div>
    </article>
  );
}

/** What is worn and brought, each list that has something. */
function ToBring({ procedure }: { procedure: Procedure }) {
  const parts = partsOnPaper(procedure);
  const lists: [string, readonly string[]][] = [
    ["Wear", procedure.protective],
    ["Tools", procedure.tools],
    ["Materials", procedure.materials.map((one) => `${one.name} ${one.qty} ${one.unit}`)],
    ["Parts", parts.sure],
    ["Parts, if found so", parts.perhaps],
  ];
  return (
    <dl className="grid grid-cols-[auto_minmax(0,1fr)] gap-x-3 text-sm">
      {lists
        .filter(([, things]) => things.length > 0)
        .map(([name, things]) => (
          <div key={name} className="contents">
            <dt className="font-semibold">{name}</dt>
            <dd>{things.join(", ")}</dd>
          </div>
        ))}
    </dl>
  );
}

/** A drawing stands once; a later step names the first that has it. */
function Drawn({ step, first }: { step: Step; first: number }) {
  if (!step.figure) return null;
  if (first > 0) return <p>Drawing: no. {first}</p>;
  return (
    // As wide as the column is, and no wider: on a phone it is narrow.
    <div className="[contain:inline-size] [&_svg]:h-auto [&_svg]:max-w-full">
      <StepFigure figure={step.figure} />
    </div>
  );
}

/** Number of an earlier step with the same drawing; 0 when there is none. */
function firstDrawn(steps: readonly Step[], step: Step): number {
  const drawn = JSON.stringify(step.figure);
  const first = steps.findIndex((one) => JSON.stringify(one.figure) === drawn);
  return steps[first] === step ? 0 : first + 1;
}

function Only({ words }: { words: string }) {
  return words === "" ? null : <p className="italic">only {words}</p>;
}

const LINE = <span className="inline-block w-16 border-b border-black">&nbsp;</span>;

/** A square to tick. */
const box = (label: string) => (
  <span key={label} className="mr-3 inline-flex items-center gap-1">
    <span className="inline-block size-4 border-2 border-black" /> {label}
  </span>
);

function Place({ procedure, step }: { procedure: Procedure; step: Step }) {
  switch (step.kind) {
    case "measure":
      return (
        <>
          {(step.points ?? (step.trials ? Array.from({ length: step.trials }, (_, i) => `run ${i + 1}`) : [""])).map(
            (point) => (
              <span key={point} className="mr-2 mb-1 inline-block">
                {point} {LINE} {step.unit}
              </span>
            ),
          )}
        </>
      );
    case "wait":
      return (
        <>
          from {LINE} to {LINE}
        </>
      );
    case "inspect":
      return <>{[box("as it should be"), box("not so")]}</>;
    case "choose":
      return <>{step.schools.map((one) => box(one.name))}</>;
    case "decide":
      return <>{step.branches.map((one) => box(one.name))}</>;
    case "safety":
      return (
        <>
          {box("safe")}
          {step.coolDown?.belowC !== undefined && <>{LINE} °C</>}
          {timedBounds(step) && <> {LINE} min</>}
        </>
      );
    case "mix":
      return (
        <>
          {box("made up")} stock {LINE} %
        </>
      );
    case "reset":
      return <>shows {LINE}</>;
    case "replace":
      if (!step.some) return box("done");
      return <>new: {placesOf(procedure, step).map((place) => box(place.name))}</>;
    case "prove":
      // Tried one by one: each has its box.
      return (
        <>{step.functions?.map(({ name, place }) => box(place ? `${name}, ${place}` : name)) ?? box("as expected")}</>
      );
    case "count":
      return <>{Array.from({ length: Math.min(step.times, 12) }, (_, i) => box(String(i + 1)))}</>;
    case "repeat":
      return (
        <>
          {box(step.clean)} rounds {LINE}
        </>
      );
    default:
      return box("done");
  }
}
