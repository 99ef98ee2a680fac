import { CoreError, type FaultGuide, guideProcedure, lintGuide, shortName } from "@core";
import { getDb } from "@db";

import type { Actor } from "~/kit/actor";
import { boundedJson } from "~/kit/forms/bounded-json";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { guideFormFaults, parseGuide } from "~/procedures/guides/guide-schema.server";
import { guideOf, newestGuideVersion, publishGuides } from "~/procedures/guides/guides.server";
import { itemFaults } from "~/procedures/items-of-procedures.server";
import { checkReferences } from "~/procedures/procedures.server";
import { FAMILIES } from "~/ui/family-names";

const GONE = "This draft does not exist any more: it was published or thrown away.";
const MOST_VALUES = 20_000;
const LISTS = ["symptoms", "checks", "causes", "states", "options", "parts", "materials", "hazards"] as const;

/** Begins a draft of the next version of a family's guide, where nobody has one yet; of one written from nothing where it has none. */
export async function startGuideDraft(actor: Actor, family: string, now: Date): Promise<void> {
  const db = getDb();
  if ((await db.models.FaultGuideDraft.count({ where: { family } })) > 0) return;
  const base = await guideOf(family);
  await db.models.FaultGuideDraft.create({
    family,
    baseVersion: base?.version ?? 0,
    byPerson: actor.id,
    madeAt: now,
    changedAt: now,
    body: base ? { ...base, version: base.version + 1 } : emptyGuide(family),
  });
}

export async function familiesWithDrafts(): Promise<string[]> {
  const drafts = await getDb().models.FaultGuideDraft.findAll({ attributes: ["family"], order: ["family"], raw: true });
  return drafts.map((one) => one.family);
}

/** The short name of a family that is called so; one that is known keeps its own. */
export function familyCalled(name: string): string {
  const known = Object.entries(FAMILIES).find(([, called]) => called.toLowerCase() === name.toLowerCase());
  const family = known?.[0] ?? shortName(name);
  if (family === "") throw new Refusal(422, "name", "Use letters or digits.");
  return family;
}

const emptyGuide = (family: string): FaultGuide => ({
  ...{ format: "humble-hound/fault-guide", formatVersion: 1, family, version: 1, title: "", summary: "" },
  ...{ hazards: [], protective: [], tools: [], materials: [], parts: [], options: [], states: [] },
  ...{ symptoms: [], checks: [], causes: [] },
});

export async function guideDraft(family: string) {
  const draft = await getDb().models.FaultGuideDraft.findByPk(family, { raw: true });
  if (!draft) throw new Refusal(404, "no-such-draft", GONE);
  const { body: guide, revision, baseVersion } = draft;
  return {
    guide,
    revision,
    baseVersion,
    newest: await newestGuideVersion(family),
    faults: await faultsOfGuide(guide),
  };
}

/** What would be refused when it is published, beside what the linter finds by itself. */
export interface GuideFaults {
  /** Paths of fields that are not as the format wants them. */
  form: string[];
  /** In sentences: of the sheet that the guide makes. */
  whole: string[];
}

export async function faultsOfGuide(guide: FaultGuide): Promise<GuideFaults> {
  const form = guideFormFaults(guide);
  if (form.length > 0) return { form, whole: [] };
  try {
    if (lintGuide(guide).some((one) => one.severity === "error")) return { form, whole: [] };
    return { form, whole: await itemFaults(checkReferences(guideProcedure(guide))) };
  } catch (error) {
    if (error instanceof Refusal || error instanceof CoreError) return { form, whole: [error.message] };
    throw error;
  }
}

/**
 * Saves a draft, finished or not.
 *
 * @throws Refusal `newer` when somebody else saved in the meantime: nothing is overwritten
 */
export async function saveGuideDraft(
  actor: Actor,
  family: string,
  raw: string,
  revision: number,
  now: Date,
): Promise<{ revision: number; faults: GuideFaults }> {
  const body = readGuide(raw);
  const kept = await getDb().transact(async (tx) => {
    const draft = await getDb().models.FaultGuideDraft.findByPk(family, {
      raw: true,
      transaction: tx,
      lock: tx.LOCK.UPDATE,
    });
    if (!draft) throw new Refusal(404, "no-such-draft", GONE);
    if (draft.revision !== revision)
      throw new Refusal(
        409,
        "newer",
        "Somebody else saved this draft in the meantime. Your version stays in this window; load the page anew to see theirs.",
      );
    const { format, formatVersion, version } = draft.body;
    const guide: FaultGuide = { ...body, format, formatVersion, family, version };
    await getDb().models.FaultGuideDraft.update(
      { body: guide, byPerson: actor.id, changedAt: now, revision: revision + 1 },
      { where: { family }, transaction: tx },
    );
    return guide;
  });
  return { revision: revision + 1, faults: await faultsOfGuide(kept) };
}

function readGuide(raw: string): FaultGuide {
  let body: unknown;
  try {
    body = JSON.parse(raw);
  } catch {
    throw new Refusal(422, "not-json", "The draft is no JSON. Nothing was saved.");
  }
  boundedJson(body, MOST_VALUES);
  const lists = (body ?? {}) as Record<string, unknown>;
  const isRow = (row: unknown): boolean => row !== null && typeof row === "object" && !Array.isArray(row);
  if (!LISTS.every((name) => Array.isArray(lists[name]) && (lists[name] as unknown[]).every(isRow)))
    throw new Refusal(422, "not-valid", "The draft has a list that cannot be shown. Nothing was saved.");
  return body as FaultGuide;
}

export async function dropGuideDraft(actor: Actor, family: string, now: Date): Promise<void> {
  await getDb().transact(async (tx) => {
    const draft = await getDb().models.FaultGuideDraft.findByPk(family, { raw: true, transaction: tx });
    if (!draft) return;
    await getDb().models.FaultGuideDraft.destroy({ where: { family }, transaction: tx });
    await audit(
      {
        by: actor,
        subject: "fault-guide-draft",
        subjectId: actor.id,
        action: "thrown away",
        details: { draft: draft.body },
        now,
      },
      tx,
    );
  });
}

/** Publishes a draft as the guide's next version; sheets that are open stay on theirs. */
export async function publishGuideDraft(
  actor: Actor,
  family: string,
  input: { why: string; revision: number; newest: number },
  now: Date,
): Promise<void> {
  if (actor.role !== "lead")
    throw new Refusal(403, "not-yours", "Only a lead publishes a fault guide. Tell one that your draft is ready.");
  const db = getDb();
  await db.transact(async (tx) => {
    const draft = await db.models.FaultGuideDraft.findByPk(family, {
      raw: true,
      transaction: tx,
      lock: tx.LOCK.UPDATE,
    });
    if (!draft) throw new Refusal(404, "no-such-draft", GONE);
    if (draft.revision !== input.revision)
      throw new Refusal(409, "newer", "Somebody has changed this draft since you read it. Load the page again.");
    const known = await newestGuideVersion(family, tx);
    if (known !== input.newest)
      throw new Refusal(
        409,
        "published-meanwhile",
        `Version ${known} was published meanwhile. Load the page again and compare before you publish.`,
      );
    const guide = { ...draft.body, version: known + 1 };
    const faults = lintGuide(guide).filter((one) => one.severity === "error");
    if (faults.length > 0)
      throw new Refusal(422, "lint", `Not published: ${faults.map((one) => one.message).join(" ")}`);
    await publishGuides([parseGuide(guide)], now, { actor, why: input.why }, tx);
    await db.models.FaultGuideDraft.destroy({ where: { family }, transaction: tx });
  });
}
