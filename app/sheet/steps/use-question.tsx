import { type AskedValue, meantValue, type Plausible, questionValue, readNumber, valueOfStep } from "@core";
import { useEffect, useRef, useState } from "react";

import { shortDay } from "~/kit/days/day-time";
import { asTyped, ownFormat } from "~/kit/forms/number-format";
import { toNumber } from "~/kit/forms/to-number";
import { useSheetFacts } from "~/sheet/sheet-facts";

import type { StepCardProps } from "./step-props";

/** What a field says of what was typed into it. */
export interface Typed {
  value: number | null;
  /** Why it cannot be taken. */
  fault: string | null;
  /** What it can mean, when it can mean two things. */
  choices: readonly [number, number] | null;
}

interface Given {
  label: string;
  value: number;
  /** Id of the field that it was typed into. */
  field: string;
}

interface Odd extends Given {
  judged: Plausible;
}

interface Asking {
  odd: readonly Odd[];
  go: (askedOf: (value: number) => AskedValue | null) => void;
}

const NOTHING: Typed = { value: null, fault: null, choices: null };

/**
 * Questions what is typed into a step: what cannot be is refused with its reason, what is not usual is asked about once, with
 * the last values and what was expected beside it.
 */
export function useQuestion({ procedure, one, ghosts }: Pick<StepCardProps, "procedure" | "one" | "ghosts">) {
  const { today } = useSheetFacts();
  const [asking, setAsking] = useState<Asking | null>(null);
  const { name, unit, kind } = valueOfStep(procedure, one.definition);
  const past = (name === null ? undefined : ghosts[name]) ?? [];
  const judge = (value: number): Plausible =>
    questionValue(procedure, one.definition, value, { past: ghosts, on: today });

  /** `as` converts from the unit that it is typed in. */
  const read = (text: string | undefined, as = (value: number): number => value): Typed => {
    if (text === undefined || text.trim() === "") return NOTHING;
    const typed = readNumber(text, ownFormat());
    if (typed.kind === "none") return { ...NOTHING, fault: "This is no figure: digits with a point or a comma." };
    const judgeTyped = (value: number): Plausible => judge(as(value));
    const meant = typed.kind === "number" ? typed.value : meantValue(typed.values, judgeTyped);
    if (meant === null) return { ...NOTHING, choices: typed.kind === "ambiguous" ? typed.values : null };
    const { verdict, because } = judgeTyped(meant);
    return verdict === "impossible" ? { ...NOTHING, fault: because } : { ...NOTHING, value: as(meant) };
  };

  /** Goes on at once when nothing is odd, else when the person has answered. */
  const ask = (values: readonly Given[], go: Asking["go"]): void => {
    const odd = values
      .map((one) => ({ ...one, judged: judge(one.value) }))
      .filter((one) => one.judged.verdict === "unusual");
    if (odd.length === 0) go(() => null);
    else setAsking({ odd, go });
  };

  const answered = (answer: AskedValue | null): void => {
    const current = asking;
    setAsking(null);
    // Typed wrong: back to the figure, to type over it.
    if (current && !answer) selectField(current.odd[0]?.field ?? "");
    if (current && answer) current.go((value) => (current.odd.some((one) => one.value === value) ? answer : null));
  };
  const panel = asking && (
    <Question
      asking={asking}
      unit={unit}
      last={past.slice(-3).map(({ on, value }) => `${value} on ${shortDay(on, today)}`)}
      meter={kind === "meter" ? (past.at(-1)?.value ?? null) : null}
      onAnswer={answered}
    />
  );
  return { read, ask, panel, asking: asking !== null, close: () => setAsking(null) };
}

function selectField(id: string): void {
  const field = document.getElementById(id);
  field?.focus();
  if (field instanceof HTMLInputElement) field.select();
}

/** Asked once: was it typed wrong, is it right, or is it another meter? */
function Question({
  asking: { odd },
  unit,
  last,
  meter,
  onAnswer,
}: {
  asking: Asking;
  unit: string;
  last: readonly string[];
  /** Of a meter: its last value. */
  meter: number | null;
  onAnswer: (answer: AskedValue | null) => void;
}) {
  const heading = useRef<HTMLHeadingElement>(null);
  const [replaced, setReplaced] = useState(false);
  const [old, setOld] = useState("");
  useEffect(() => {
    heading.current?.focus();
  }, []);
  const oldValue = toNumber(old);
  const oldWrong = old.trim() !== "" && (oldValue === null || (meter !== null && oldValue < meter));
  return (
    <section aria-labelledby="question" className="mb-4 border-4 border-ink p-3">
      <h3 id="question" ref={heading} tabIndex={-1} className="text-xl">
        {odd.map((one) => `${one.label === "" ? "" : `${one.label}: `}${one.value} ${unit}`).join(", ")}?
      </h3>
      <p className="mt-1">
        {last.length > 0 && `Before: ${last.join(", ")}. `}
        {odd
          .map(({ judged: { usual } }) => usual)
          .slice(0, 1)
          .map((usual) => usual && expected(usual, unit))}
      </p>
      <div className="mt-3 flex flex-wrap gap-2">
        <button type="button" className="btn btn-big" onClick={() => onAnswer(null)}>
          Typed wrong
        </button>
        <button type="button" className="btn btn-big" onClick={() => onAnswer({ answer: "right" })}>
          It is right
        </button>
        {meter !== null && odd.some((one) => one.value < meter) && (
          <button type="button" className="btn btn-big" aria-expanded={replaced} onClick={() => setReplaced(!replaced)}>
            The meter was replaced
          </button>
        )}
      </div>
      {replaced && (
        <div className="mt-3 flex flex-wrap items-end gap-3">
          <div>
            <label htmlFor="old-meter" className="mb-1 block font-semibold">
              The old one showed at last
            </label>
            <span className="flex items-center gap-2">
              <input
                id="old-meter"
                className="field figure max-w-44 text-2xl"
                inputMode="decimal"
                autoComplete="off"
                aria-invalid={oldWrong}
                aria-describedby="old-meter-says"
                value={old}
                onChange={(event) => setOld(event.target.value)}
              />
              {unit}
            </span>
            <p id="old-meter-says" className="mt-1 min-h-6 text-sm">
              {oldWrong ? `! At least ${meter ?? 0}, which it showed already.` : "Empty if it cannot be read any more."}
            </p>
          </div>
          <button
            type="button"
            className="btn btn-big"
            aria-disabled={oldWrong}
            onClick={() => !oldWrong && onAnswer({ answer: "replaced", ...(oldValue === null ? {} : { oldValue }) })}
          >
            Log the new meter
          </button>
        </div>
      )}
    </section>
  );
}

const rounded = (value: number): number => Number(value.toPrecision(4));

function expected([low, high]: NonNullable<Plausible["usual"]>, unit: string): string {
  if (low !== null && high !== null) return `Expected: ${rounded(low)} to ${rounded(high)} ${unit}.`;
  return low === null ? "" : `Expected: ${rounded(low)} ${unit} or more.`;
}

/** What a typed figure can mean, one press each. */
export function Choices({ choices, onChoice }: { choices: Typed["choices"]; onChoice: (text: string) => void }) {
  if (!choices) return null;
  return (
    <span className="flex flex-wrap items-center gap-2">
      <strong>Which is it?</strong>
      {choices.map((value) => (
        <button key={value} type="button" className="btn figure" onClick={() => onChoice(asTyped(value, ownFormat()))}>
          {value}
        </button>
      ))}
    </span>
  );
}
