import { clsx } from "clsx";
import { type ReactNode, useState } from "react";
import { Form, Link } from "react-router";

import { outcomeName } from "~/kit/outcomes";
import { EXCEPTIONS } from "~/sheet/summaries/exceptions";
import { Disclosure } from "~/ui/disclosure";
import { familyName } from "~/ui/family-names";

import type { Data } from "./book-data";
import { asQuery, type Narrowed, type NarrowedBy, RECORD_OUTCOMES } from "./search-schema";

/** How the book is narrowed: everything stands in the address, so that a search can be kept and sent. */
export function NarrowBook({ narrowed, said, choices, spans }: Pick<Data, "narrowed" | "said" | "choices" | "spans">) {
  const query = asQuery(narrowed);
  // On a phone what was found comes first: the fields are there again when they are wanted.
  const [wanted, setWanted] = useState(false);
  const folded = Object.keys(query).length > 0 && !wanted;
  const typed = (by: NarrowedBy): string => said.find((one) => one.by === by)?.typed ?? narrowed[by] ?? "";
  const { people, families, procedures, instruments } = choices;
  return (
    <search className="no-print mb-4">
      {/* Anew for another search: its fields show what is searched for. */}
      {folded && (
        <button type="button" className="btn mb-2 sm:hidden" aria-expanded={false} onClick={() => setWanted(true)}>
          Change the search
        </button>
      )}
      <Form
        method="get"
        key={JSON.stringify(query)}
        className={clsx("space-y-2", folded && "max-sm:hidden")}
        onSubmit={() => setWanted(false)}
      >
        <div className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2 sm:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto]">
          <Typed by="machine" label="Machine: tag, serial or name" typed={typed} wide />
          <Typed by="q" label="In notes, findings and reasons" typed={typed} type="search" />
          <button className="btn btn-main">Find</button>
        </div>
        <Disclosure
          title="More to find by"
          label="More to find by: days, site, customer, person, family, procedure, part, lot, instrument, outcome, exceptions"
        >
          <div className="grid gap-2 pb-2 sm:grid-cols-2 lg:grid-cols-4">
            <Typed by="from" label="From" typed={typed} type="date" />
            <Typed by="to" label="To" typed={typed} type="date" />
            <Typed by="site" label="Site" typed={typed} />
            <Typed by="customer" label="Customer" typed={typed} />
            <Typed by="item" label="Part or material" typed={typed} />
            <Typed by="lot" label="Lot" typed={typed} />
            <Choose by="person" label="Worked on by" narrowed={narrowed} any="Anybody">
              {people.map((one) => [one.id, one.name])}
            </Choose>
            <Choose by="family" label="Family" narrowed={narrowed} any="All families">
              {families.map((one) => [one, familyName(one)])}
            </Choose>
            <Choose by="procedure" label="Procedure" narrowed={narrowed} any="All procedures">
              {procedures.map((one) => [one.id, one.title])}
            </Choose>
            <Choose by="instrument" label="Measured with" narrowed={narrowed} any="Any instrument">
              {instruments.map((one) => [one.id, one.name])}
            </Choose>
            <Choose by="outcome" label="Outcome" narrowed={narrowed} any="Any outcome">
              {RECORD_OUTCOMES.map((one) => [one, one === "signed" ? "Done and signed" : outcomeName(one)])}
            </Choose>
            <Choose by="with" label="Exceptions" narrowed={narrowed} any="With or without">
              {[["any", "With any exception"], ...EXCEPTIONS.map(([name, , words]) => [name, words] as const)]}
            </Choose>
          </div>
        </Disclosure>
      </Form>
      <ul className="flex flex-wrap gap-x-4" aria-label="Spans">
        {spans.map((span, i) => {
          const { from, to } = narrowed;
          const current = from === span.from && to === span.to;
          return (
            <li key={span.name} className={clsx(i > 3 && "hidden sm:block")}>
              <Link
                to={{ search: `?${new URLSearchParams(asQuery({ ...narrowed, from: span.from, to: span.to }))}` }}
                aria-current={current ? "true" : undefined}
                className={clsx("inline-block min-h-11 py-2", current && "font-bold")}
                preventScrollReset
              >
                {span.name}
              </Link>
            </li>
          );
        })}
      </ul>
    </search>
  );
}

/** Typed: what is searched for stands in it. */
function Typed({
  by,
  label,
  typed,
  type,
  wide = false,
}: {
  by: NarrowedBy;
  label: string;
  typed: (by: NarrowedBy) => string;
  type?: "search" | "date";
  wide?: boolean;
}) {
  return (
    <Field by={by} label={label} wide={wide}>
      <input id={by} name={by} type={type} className="field" defaultValue={typed(by)} />
    </Field>
  );
}

function Field({
  by,
  label,
  wide = false,
  children,
}: {
  by: NarrowedBy;
  label: string;
  /** All of a phone's width. */
  wide?: boolean;
  children: ReactNode;
}) {
  return (
    <div className={clsx("min-w-0", wide && "col-span-2 sm:col-span-1")}>
      <label htmlFor={by} className="block text-sm font-semibold">
        {label}
      </label>
      {children}
    </div>
  );
}

function Choose({
  by,
  label,
  narrowed,
  any,
  children,
}: {
  by: NarrowedBy;
  label: string;
  narrowed: Narrowed;
  any: string;
  children: (readonly [value: string, words: string])[];
}) {
  const chosen = narrowed[by] ?? "";
  const known = chosen === "" || children.some(([value]) => value === chosen);
  return (
    <Field by={by} label={label}>
      <select id={by} name={by} className="field" defaultValue={chosen}>
        <option value="">{any}</option>
        {!known && <option value={chosen}>As it is chosen</option>}
        {children.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
    </Field>
  );
}
