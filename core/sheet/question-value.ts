import { plainNumber } from "../numbers";
import { type Plausible, plausible, type PlausibleInput } from "../readings/plausible";
import { possibleOf, type Span } from "../readings/possible";
import { possibleOnStep } from "./judge";
import type { Procedure, Step } from "./procedure";

/** What was read on a machine before, by meter and by reading. */
export type PastValues = Readonly<Record<string, PlausibleInput["history"]>>;

/** What a step's value is of: face of a meter, a reading kept over the years, or nothing that is kept. */
export function valueOfStep(
  procedure: Pick<Procedure, "meters">,
  step: Step,
): { name: string | null; unit: string; kind: "level" | "meter" } {
  const meterUnit = (id: string): string => procedure.meters.find((one) => one.id === id)?.unit ?? "";
  if (step.kind === "safety") return { name: null, unit: "°C", kind: "level" };
  // A counter that was set back is held against what it has to show.
  if (step.kind === "reset") return { name: null, unit: meterUnit(step.meter), kind: "level" };
  if (step.kind !== "measure") return { name: null, unit: "", kind: "level" };
  if (step.meter !== undefined) return { name: step.meter, unit: step.unit, kind: "meter" };
  return { name: step.reading, unit: step.unit, kind: "level" };
}

/**
 * Whether a value that is typed or sent for a step can be, and is what the machine shows: by what its procedure says is
 * possible, by physics, and by what was read before.
 *
 * @param on day of the reading
 * @throws CoreError as `plausible` does
 */
export function questionValue(
  procedure: Pick<Procedure, "meters">,
  step: Step,
  value: number,
  { past, on }: { past: PastValues; on: string },
): Plausible {
  const { name, unit, kind } = valueOfStep(procedure, step);
  const [low, high] = possibleOf(unit);
  const [least, most] = possibleOnStep(step);
  const floor = kind === "meter" ? 0 : low;
  const possible: Span = [least ?? floor, most ?? high];
  const judged = plausible({
    value,
    unit,
    on,
    kind,
    possible,
    history: (name === null ? undefined : past[name]) ?? [],
  });
  const against =
    kind === "meter" && judged.verdict !== "impossible" ? againstOthers(procedure, name, value, { past, on }) : null;
  return against === null ? judged : { ...judged, verdict: "unusual", because: against };
}

/**
 * Meters that run within one another: cutting hours are no more than spindle hours, those no more than hours of power. Held
 * against one another while they were so at their last values: one that was replaced counts from elsewhere.
 */
function againstOthers(
  { meters }: Pick<Procedure, "meters">,
  name: string | null,
  value: number,
  { past, on }: { past: PastValues; on: string },
): string | null {
  const lastOf = (id: string): number | null => latest(past[id] ?? [], on)?.value ?? null;
  for (const inner of meters) {
    const outer = meters.find((one) => one.id === inner.within);
    if (!outer || (inner.id !== name && outer.id !== name)) continue;
    const [innerLast, outerLast] = [lastOf(inner.id), lastOf(outer.id)];
    if (innerLast === null || outerLast === null || innerLast > outerLast) continue;
    if (outer.id === name) {
      if (value < innerLast)
        return `${value} ${outer.unit} is less than ${inner.name} showed, ${innerLast}: they run only while this one runs.`;
      continue;
    }
    const { usual } = plausible({
      value: outerLast,
      unit: outer.unit,
      on,
      kind: "meter",
      history: past[outer.id] ?? [],
    });
    const most = usual?.[1] ?? Infinity;
    if (value > most)
      return `${value} ${inner.unit} is more than ${outer.name} can show by now, ${plainNumber(most)}: it runs only while that one runs.`;
  }
  return null;
}

/** The last of what was read up to a day. */
const latest = (history: PastValues[string], on: string): PastValues[string][number] | undefined =>
  history
    .filter((one) => one.on <= on)
    .sort((a, b) => (a.on < b.on ? -1 : a.on > b.on ? 1 : a.value - b.value))
    .at(-1);

/**
 * Of two readings of what was typed, the one that can be meant: when one of them is what the machine shows and the other is
 * not.
 *
 * @returns null when both may be meant, or neither
 */
export function meantValue(values: readonly [number, number], judge: (value: number) => Plausible): number | null {
  const good = values.filter((value) => ["usual", "unknown"].includes(judge(value).verdict));
  return good.length === 1 ? (good[0] ?? null) : null;
}
