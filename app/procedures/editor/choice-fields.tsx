import type { Choice } from "./field-kinds";
import { Says } from "./text-field";

/** One of several. What is set and not among them any more stays, and says so. */
export function PickField({
  id,
  label,
  hint,
  value,
  choices,
  none = "none",
  required = false,
  onValue,
}: {
  id: string;
  label: string;
  hint?: string | undefined;
  value: unknown;
  choices: readonly Choice[];
  none?: string;
  required?: boolean;
  onValue: (value: string | undefined) => void;
}) {
  const chosen = typeof value === "string" || typeof value === "number" ? String(value) : "";
  const isKnown = chosen === "" || choices.some((one) => one.id === chosen);
  return (
    <div>
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      <select
        id={id}
        className="field"
        value={chosen}
        aria-invalid={!isKnown}
        aria-describedby={`${id}-says`}
        onChange={(event) => onValue(event.target.value || undefined)}
      >
        {(!required || chosen === "") && <option value="">{required ? "choose" : none}</option>}
        {!isKnown && <option value={chosen}>{chosen} (is not there)</option>}
        {choices.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </select>
      <Says
        id={id}
        fault={isKnown ? "" : "This is not there any more."}
        hint={choices.length === 0 ? "There is none yet." : hint}
      />
    </div>
  );
}

/** More than these to tick are a list to take from. */
const MOST_TICKED = 8;

/** Some of several, kept in their order. */
export function SomeField({
  id,
  label,
  hint,
  value,
  choices,
  onValue,
}: {
  id: string;
  label: string;
  hint?: string | undefined;
  value: unknown;
  choices: readonly Choice[];
  onValue: (value: string[]) => void;
}) {
  const chosen = Array.isArray(value) ? value.map(String) : [];
  const lost = chosen.filter((one) => !choices.some(({ id: known }) => known === one));
  const all = [...choices, ...lost.map((one) => ({ id: one, name: `${one} (is not there)` }))];
  const set = (which: string, on: boolean): void =>
    onValue(
      on
        ? all.map((one) => one.id).filter((one) => one === which || chosen.includes(one))
        : chosen.filter((one) => one !== which),
    );
  const shown = all.length <= MOST_TICKED ? all : all.filter((one) => chosen.includes(one.id));
  const rest = all.filter((one) => !chosen.includes(one.id));
  return (
    <fieldset className="sm:col-span-2" aria-describedby={`${id}-says`}>
      <legend className="mb-1 font-semibold">{label}</legend>
      <div className="flex flex-wrap gap-x-5">
        {shown.map((one) => (
          <label key={one.id} className="flex min-h-11 items-center gap-2">
            <input
              type="checkbox"
              className="size-5 accent-(--fill)"
              checked={chosen.includes(one.id)}
              onChange={(event) => set(one.id, event.target.checked)}
            />
            {one.name}
          </label>
        ))}
      </div>
      {all.length > MOST_TICKED && rest.length > 0 && (
        <select
          aria-label={`${label}: add`}
          className="field max-w-sm"
          value=""
          onChange={(event) => event.target.value && set(event.target.value, true)}
        >
          <option value="">add …</option>
          {rest.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      )}
      <Says
        id={id}
        fault={lost.length > 0 ? "What is not there any more has to be taken out." : ""}
        hint={all.length === 0 ? `There is none yet. ${hint ?? ""}` : hint}
      />
    </fieldset>
  );
}
