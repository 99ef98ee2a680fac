import { checkProcedure, isFaultProcedure, lintProcedure, type Procedure, shortName, withDefaults } from "@core";
import { getDb, type ProcedureDraftRow } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { boundedJson } from "~/kit/forms/bounded-json";
import { Refusal } from "~/kit/refusal";
import { aside } from "~/kit/server/aside.server";
import { audit } from "~/kit/server/audit.server";

import * as sql from "./drafts.sql";
import { itemFaults } from "./items-of-procedures.server";
import { type FormFault, formFaults, MOST_VALUES, parseProcedure } from "./procedure-schema.server";
import { MAX_DRAFT_LENGTH } from "./procedure-schemas";
import { checkReferences, publishProcedures, wholeProcedure } from "./procedures.server";

const DRAFT_GONE = "This draft does not exist any more: it was published or thrown away.";

export interface DraftListRow {
  id: string;
  procedureId: string;
  title: string;
  byName: string;
  changedAt: Date;
}

export async function listDrafts(): Promise<DraftListRow[]> {
  return sql.draftsWithNames();
}

/** A procedure's version as it was written; the newest when none is named. */
export async function writtenVersion(id: string, version: number | null): Promise<Procedure> {
  const [row] = await sql.writtenVersion({ id, version: version ?? 0 }, version);
  if (!row) throw new Refusal(404, "no-such-procedure", "This procedure does not exist.");
  return row.body;
}

export interface VersionRow {
  version: number;
  createdAt: Date;
  by: string | null;
  why: string;
}

/** Who published which version when, and why, newest first. */
export async function versionsOf(id: string): Promise<VersionRow[]> {
  return sql.versionsOf({ id });
}

/**
 * Begins a draft of a procedure's next version, or of a new procedure that starts as its copy.
 *
 * @returns the draft's id
 */
export async function startDraft(
  actor: Actor,
  procedureId: string,
  copy: { id: string; title: string } | null,
  now: Date,
): Promise<string> {
  const base = await writtenVersion(procedureId, null);
  if (copy) {
    const [taken] = await getDb().models.Procedure.findAll({
      attributes: ["id"],
      where: { id: copy.id },
      limit: 1,
      raw: true,
    });
    if (taken) throw new Refusal(409, "id", `There is a procedure "${copy.id}" already. Choose another short name.`);
  }
  const body: Procedure = copy
    ? { ...base, id: copy.id, title: copy.title, version: 1 }
    : { ...base, version: base.version + 1 };
  return createDraft(actor, body, copy ? 0 : base.version, now);
}

/** Begins a draft of a procedure that is written from nothing: with a proof, which comes last. */
export async function startFromNothing(
  actor: Actor,
  { title, family }: { title: string; family: string },
  now: Date,
): Promise<string> {
  if (family === "") throw new Refusal(422, "family", "Use letters or digits.");
  const body = withDefaults({
    format: "humble-hound/procedure",
    formatVersion: 2,
    id: await freeId(shortName(`${family} ${title}`)),
    version: 1,
    title,
    family,
    summary: "",
    who: "technician",
    minutes: { handsOn: 15, waiting: 0 },
    plan: { triggers: [] },
    states: [],
    steps: [{ id: "prove", kind: "prove", title: "", expect: "" }],
  }) as Procedure;
  return createDraft(actor, body, 0, now);
}

async function createDraft(actor: Actor, body: Procedure, baseVersion: number, now: Date): Promise<string> {
  // Their sheets end a call, and are made of a guide.
  if (isFaultProcedure(body.id))
    throw new Refusal(422, "id", "Names that end with “faults” belong to fault guides. Choose another.");
  const id = uuidv7();
  await getDb().models.ProcedureDraft.create({
    id,
    procedureId: body.id,
    baseVersion,
    body,
    byPerson: actor.id,
    madeAt: now,
    changedAt: now,
    revision: 1,
  });
  return id;
}

/** A short name that no procedure has. */
async function freeId(wanted: string): Promise<string> {
  for (let n = 1; ; n++) {
    const id = n === 1 ? wanted : `${wanted}-${n}`;
    if (isFaultProcedure(id)) continue;
    const drafted = await getDb().models.ProcedureDraft.count({ where: { procedureId: id } });
    if (drafted === 0 && (await newestVersionOf(id)) === 0) return id;
  }
}

/** Begins a draft from a procedure in the open format; its version becomes the next free one. */
export async function importDraft(actor: Actor, raw: string, now: Date): Promise<string> {
  if (raw.length > MAX_DRAFT_LENGTH)
    throw new Refusal(413, "too-long", `A procedure holds at most ${MAX_DRAFT_LENGTH / 1000} kB.`);
  let parsed: unknown;
  try {
    parsed = JSON.parse(raw);
  } catch {
    throw new Refusal(422, "not-json", "This file is no JSON. Take one that was downloaded from a procedure's page.");
  }
  const procedure = await aside("files", "parseProcedure", parseProcedure, parsed);
  const baseVersion = await newestVersionOf(procedure.id);
  return createDraft(actor, { ...procedure, version: baseVersion + 1 }, baseVersion, now);
}

/** The number of a procedure's newest version; 0 before the first. */
export async function newestVersionOf(id: string): Promise<number> {
  const [newest] = await sql.newestVersion({ id });
  return newest?.version ?? 0;
}

/** What the editor can show, finished or not. */
const isStep = (step: unknown): boolean =>
  step !== null && typeof step === "object" && "id" in step && typeof step.id === "string" && "kind" in step;

/** What of a draft would be refused when it is published, beside what the editor finds by itself. */
export interface DraftFaults {
  /** What the format does not take, and where. */
  form: FormFault[];
  /** What does not hold once nested procedures and gates are in their places. */
  whole: string[];
}

export async function faultsOfDraft(body: Procedure): Promise<DraftFaults> {
  try {
    const form = await aside("files", "formFaults", formFaults, body);
    if (form.length > 0 || checkProcedure(body).length > 0) return { form, whole: [] };
    const alone = new Set(lintProcedure(body).map((one) => one.message));
    const whole = lintProcedure(await wholeProcedure(body));
    return {
      form,
      whole: [
        ...whole.flatMap(({ severity, message }) => (severity === "error" && !alone.has(message) ? [message] : [])),
        ...(await itemFaults(body)),
      ],
    };
  } catch (error) {
    // Saved all the same: what could not be looked at is looked at again with the next change.
    if (error instanceof Refusal) return { form: [], whole: [error.message] };
    throw error;
  }
}

/** What the fields of the editor offer: other procedures, and what the stores know. */
export async function knownToEditor(): Promise<{
  library: { id: string; name: string; version: number }[];
  items: { id: string; name: string; unit: string }[];
}> {
  const [library, items] = await Promise.all([
    sql.newestTitles(),
    getDb().models.Item.findAll({
      attributes: ["id", "name", "unit"],
      where: { kind: ["part", "consumable", "chemical"] },
      order: ["name"],
      limit: MOST_OFFERED,
      raw: true,
    }),
  ]);
  return { library, items };
}

/** More names are typed, not scrolled through. */
const MOST_OFFERED = 500;

export async function getDraft(id: string): Promise<ProcedureDraftRow> {
  const draft = await getDb().models.ProcedureDraft.findByPk(id, { raw: true });
  if (!draft) throw new Refusal(404, "no-such-draft", DRAFT_GONE);
  return draft;
}

/**
 * Saves a draft, finished or not.
 *
 * @returns its new revision, and what would be refused when it is published
 * @throws Refusal `newer` when somebody else saved in the meantime: nothing is overwritten
 */
export async function saveDraft(
  actor: Actor,
  id: string,
  raw: string,
  revision: number,
  now: Date,
): Promise<{ revision: number; faults: DraftFaults }> {
  if (raw.length > MAX_DRAFT_LENGTH)
    throw new Refusal(413, "too-long", `A procedure holds at most ${MAX_DRAFT_LENGTH / 1000} kB.`);
  let body: Procedure;
  try {
    body = JSON.parse(raw) as Procedure;
  } catch {
    throw new Refusal(422, "not-json", "The draft is no JSON. Nothing was saved.");
  }
  const { steps } = (body as { steps?: unknown } | null) ?? {};
  if (!Array.isArray(steps) || !steps.every(isStep))
    throw new Refusal(422, "not-valid", "The draft has no steps. Nothing was saved.");
  boundedJson(body, MOST_VALUES);
  const kept = await getDb().transact(async (tx) => {
    const draft = await getDb().models.ProcedureDraft.findByPk(id, {
      raw: true,
      transaction: tx,
      lock: tx.LOCK.UPDATE,
    });
    if (!draft) throw new Refusal(404, "no-such-draft", DRAFT_GONE);
    if (draft.revision !== revision)
      throw new Refusal(
        409,
        "newer",
        "Somebody else saved this draft in the meantime. Your version stays in this window; load the page anew to see theirs.",
      );
    // The identity of what is drafted does not change by typing; it may be taken into the newer form.
    const kept: Procedure = {
      ...body,
      id: draft.body.id,
      version: draft.body.version,
      format: draft.body.format,
      formatVersion: body.formatVersion === 2 ? 2 : draft.body.formatVersion,
    };
    await getDb().models.ProcedureDraft.update(
      { body: kept, byPerson: actor.id, changedAt: now, revision: revision + 1 },
      { where: { id }, transaction: tx },
    );
    return kept;
  });
  return { revision: revision + 1, faults: await faultsOfDraft(kept) };
}

export async function dropDraft(actor: Actor, id: string, now: Date): Promise<void> {
  await getDb().transact(async (tx) => {
    const draft = await getDb().models.ProcedureDraft.findByPk(id, { raw: true, transaction: tx });
    if (!draft) return;
    await getDb().models.ProcedureDraft.destroy({ where: { id }, transaction: tx });
    await audit(
      {
        by: actor,
        subject: "procedure-draft",
        subjectId: id,
        action: "thrown away",
        details: { draft: draft.body },
        now,
      },
      tx,
    );
  });
}

/**
 * Publishes a draft as the procedure's next version; sheets that are open stay on theirs.
 *
 * @param input.revision the draft as it was read
 * @param input.newest the newest version as it was known: one that somebody has published since is told first
 */
export async function publishDraft(
  actor: Actor,
  id: string,
  input: { why: string; revision: number; newest: number },
  now: Date,
): Promise<{ id: string; version: number }> {
  if (actor.role !== "lead")
    throw new Refusal(403, "not-yours", "Only a lead publishes a procedure. Tell one that your draft is ready.");
  const db = getDb();
  const read = await getDraft(id);
  const procedure = checkReferences(await aside("files", "parseProcedure", parseProcedure, read.body));
  return db.transact(async (tx) => {
    const draft = await db.models.ProcedureDraft.findByPk(id, { raw: true, transaction: tx, lock: tx.LOCK.UPDATE });
    if (!draft) throw new Refusal(404, "no-such-draft", DRAFT_GONE);
    if (read.revision !== input.revision || draft.revision !== input.revision)
      throw new Refusal(409, "newer", "Somebody has changed this draft since you read it. Load the page again.");
    const [newest] = await sql.lockNewest({ id: procedure.id }, tx);
    await db.takeTurns([`procedures ${procedure.id}`], tx);
    const known = newest?.version ?? 0;
    if (known !== input.newest)
      throw new Refusal(
        409,
        "published-meanwhile",
        `${newest?.by ?? "Somebody"} published version ${known} meanwhile. Load the page again and compare before you publish.`,
      );
    const linted = lintProcedure(await wholeProcedure(procedure, [], tx)).filter((one) => one.severity === "error");
    const faults = [...linted.map((one) => one.message), ...(await itemFaults(procedure, tx))];
    if (faults.length > 0) throw new Refusal(422, "lint", `Not published: ${faults.join(" ")}`);
    const version = known + 1;
    await publishProcedures([{ ...procedure, version }], now, { actor, why: input.why }, tx);
    await db.models.ProcedureDraft.destroy({ where: { id }, transaction: tx });
    return { id: procedure.id, version };
  });
}
