import { type FieldMetadata, getInputProps, getSelectProps, getTextareaProps } from "@conform-to/react";
import { clsx } from "clsx";
import type { ReactNode } from "react";
import { useNavigation } from "react-router";

/** A labelled input of a Conform form; the error's line is kept free, so that nothing moves when it appears. */
export function TextField({
  field,
  label,
  hint,
  type = "text",
  autoComplete,
  inputMode,
  className,
  ...rest
}: {
  field: FieldMetadata<string | number | undefined | null>;
  label: string;
  hint?: string;
  type?: "text" | "password" | "date" | "number";
  autoComplete?: string;
  inputMode?: "decimal" | "numeric" | "text";
  className?: string;
  placeholder?: string;
  step?: string;
  autoFocus?: boolean;
  /** A datalist of the page. */
  list?: string;
  /** In the place of what the form began with. */
  defaultValue?: string;
}) {
  const { key, ...props } = getInputProps(field as FieldMetadata<string>, { type });
  return (
    <FieldFrame field={field} label={label} {...(hint ? { hint } : {})} {...(className ? { className } : {})}>
      <input
        key={key}
        {...props}
        {...rest}
        {...(autoComplete ? { autoComplete } : {})}
        {...(inputMode ? { inputMode } : {})}
        aria-describedby={describedBy(field, hint)}
        className="field"
      />
    </FieldFrame>
  );
}

export function AreaField({
  field,
  label,
  hint,
  rows = 3,
}: {
  field: FieldMetadata<string | undefined | null>;
  label: string;
  hint?: string;
  rows?: number;
}) {
  const { key, ...props } = getTextareaProps(field as FieldMetadata<string>);
  return (
    <FieldFrame field={field} label={label} {...(hint ? { hint } : {})}>
      <textarea key={key} {...props} rows={rows} aria-describedby={describedBy(field, hint)} className="field" />
    </FieldFrame>
  );
}

export function SelectField({
  field,
  label,
  hint,
  options,
}: {
  field: FieldMetadata<string | undefined | null>;
  label: string;
  hint?: string;
  options: readonly (readonly [value: string, text: string])[];
}) {
  const { key, ...props } = getSelectProps(field as FieldMetadata<string>);
  return (
    <FieldFrame field={field} label={label} {...(hint ? { hint } : {})}>
      <select key={key} {...props} aria-describedby={describedBy(field, hint)} className="field">
        {options.map(([value, text]) => (
          <option key={value} value={value}>
            {text}
          </option>
        ))}
      </select>
    </FieldFrame>
  );
}

function FieldFrame({
  field,
  label,
  hint,
  className,
  children,
}: {
  field: FieldMetadata<never> | FieldMetadata<string | number | undefined | null>;
  label: string;
  hint?: string;
  className?: string;
  children: ReactNode;
}) {
  return (
    <div className={className}>
      <label htmlFor={field.id} className="mb-1 block font-semibold">
        {label}
      </label>
      {hint && (
        <p id={`${field.id}-hint`} className="mb-1 text-sm text-ink-soft">
          {hint}
        </p>
      )}
      {children}
      <p id={field.errorId} role={field.errors ? "alert" : undefined} className="min-h-6 text-sm font-semibold">
        {field.errors && <span aria-hidden="true">! </span>}
        {field.errors?.join(" ")}
      </p>
    </div>
  );
}

function describedBy(field: { id: string; errorId: string }, hint?: string): string {
  return hint ? `${field.id}-hint ${field.errorId}` : field.errorId;
}

/** The form's main button; says that it is working, and cannot be pressed twice. */
export function SubmitButton({
  children,
  big = false,
  name,
  value,
}: {
  children: ReactNode;
  big?: boolean;
  name?: string;
  value?: string;
}) {
  const busy = useNavigation().state !== "idle";
  return (
    <button
      type="submit"
      {...(name ? { name } : {})}
      {...(value ? { value } : {})}
      className={clsx("btn btn-main", big && "btn-big w-full")}
      aria-disabled={busy}
      onClick={(event) => busy && event.preventDefault()}
    >
      {busy ? "One moment …" : children}
    </button>
  );
}
