import { type SheetStep, shownAt } from "@core";

import { bothDegrees } from "~/sheet/steps/gate-ticks";

/** What the practice machine shows at the step on the page: read it, judge it, log it. */
export function SheetShows({
  machine,
  one,
  minute,
}: {
  machine: { family: string; seed: number };
  one: SheetStep;
  /** Since the sheet was begun. */
  minute: number;
}) {
  const { definition: step, round, state } = one;
  const points = step.kind === "measure" ? (step.points?.length ?? step.trials ?? 1) : 1;
  // Once all of them are read they are measured anew.
  const attempt = Math.floor((state?.readings.length ?? 0) / points);
  const shown = shownAt(machine, step, { round, attempt, minute });
  if (!shown) return null;
  return (
    <section aria-label="The machine shows" className="mb-4 border-l-4 border-tan-fill pl-3">
      <p className="font-semibold">The machine shows</p>
      {shown.kind === "values" && (
        <ul className="figure text-lg">
          {shown.values.map((value, i) => (
            <li key={i}>
              {step.kind === "measure" && step.points?.[i] !== undefined && `${step.points[i]}: `}
              {value} {step.kind === "measure" ? step.unit : ""}
            </li>
          ))}
        </ul>
      )}
      {shown.kind === "surface" && <p className="text-lg">To the touch: {bothDegrees(shown.celsius)}</p>}
      {shown.kind === "state" && (
        <p className="text-lg">
          {shown.isGood ? goodWords(step) : step.kind === "inspect" ? `Not so. ${step.ifNot}` : "Not so"}
        </p>
      )}
      {shown.kind === "again" && <p className="text-lg">{shown.isAgain ? "Not clean yet" : "Clean"}</p>}
      {shown.kind === "worn" && (
        <p className="text-lg">Worn: {shown.slots.map((slot) => nameOfSlot(step, slot)).join(", ")}</p>
      )}
    </section>
  );
}

function goodWords(step: SheetStep["definition"]): string {
  if (step.kind === "inspect") return step.asItShouldBe;
  return step.kind === "prove" ? step.expect : "As it should be";
}

/** Its place among the step's, as the card names them by their order. */
function nameOfSlot(step: SheetStep["definition"], slot: string): string {
  const place = step.kind === "replace" ? step.slots.indexOf(slot) : -1;
  return place < 0 ? slot : slot.replaceAll("-", " ");
}
