import { createContext, useContext, useState } from "react";

import { Disclosure } from "~/ui/disclosure";

import { PickField, SomeField } from "./choice-fields";
import { type Around, emptyOf, type FieldKind, type FieldSpec, withField } from "./field-kinds";
import { idOfRow } from "./row-ids";
import { OwnField, TypedField } from "./text-field";

/** The procedure around what is edited. */
const Surroundings = createContext<Omit<Around, "within"> | null>(null);
export const EditorAround = Surroundings.Provider;

function useAround(within: Around["within"]): Around {
  const around = useContext(Surroundings);
  if (!around) throw new Error("Fields of a procedure stand inside EditorAround.");
  return { ...around, within };
}

type Record_ = Readonly<Record<string, unknown>>;

/** The fields of a record, each as its kind wants it. */
export function FieldForm({
  at,
  specs,
  value,
  rows,
  onChange,
}: {
  /** Where the record stands: its fields' ids begin with it. */
  at: string;
  specs: readonly FieldSpec[];
  value: Record_;
  /** The rows that the record is one of. */
  rows?: readonly Record_[];
  onChange: (value: Record_) => void;
}) {
  const around = useAround(value);
  const set = (spec: FieldSpec, next: unknown): void => {
    const kept = next ?? (spec.required ? (spec.kind === "yes" ? false : emptyOf(spec.kind)) : undefined);
    let record = withField(value, spec.field, kept);
    if (spec.names) {
      const known = typeof spec.kind === "object" && "pick" in spec.kind ? spec.kind.pick(around) : [];
      const { names: key } = spec;
      const name = typeof next === "string" ? next : "";
      record = withField(
        record,
        key,
        idOfRow(value, name, {
          ...{ key, rows: rows ?? [], procedure: around.procedure, known, field: spec.field },
          ...(spec.longest === undefined ? {} : { longest: spec.longest }),
        }),
      );
      const unit = around.items.find((item) => key === "item" && item.name === name)?.unit;
      if (unit && "unit" in record) record = withField(record, "unit", unit);
    }
    onChange(record);
  };
  return (
    <div className="grid gap-x-4 gap-y-3 sm:grid-cols-2">
      {specs.map((spec) => (
        <OneField
          // Chosen anew, what names the unit writes into its field.
          key={spec.field === "unit" && typeof value["item"] === "string" ? `unit of ${value["item"]}` : spec.field}
          at={`${at}-${spec.field}`}
          spec={spec}
          value={value[spec.field]}
          within={value}
          onValue={(next) => set(spec, next)}
        />
      ))}
    </div>
  );
}

function OneField({
  at,
  spec,
  value,
  within,
  onValue,
}: {
  at: string;
  spec: FieldSpec;
  value: unknown;
  within: Record_;
  onValue: (value: unknown) => void;
}) {
  const around = useAround(within);
  const { label, kind, hint, required } = spec;
  const common = { id: at, label, hint, value };
  if (kind === "yes")
    return (
      <label className="flex min-h-11 items-center gap-3 sm:col-span-2">
        <input
          type="checkbox"
          className="size-5 accent-(--fill)"
          checked={value === true}
          onChange={(event) => onValue(event.target.checked ? true : undefined)}
        />
        {label}
      </label>
    );
  if (typeof kind === "string") return <TypedField {...common} kind={kind} onValue={onValue} />;
  if ("choices" in kind)
    return (
      <PickField
        {...common}
        choices={kind.choices.map(([id, name]) => ({ id, name }))}
        required={required ?? false}
        none="not said"
        onValue={onValue}
      />
    );
  if ("pick" in kind) {
    const choices = kind.pick(around);
    if (kind.own) return <OwnField {...common} choices={choices} own={kind.own} onValue={onValue} />;
    return (
      <PickField
        {...common}
        choices={choices}
        required={required ?? false}
        onValue={(next) => onValue(next !== undefined && kind.numeric ? Number(next) : next)}
      />
    );
  }
  if ("some" in kind)
    return (
      <SomeField
        {...common}
        choices={kind.some(around)}
        onValue={(next) => onValue(next.length > 0 ? next : undefined)}
      />
    );
  if ("record" in kind) {
    const record = isRecord(value) ? value : {};
    const fields = (
      <FieldForm
        at={at}
        specs={kind.record}
        value={record}
        onChange={(next) => onValue(Object.keys(next).length > 0 ? next : undefined)}
      />
    );
    // What is not there and need not be takes a line.
    if (!required)
      return (
        <Disclosure title={label} open={isRecord(value)} className="sm:col-span-2">
          <fieldset aria-label={label} className="border-l-4 border-line pl-3">
            {hint && <p className="mb-2 text-sm text-ink-soft">{hint}</p>}
            {fields}
          </fieldset>
        </Disclosure>
      );
    return (
      <fieldset className="border-l-4 border-line pl-3 sm:col-span-2">
        <legend className="mb-2 font-semibold">{label}</legend>
        {fields}
      </fieldset>
    );
  }
  if ("list" in kind)
    return <Rows at={at} label={label} hint={hint} rows={listOf(value)} kind={kind} onRows={onValue} />;
  if (kind.many) return <Rows at={at} label={label} hint={hint} rows={listOf(value)} kind={kind} onRows={onValue} />;
  return <OneVariant at={at} label={label} value={value} kind={kind} required={required ?? false} onValue={onValue} />;
}

const isRecord = (value: unknown): value is Record_ =>
  value !== null && typeof value === "object" && !Array.isArray(value);
const listOf = (value: unknown): Record_[] => (Array.isArray(value) ? value.filter(isRecord) : []);

type ListKind = Extract<FieldKind, { list: unknown }>;
type VariantKind = Extract<FieldKind, { variants: unknown }>;

/** A value of one form or another: which, and its fields. */
function OneVariant({
  at,
  label,
  value,
  kind,
  required,
  onValue,
}: {
  at: string;
  label: string;
  value: unknown;
  kind: VariantKind;
  required: boolean;
  onValue: (value: unknown) => void;
}) {
  const which = isRecord(value) ? kind.of(value) : "";
  const variant = kind.variants[which];
  return (
    <fieldset className="border-l-4 border-line pl-3 sm:col-span-2">
      <legend className="font-semibold">{label}</legend>
      <div className="space-y-3">
        <WhichForm at={at} label={label} which={which} kind={kind} required={required} onWhich={onValue} />
        {variant && isRecord(value) && (
          <FieldForm key={which} at={`${at}-${which}`} specs={variant.fields} value={value} onChange={onValue} />
        )}
      </div>
    </fieldset>
  );
}

function WhichForm({
  at,
  label,
  which,
  kind,
  required,
  onWhich,
}: {
  at: string;
  label: string;
  which: string;
  kind: VariantKind;
  required: boolean;
  onWhich: (value: unknown) => void;
}) {
  return (
    <select
      id={`${at}-which`}
      aria-label={`${label}: which`}
      className="field max-w-sm"
      value={which}
      onChange={(event) => onWhich(kind.variants[event.target.value]?.empty)}
    >
      {(!required || which === "") && <option value="">{required ? "choose" : "none"}</option>}
      {Object.entries(kind.variants).map(([id, { name }]) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
}

/** Rows that are added, taken out and moved up. */
function Rows({
  at,
  label,
  hint,
  rows,
  kind,
  onRows,
}: {
  at: string;
  label: string;
  hint?: string | undefined;
  rows: readonly Record_[];
  kind: ListKind | VariantKind;
  onRows: (rows: readonly Record_[] | undefined) => void;
}) {
  const [keys, setKeys] = useState(() => rows.map((_, i) => i));
  const [next, setNext] = useState(rows.length);
  // What was put there from elsewhere gets keys of its own.
  if (keys.length !== rows.length) {
    setKeys(rows.map((_, i) => next + i));
    setNext(next + rows.length);
  }
  const put = (changed: readonly Record_[], places: readonly number[]): void => {
    setKeys([...places]);
    onRows(changed.length > 0 ? changed : undefined);
  };
  const add = (): void => {
    const row = "list" in kind ? (kind.empty ?? {}) : (Object.values(kind.variants)[0]?.empty ?? {});
    setNext(next + 1);
    put([...rows, row], [...keys, next]);
  };
  return (
    <fieldset className="sm:col-span-2">
      <legend className="mb-1 font-semibold">{label}</legend>
      {hint && <p className="mb-1 text-sm text-ink-soft">{hint}</p>}
      <ol className="space-y-3">
        {rows.map((row, i) => {
          const change = (record: Record_): void => onRows(rows.map((one, j) => (j === i ? record : one)));
          const name = `${kind.one} ${i + 1}`;
          return (
            <li key={keys[i] ?? i} className="border-l-4 border-line pl-3">
              {"list" in kind ? (
                <FieldForm at={`${at}-${i + 1}`} specs={kind.list} value={row} rows={rows} onChange={change} />
              ) : (
                <div className="space-y-3">
                  <WhichForm
                    at={`${at}-${i + 1}`}
                    label={`${label} ${i + 1}`}
                    which={kind.of(row)}
                    kind={kind}
                    required
                    onWhich={(value) => isRecord(value) && change(value)}
                  />
                  <FieldForm
                    key={kind.of(row)}
                    at={`${at}-${i + 1}-${kind.of(row)}`}
                    specs={kind.variants[kind.of(row)]?.fields ?? []}
                    value={row}
                    rows={rows}
                    onChange={change}
                  />
                </div>
              )}
              <div className="flex gap-4">
                <button
                  type="button"
                  aria-label={`Take out: ${name}`}
                  className="min-h-11 text-sm underline underline-offset-4"
                  onClick={() =>
                    put(
                      rows.filter((_, j) => j !== i),
                      keys.filter((_, j) => j !== i),
                    )
                  }
                >
                  Take out
                </button>
                {i > 0 && (
                  <button
                    type="button"
                    aria-label={`Move up: ${name}`}
                    className="min-h-11 text-sm underline underline-offset-4"
                    onClick={() => put(movedUp(rows, i), movedUp(keys, i))}
                  >
                    Move up
                  </button>
                )}
              </div>
            </li>
          );
        })}
      </ol>
      <button type="button" className="btn mt-2" onClick={add}>
        Add {article(kind.one)} {kind.one}
      </button>
    </fieldset>
  );
}

const article = (word: string): string => (/^[aeiou]/.test(word) ? "an" : "a");

function movedUp<T>(list: readonly T[], i: number): T[] {
  const moved = [...list];
  moved.splice(i - 1, 0, ...moved.splice(i, 1));
  return moved;
}
