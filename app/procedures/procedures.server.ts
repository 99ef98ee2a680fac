import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import { checkProcedure, CoreError, expandNested, type Material, placeGates, type Procedure } from "@core";
import { getDb, type Transaction } from "@db";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { contentHash } from "~/kit/server/content-hash.server";
import { likeText } from "~/kit/server/like-text.server";

import { addItemsOf } from "./items-of-procedures.server";
import { parseProcedure } from "./procedure-schema.server";
import * as sql from "./procedures.sql";

/** Reads every procedure file of a folder; throws with the file's name when one is not valid. */
export function readProcedureFiles(folder: string): Procedure[] {
  return readdirSync(folder)
    .filter((file) => file.endsWith(".json"))
    .sort()
    .map((file) => {
      try {
        return checkedProcedure(JSON.parse(readFileSync(join(folder, file), "utf8")));
      } catch (error) {
        throw new Error(`${file}: ${(error as Error).message}`, { cause: error });
      }
    });
}

/** A procedure from unknown JSON, its form and its inner references checked. */
export function checkedProcedure(raw: unknown): Procedure {
  return checkReferences(parseProcedure(raw));
}

/** @throws Refusal naming what a procedure refers to that it does not have */
export function checkReferences(procedure: Procedure): Procedure {
  const faults = checkProcedure(procedure);
  if (faults.length > 0)
    throw new Refusal(422, "not-valid", faults.map((fault) => `${fault.path}: ${fault.message}`).join(" "));
  return procedure;
}

/**
 * Publishes procedures that are not there yet. A published version never changes: the same version with other content
 * is refused. Nested versions are looked up among the published ones and those of the same call.
 *
 * @returns ids of the new ones
 */
export async function publishProcedures(
  procedures: readonly Procedure[],
  now: Date,
  by: { actor: Actor; why: string } | null = null,
  within?: Transaction,
): Promise<string[]> {
  const db = getDb();
  const publish = async (tx: Transaction) => {
    const added: string[] = [];
    for (const procedure of procedures) {
      const { id, version } = procedure;
      const known = await db.models.Procedure.findOne({ where: { id, version }, raw: true, transaction: tx });
      if (known) {
        if (contentHash(known.body) !== contentHash(procedure)) {
          throw new Refusal(
            409,
            "version-taken",
            `Version ${version} of "${id}" is published already with other content. Give the change a new version number.`,
          );
        }
        continue;
      }
      const whole = await wholeProcedure(procedure, procedures, tx);
      await db.models.Procedure.create(
        {
          id,
          version,
          family: procedure.family,
          title: procedure.title,
          body: procedure,
          expanded: whole === procedure ? null : whole,
          createdAt: now,
          publishedBy: by?.actor.id ?? null,
          why: by?.why ?? "",
        },
        { transaction: tx },
      );
      await addItemsOf([whole], tx);
      added.push(id);
    }
    return added;
  };
  return within ? publish(within) : db.transact(publish);
}

/** A procedure with its nested ones expanded; `more` are looked at before the published ones. */
export async function wholeProcedure(
  procedure: Procedure,
  more: readonly Procedure[] = [],
  tx?: Transaction,
): Promise<Procedure> {
  const found = new Map(more.map((one) => [`${one.id}@${one.version}`, one]));
  const fetchNested = async (one: Procedure): Promise<void> => {
    for (const step of one.steps) {
      const key = step.kind === "nested" ? `${step.procedure}@${step.version}` : null;
      if (step.kind !== "nested" || key === null) continue;
      if (!found.has(key)) {
        const row = await getDb().models.Procedure.findOne({
          where: { id: step.procedure, version: step.version },
          raw: true,
          transaction: tx ?? null,
        });
        if (!row) continue;
        found.set(key, row.body);
        await fetchNested(row.body);
      }
    }
  };
  await fetchNested(procedure);
  for (const one of more)
    if (procedure.steps.some((step) => step.kind === "nested" && step.procedure === one.id)) await fetchNested(one);
  try {
    const expanded = expandNested(procedure, (id, version) => found.get(`${id}@${version}`));
    const whole = expanded.states ? placeGates(expanded) : expanded;
    const faults = whole === procedure ? [] : checkProcedure(whole);
    if (faults.length > 0)
      throw new Refusal(422, "not-valid", faults.map((fault) => `${fault.path}: ${fault.message}`).join(" "));
    return whole;
  } catch (error) {
    if (error instanceof CoreError) throw new Refusal(422, "not-valid", error.message);
    throw error;
  }
}

export interface LibraryRow {
  id: string;
  version: number;
  family: string;
  title: string;
  who: string;
  handsOn: number;
  waiting: number;
}

/** The newest version of each procedure, without bodies. Words are looked for in titles, families and steps; a library has hundreds of rows, not thousands. */
export async function listProcedures(
  filter: { q?: string | null; family?: string | null } = {},
): Promise<LibraryRow[]> {
  const words = (filter.q ?? "").trim().split(/\s+/).filter(Boolean).slice(0, 5);
  const fits = words.map(
    (_, i) =>
      `AND (p.title LIKE :w${i} OR p.family LIKE :w${i} OR p.id LIKE :w${i} OR LOWER(JSON_EXTRACT(COALESCE(p.expanded, p.body), '$.steps[*].title')) LIKE :w${i})`,
  );
  return sql.library(
    {
      family: filter.family ?? "",
      ...Object.fromEntries(words.map((word, i) => [`w${i}`, `%${likeText(word.toLowerCase())}%`])),
    },
    filter,
    fits,
  );
}

/** The newest procedures of the given families, with bodies. */
export async function newestProcedures(families: string[]): Promise<Procedure[]> {
  if (families.length === 0) return [];
  const rows = await sql.newestOfFamilies({ families });
  return rows.map((row) => row.expanded ?? row.body);
}

export interface ProcedureTakes {
  /** Minutes with hands on it, and of waiting in between. */
  handsOn: number;
  waiting: number;
  materials: { item: string; name: string; qty: number; unit: string }[];
}

/** What the newest versions of these procedures take, without their steps: bodies are long, and an overview names many. */
export async function procedureTakes(ids: readonly string[]): Promise<Map<string, ProcedureTakes>> {
  if (ids.length === 0) return new Map();
  const rows = await sql.materialsOf({ ids });
  return new Map(
    rows.map(({ id, handsOn, waiting, materials }) => {
      const list = typeof materials === "string" ? (JSON.parse(materials) as Material[]) : materials;
      return [
        id,
        { handsOn, waiting, materials: list.map(({ item, name, qty, unit }) => ({ item, name, qty, unit })) },
      ];
    }),
  );
}

/** A procedure with its nested ones expanded: a version of it, or the newest. */
export async function getProcedure(id: string, version: number | null = null): Promise<Procedure> {
  const [row] = await sql.oneVersion({ id, version: version ?? 0 }, version);
  if (!row) throw new Refusal(404, "no-such-procedure", "This procedure does not exist.");
  return row.expanded ?? row.body;
}

/** How the steps of procedures' newest versions are called there. */
export async function stepsOfProcedures(ids: readonly string[], tx?: Transaction): Promise<Map<string, string[]>> {
  if (ids.length === 0) return new Map();
  const rows = await sql.stepsOfNewest({ ids }, tx);
  return new Map(
    rows.map(({ id, steps }) => [id, typeof steps === "string" ? (JSON.parse(steps) as string[]) : steps]),
  );
}

/** The folder of procedures that ship with the app. */
export function shippedFolder(): string {
  return join(process.cwd(), "procedures");
}

/** Newest versions of some procedures, nested ones in place. */
export async function proceduresOf(ids: readonly string[]): Promise<Map<string, Procedure>> {
  if (ids.length === 0) return new Map();
  const rows = await sql.newestOf({ ids });
  return new Map(rows.map((row) => row.expanded ?? row.body).map((procedure) => [procedure.id, procedure]));
}
