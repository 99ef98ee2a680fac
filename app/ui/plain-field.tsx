import type { InputHTMLAttributes, ReactNode } from "react";

/** A labelled input with its error, for small forms that stand several on a page. */
export function PlainField({
  id,
  label,
  hint,
  answer,
  className,
  children,
  ...input
}: {
  id: string;
  label: string;
  hint?: string;
  answer: string[] | undefined;
  /** Another control in the place of the input; gets nothing, sets its own id. */
  children?: ReactNode;
} & InputHTMLAttributes<HTMLInputElement>) {
  const described = [hint ? `${id}-hint` : "", answer ? `${id}-error` : ""].filter(Boolean).join(" ");
  return (
    <div className={className ?? "min-w-0"}>
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      {hint && (
        <p id={`${id}-hint`} className="mb-1 text-sm text-ink-soft">
          {hint}
        </p>
      )}
      {children ?? (
        <input
          id={id}
          className="field"
          aria-invalid={answer ? true : undefined}
          aria-describedby={described || undefined}
          {...input}
        />
      )}
      {answer && (
        <p id={`${id}-error`} role="alert" className="text-sm font-semibold">
          <span aria-hidden="true">! </span>
          {answer.join(" ")}
        </p>
      )}
    </div>
  );
}

/** A labelled choice, as PlainField. */
export function PlainSelect({
  id,
  label,
  name,
  options,
  empty,
  answer,
  defaultValue,
}: {
  id: string;
  label: string;
  name: string;
  options: readonly { id: string; name: string }[];
  /** Words for choosing nothing. */
  empty?: string;
  answer: string[] | undefined;
  defaultValue?: string | undefined;
}) {
  return (
    <PlainField id={id} label={label} answer={answer}>
      <select
        id={id}
        name={name}
        className="field"
        defaultValue={defaultValue}
        aria-invalid={answer ? true : undefined}
        aria-describedby={answer ? `${id}-error` : undefined}
      >
        {empty !== undefined && <option value="">{empty}</option>}
        {options.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </select>
    </PlainField>
  );
}
