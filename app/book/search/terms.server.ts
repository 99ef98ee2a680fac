import { getDb, type LinkKind } from "@db";

import { exactFirst } from "~/kit/exact-first";
import { UUID } from "~/kit/forms/fields";
import { outcomeName } from "~/kit/outcomes";
import { likeText } from "~/kit/server/like-text.server";
import { machinesCalled } from "~/machines/machines.server";
import { customersCalled, sitesCalled } from "~/machines/sites/sites-called.server";
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
    const rows = await machinesMeant(value);
    const [first] = rows;
    const read = meant({ of: "record", field: "machine" }, "machine", value, rows);
    // By its tag alone another machine of the name is not meant.
    return rows.length === 1 && first ? { ...read, words: `${first.name} ${first.tag}`, typed: first.tag } : read;
  },
  async site(value) {
    const rows = UUID.test(value)
      ? await getDb().models.Site.findAll({ attributes: ["id", "name"], where: { id: value }, raw: true })
      : await sitesCalled(value, MOST_MEANT + 1);
    return meant({ of: "record", field: "site" }, "site", value, rows);
  },
  async customer(value) {
    const rows = UUID.test(value)
      ? await getDb().models.Customer.findAll({ attributes: ["id", "name"], where: { id: value }, raw: true })
      : await customersCalled(value, MOST_MEANT + 1);
    return meant({ of: "record", field: "customer" }, "customer", value, rows);
  },
  async item(value) {
    const ofKey = await getDb().models.Item.findAll({ attributes: ["id", "name"], where: { id: value }, raw: true });
    const rows = ofKey.length > 0 ? ofKey : (await listItems({ q: value, after: null, limit: MOST_MEANT + 1 })).rows;
    return meant(
      { of: "link", field: "item" },
      "part",
      value,
      exactFirst<{ id: string; name: string }>(rows, value, (row) => row.name),
    );
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
  term: { of: "record"; field: "machine" | "site" | "customer" } | { of: "link"; field: "item" },
  called: string,
  value: string,
  rows: readonly { id: string; name: string }[],
): Read {
  const [first] = rows;
  if (!first) throw new NothingMeant(`There is no ${called} “${value}”. Try the beginning of its name.`);
  if (rows.length > MOST_MEANT)
    throw new NothingMeant(`More than ${MOST_MEANT} ${called}s are called “${value}”. Type more of it.`);
  const alone = rows.length === 1;
  return {
    terms: [{ ...term, values: rows.map((row) => row.id) }],
    words: alone ? first.name : `${rows.length} ${called}s “${value}”`,
    ...(alone ? { typed: first.name } : {}),
  };
}

/** By its id, as other pages link; a tag or serial number as it is, or was when work was done; else words of the name. */
async function machinesMeant(value: string): Promise<readonly { id: string; name: string; tag: string }[]> {
  if (UUID.test(value))
    return getDb().models.Machine.findAll({ attributes: ["id", "name", "tag"], where: { id: value }, raw: true });
  const exact = await sql.machinesOfNumber({ number: value });
  return exact.length > 0 ? exact : machinesCalled(value, MOST_MEANT + 1);
}
