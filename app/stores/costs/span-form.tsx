import { must } from "@core";
import { Form } from "react-router";

import { PlainField } from "~/ui/plain-field";

import type { CostBy } from "./costs.server";

const GROUPS: readonly (readonly [CostBy, string])[] = [
  ["site", "Site"],
  ["machine", "Machine"],
  ["family", "Family"],
];

/** What rows are of. */
export const groupName = (by: CostBy): string => must(GROUPS.find(([id]) => id === by))[1];

/** The span of a view of costs, what its rows are of, and the same as a file. */
export function SpanForm({ by, from, to, csv }: { by: CostBy; from: string; to: string; csv: string }) {
  return (
    <Form method="get" className="mb-4 flex flex-wrap items-end gap-3">
      <PlainField id="from" name="from" label="From" type="date" defaultValue={from} key={from} answer={undefined} />
      <PlainField id="to" name="to" label="Until" type="date" defaultValue={to} key={`to ${to}`} answer={undefined} />
      <div>
        <label htmlFor="by" className="mb-1 block font-semibold">
          By
        </label>
        <select id="by" name="by" defaultValue={by} className="field">
          {GROUPS.map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </div>
      <button className="btn">Show</button>
      <a href={`${csv}?${new URLSearchParams({ by, from, to })}`} className="btn">
        As CSV
      </a>
    </Form>
  );
}
