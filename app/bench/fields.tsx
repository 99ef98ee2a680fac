import { type ReactNode, useId } from "react";

import { toNumber } from "~/kit/forms/to-number";
import { Why } from "~/ui/why";

/** A figure with its unit beside it, typed with a point or a comma. */
export function FigureField({
  label,
  unit,
  value,
  onChange,
  disabled = false,
}: {
  label: string;
  unit?: string;
  value: string;
  onChange: (text: string) => void;
  disabled?: boolean;
}) {
  const id = useId();
  const wrong = value.trim() !== "" && toNumber(value) === null;
  return (
    <div>
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      <div className="flex items-center gap-2">
        <input
          id={id}
          className="field figure max-w-36 text-xl"
          inputMode="decimal"
          autoComplete="off"
          aria-invalid={wrong}
          disabled={disabled}
          value={value}
          onChange={(event) => onChange(event.target.value)}
        />
        {unit && <span>{unit}</span>}
      </div>
      {wrong && <p className="text-sm font-semibold">! This is no figure.</p>}
    </div>
  );
}

/** What a calculator came to: large, with its why and its caution. */
export function Result({
  says,
  because,
  caution,
  problem,
}: {
  says?: ReactNode;
  because?: readonly string[];
  caution?: string;
  problem?: string;
}) {
  return (
    <div className="mt-4 border-l-4 border-tan-fill pl-3" aria-live="polite">
      {problem ? (
        <p className="font-semibold">! {problem}</p>
      ) : (
        <>
          <div className="text-xl">{says}</div>
          {because && <Why because={because} />}
          {caution && <p className="mt-1 text-sm text-ink-soft">{caution}</p>}
        </>
      )}
    </div>
  );
}

/** Runs a core function on typed input: its value, or the words of its error. */
export function attempt<T>(work: () => T): { value: T; problem?: undefined } | { value?: undefined; problem: string } {
  try {
    return { value: work() };
  } catch (error) {
    return { problem: (error as Error).message };
  }
}
