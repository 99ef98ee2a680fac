import { getDb } from "@db";

import { listInstruments } from "~/sheet/instruments.server";
import { type Exception, EXCEPTIONS } from "~/sheet/summaries/exceptions";

import * as sql from "./records-found.sql";
import type { Narrowed } from "./search-schema";
import { understand, type Understood } from "./terms.server";

export interface RecordRow {
  id: string;
  title: string;
  /** `signed`, or why the work was not done. */
  outcome: string;
  /** Bits of what is not as it should be. */
  exceptions: number;
  onDay: string;
  closedAt: Date;
  machineId: string;
  machineName: string;
  /** As it was then. */
  machineTag: string;
  siteName: string;
  /** Who signed or ended it. */
  personName: string;
  /** Its number in the chain of records; one that was ended without the work has none. */
  number: number | null;
}

export interface Counted {
  /** Up to {@link EXACT_TO}; one more stands for more than that. */
  total: number;
  /** With anything that is not as it should be, among those counted. */
  any: number;
  each: { name: Exception; count: number }[];
}

export const PAGE = 50;
/** Counts are exact up to here. */
export const EXACT_TO = 10_000;

export interface Found {
  rows: RecordRow[];
  next: string | null;
}

/** What is wanted, read once: its pages and its count are asked for with it. */
export interface Search extends Pick<Understood, "said" | "problem"> {
  page(after: string | null, more?: { limit?: number; until?: Date }): Promise<Found>;
  /** How many there are, up to a limit, and what is not as it should be in them. */
  count(limit?: number): Promise<Counted>;
}

/** What a narrowing of the book brings. */
export async function searchBook(narrowed: Narrowed): Promise<Search> {
  const { problem, said, ...understood } = await understand(narrowed);
  if (problem !== null)
    return {
      said,
      problem,
      page: () => Promise.resolve({ rows: [], next: null }),
      count: () => Promise.resolve({ total: 0, any: 0, each: [] }),
    };
  const wanted = await whatLeads(understood);
  return {
    said,
    problem,
    async page(after, { limit = PAGE, until } = {}) {
      const rows = await sql.pageOfRecords({ ...wanted, after: placeOf(after), until: until ?? null }, limit + 1);
      const page = rows.slice(0, limit);
      const last = page.at(-1);
      const next = rows.length > limit && last ? `${last.onDay}_${last.closedAt.getTime()}_${last.id}` : null;
      return { rows: page, next };
    },
    async count(limit = EXACT_TO + 1) {
      const bits = EXCEPTIONS.map(([, bit]) => bit);
      const { total, any, each } = await sql.countRecords(wanted, bits, limit);
      return {
        total,
        any,
        each: EXCEPTIONS.flatMap(([name], i) => (each[i] ? [{ name, count: each[i] }] : [])),
      };
    },
  };
}

/** The term that brings fewest leads; the others are asked of what it brings. */
async function whatLeads({ terms, from, to }: Pick<Understood, "terms" | "from" | "to">): Promise<sql.Wanted> {
  const weights = terms.length > 1 ? await Promise.all(terms.map((term) => sql.weighTerm(term, { from, to }))) : [0];
  const lead = terms[weights.indexOf(Math.min(...weights))] ?? null;
  return { lead, others: terms.filter((one) => one !== lead), from, to };
}

/** An address that names no place begins at the newest. */
function placeOf(after: string | null): sql.Place | null {
  const [onDay, at, id] = after?.split("_") ?? [];
  if (!onDay || !id || !/^\d{4}-\d{2}-\d{2}$/.test(onDay) || !/^\d{1,15}$/.test(at ?? "")) return null;
  return { onDay, closedAt: new Date(Number(at)), id };
}

/** What can be chosen from to narrow the book. */
export async function searchChoices() {
  const { models } = getDb();
  const [people, instruments, procedures, families] = await Promise.all([
    models.Person.findAll({ attributes: ["id", "name"], order: ["name"], limit: 500, raw: true }),
    listInstruments(),
    sql.proceduresWorked(),
    sql.familiesWorked(),
  ]);
  return {
    people,
    instruments: instruments.map(({ id, code, name }) => ({ id, name: `${name} ${code}` })),
    procedures,
    families: families.map((one) => one.family),
  };
}
