import * as yup from "yup";

import { cursor, day, id, key, text } from "~/kit/forms/fields";
import { OUTCOMES } from "~/kit/outcomes";
import { EXCEPTIONS } from "~/sheet/summaries/exceptions";

/** Outcomes that a record has: the work done and signed, or why it was not done. */
export const RECORD_OUTCOMES = ["signed", ...OUTCOMES.map(([value]) => value)] as const;
const WITH = ["any", ...EXCEPTIONS.map(([name]) => name)] as const;

/** How the book is narrowed; every part is optional, and all of them hold together. */
export const narrowing = {
  /** Words of notes, findings and reasons. */
  q: text(120),
  /** Tag, serial number or name; or the id, as other pages link. */
  machine: text(160),
  site: text(160),
  customer: text(160),
  /** Who signed it, or had a hand in it. */
  person: id(),
  family: key(60),
  procedure: key(),
  item: text(160),
  lot: text(120),
  instrument: id(),
  outcome: yup.string().oneOf(RECORD_OUTCOMES),
  from: day(),
  to: day(),
  with: yup.string().oneOf(WITH),
};

export const narrowedSchema = yup.object(narrowing);
export const recordSearchSchema = yup.object({ ...narrowing, after: cursor() });

/** What narrows the book. */
export type Narrowed = yup.InferType<typeof narrowedSchema>;
export type NarrowedBy = keyof Narrowed;
export const NARROWED_BY = Object.keys(narrowing) as NarrowedBy[];

/** As it stands in an address, without what is not given. */
export function asQuery(narrowed: Narrowed): Record<string, string> {
  return Object.fromEntries(NARROWED_BY.flatMap((name) => (narrowed[name] ? [[name, narrowed[name]]] : [])));
}
