import { freeName, type Procedure, shortName } from "@core";

import type { Choice } from "./field-kinds";

type Row = Readonly<Record<string, unknown>>;

/**
 * The id of a row whose name was typed: it follows the name until something else in the procedure refers to it, and is another
 * than those of the rows beside it. What is known by that name keeps the id it has.
 */
export function idOfRow(
  row: Row,
  name: string,
  {
    key,
    rows,
    procedure,
    known = [],
    field = "name",
    longest = 60,
  }: {
    key: "id" | "item";
    rows: readonly Row[];
    procedure: Procedure;
    known?: readonly Choice[];
    /** What names the row. */
    field?: string;
    longest?: number;
  },
): string {
  const id = textOf(row[key]);
  const short = (text: string): string => shortName(text).slice(0, longest).replace(/-+$/, "");
  const former = short(textOf(row[field]));
  const follows = id === "" || ((id === former || /^-\d+$/.test(id.slice(former.length))) && id.startsWith(former));
  if (!follows || (id !== "" && timesNamed(procedure, id) > 1)) return id;
  const found = known.find((one) => one.name === name);
  const wanted = found?.id ?? short(name);
  if (wanted === "") return "";
  const taken = new Set(rows.filter((one) => one !== row).map((one) => one[key]));
  return found ? wanted : freeName(wanted, taken);
}

/** How often an id stands in a procedure, its own place included. */
function timesNamed(procedure: Procedure, id: string): number {
  return JSON.stringify(procedure).split(JSON.stringify(id)).length - 1;
}

const textOf = (value: unknown): string => (typeof value === "string" ? value : "");
