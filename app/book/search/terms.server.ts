import { getDb, type LinkKind } from "@db";

import { UUID } from "~/kit/forms/fields";
import { outcomeName } from "~/kit/outcomes";
import { likeText } from "~/kit/server/like-text.server";
import { sitesCalled } from "~/machines/sites/sites-called.server";
import { exceptionName, EXCEPTIONS } from "~/sheet/summaries/exceptions";
import { lotKey, wordsIn } from "~/sheet/summaries/summary-of";
import { listItems } from "~/stores/items/catalogue.server";
import { familyName } from "~/ui/family-names";

import type { Narrowed, NarrowedBy } from "./search-schema";
import * as sql from "./terms.sql";

/** Something that a record has: one of its own facts, or one of those that it may have several of. Any of the values will do. */
export type Term =
  | { of: "record"; field: "machine" | "site" | "customer" | "family" | "procedure" | "outcome"; values: string[] }
  | { of: "link"; field: LinkKind; values: string[] };

export interface Understood {
  terms: Term[];
  from: string | null;
  to: string | null;
  /** What it was narrowed by, in words, each to be taken away. */
  said: {
    by: NarrowedBy;
    words: string;
    /** What a person types to mean the same. */
    typed: string;
  }[];
  /** Why nothing can be found. */
  problem: string | null;
}

/** Most machines, sites, customers or items that one text may mean. */
const MOST_MEANT = 20;
/** Most words that may begin as one word was typed. */
const MOST_FORMS = 20;
const MOST_WORDS = 6;

/** Nothing is found, and why. */
class NothingMeant extends Error {}

interface Read {
  terms: Term[];
  words: string;
  typed?: string | undefined;
}

/** What a narrowing means: the texts in it looked up, a few queries side by side. */
export async function understand(narrowed: Narrowed): Promise<Understood> {
  const { from = null, to = null } = narrowed;
  const understood: Understood = { terms: [], from, to, said: [], problem: null };
  if (from !== null && to !== null && from > to)
    return { ...understood, problem: "The last day comes before the first. Turn them round." };
  const asked = (Object.keys(READERS) as (keyof typeof READERS)[]).flatMap((by) => {
    const value = narrowed[by];
    return value ? [{ by, value }] : [];
  });
  const read = await Promise.allSettled(asked.map(async ({ by, value }) => READERS[by](value)));
  for (const [i, one] of read.entries()) {
    const { by, value } = asked[i] as (typeof asked)[number];
    if (one.status === "fulfilled") {
      understood.terms.push(...one.value.terms);
      understood.said.push({ by, words: one.value.words, typed: one.value.typed ?? value });
    } else if (one.reason instanceof NothingMeant) {
      understood.problem ??= one.reason.message;
      understood.said.push({ by, words: `“${value}”`, typed: value });
    } else throw one.reason;
  }
  return understood;
}

const READERS: Record<Exclude<NarrowedBy, "from" | "to">, (value: string) => Read | Promise<Read>> = {
  async machine(value) {
    const rows = UUID.test(value) ? await machineOfId(value) : await machinesMeant(value);
    return { ...meant("machine", "machine", value, rows), ...(rows.length === 1 ? { typed: rows[0]?.tag } : {}) };
  },
  async site(value) {
    const rows = UUID.test(value)
      ? await getDb().models.Site.findAll({ attributes: ["id", "name"], where: { id: value }, raw: true })
      : await sitesCalled(value, MOST_MEANT + 1);
    return meant("site", "site", value, rows);
  },
  async customer(value) {
    const rows = UUID.test(value)
      ? await getDb().models.Customer.findAll({ attributes: ["id", "name"], where: { id: value }, raw: true })
      : await sql.customersLike(`% ${likeText(value)}%`, MOST_MEANT + 1);
    return meant("customer", "customer", value, rows);
  },
  async item(value) {
    const exact = await getDb().models.Item.findAll({ attributes: ["id", "name"], where: { id: value }, raw: true });
    const rows = exact.length > 0 ? exact : (await listItems({ q: value, after: null, limit: MOST_MEANT + 1 })).rows;
    return meant("item", "part", value, rows);
  },
  async q(value) {
    const words = wordsIn(value).slice(0, MOST_WORDS);
    if (words.length === 0) throw new NothingMeant("Type a word that stands in a note, a finding or a reason.");
    const terms = await Promise.all(
      words.map(async (word): Promise<Term> => ({ of: "link", field: "word", values: await formsOf(word) })),
    );
    return { terms, words: `“${value}”` };
  },
  lot(value) {
    return one({ of: "link", field: "lot", values: [lotKey(value)] }, `Lot ${value}`);
  },
  async person(value) {
    const person = await getDb().models.Person.findByPk(value, { attributes: ["name"], raw: true });
    return one({ of: "link", field: "person", values: [value] }, person?.name ?? "Somebody who is not there");
  },
  async instrument(value) {
    const row = await getDb().models.Instrument.findByPk(value, { attributes: ["code", "name"], raw: true });
    return one(
      { of: "link", field: "instrument", values: [value] },
      row ? `${row.name} ${row.code}` : "An instrument that is not there",
    );
  },
  family(value) {
    return one({ of: "record", field: "family", values: [value] }, familyName(value));
  },
  async procedure(value) {
    const row = await getDb().models.Procedure.findOne({
      attributes: ["title"],
      where: { id: value },
      order: [["version", "DESC"]],
      raw: true,
    });
    return one({ of: "record", field: "procedure", values: [value] }, row?.title ?? value);
  },
  outcome(value) {
    return one(
      { of: "record", field: "outcome", values: [value] },
      value === "signed" ? "Done and signed" : outcomeName(value),
    );
  },
  with(value) {
    const known = EXCEPTIONS.find(([name]) => name === value)?.[0];
    return one({ of: "link", field: "exception", values: [value] }, known ? exceptionName(known) : "With exceptions");
  },
};

/** Words that begin like one; of a beginning that very many have, the whole word alone. */
async function formsOf(word: string): Promise<string[]> {
  const forms: string[] = [];
  for (let after = ""; forms.length <= MOST_FORMS;) {
    const [next] = await sql.wordAfter({ after, like: `${likeText(word)}%` });
    if (!next) return forms.length > 0 ? forms : [word];
    forms.push(next.value);
    after = next.value;
  }
  return [word];
}

function one(term: Term, words: string): Read {
  return { terms: [term], words };
}

function meant(
  field: "machine" | "site" | "customer" | "item",
  called: string,
  value: string,
  found: readonly { id: string; name: string; called?: string }[],
): Read {
  // What is called exactly so is meant before what only begins so.
  const exact = found.filter((row) => (row.called ?? row.name).toLowerCase() === value.toLowerCase());
  const rows = exact.length > 0 ? exact : found;
  const [first] = rows;
  if (!first) throw new NothingMeant(`There is no ${called} “${value}”. Try the beginning of its name.`);
  if (rows.length > MOST_MEANT)
    throw new NothingMeant(`More than ${MOST_MEANT} ${called}s are called “${value}”. Type more of it.`);
  const values = rows.map((row) => row.id);
  const words = rows.length === 1 ? first.name : `${rows.length} ${called}s “${value}”`;
  return {
    ...one(field === "item" ? { of: "link", field, values } : { of: "record", field, values }, words),
    ...(rows.length === 1 && field !== "machine" ? { typed: first.name } : {}),
  };
}

async function machineOfId(id: string): Promise<{ id: string; name: string; tag: string }[]> {
  const row = await getDb().models.Machine.findByPk(id, { attributes: ["name", "tag"], raw: true });
  return row ? [{ id, name: `${row.name} ${row.tag}`, tag: row.tag }] : [];
}

/** A tag or serial number as it is, or was when work was done; else words of the name. */
async function machinesMeant(value: string): Promise<{ id: string; name: string; tag: string }[]> {
  const exact = await sql.machinesOfNumber({ number: value });
  if (exact.length > 0) return exact;
  const words = (value.match(/[\p{L}\p{N}]+/gu) ?? []).map((word) => `+${word}*`).join(" ");
  return sql.machinesLike({ words, prefix: `${likeText(value)}%` }, MOST_MEANT + 1);
}
