import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import { type FaultGuide, faultProcedureId, guideProcedure, lintGuide, must, type Procedure } from "@core";
import { ER_DUP_ENTRY, errorNumber, getDb, type Transaction } from "@db";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { contentHash } from "~/kit/server/content-hash.server";

import { checkReferences, publishProcedures, readProcedureFiles, shippedFolder } from "../procedures.server";
import { parseGuide } from "./guide-schema.server";

/** The folder of fault guides that ship with the app. */
const shippedGuidesFolder = (): string => join(process.cwd(), "fault-guides");

/** They do not change while the app runs. */
let known: FaultGuide[] | null = null;

/** The fault guides that ship with the app; throws with the file's name when one is not valid. */
export function shippedGuides(): FaultGuide[] {
  known ??= readdirSync(shippedGuidesFolder())
    .filter((file) => file.endsWith(".json"))
    .sort()
    .map((file) => {
      try {
        return checkedGuide(JSON.parse(readFileSync(join(shippedGuidesFolder(), file), "utf8")));
      } catch (error) {
        throw new Error(`${file}: ${(error as Error).message}`, { cause: error });
      }
    });
  return known;
}

const shippedGuide = (family: string): FaultGuide | null =>
  shippedGuides().find((one) => one.family === family) ?? null;

/** A guide from unknown JSON: its form, what it names, and the sheet that it makes. */
function checkedGuide(raw: unknown): FaultGuide {
  const guide = parseGuide(raw);
  const wrong = lintGuide(guide).filter((one) => one.severity === "error");
  if (wrong.length > 0)
    throw new Refusal(
      422,
      "not-valid",
      wrong
        .slice(0, 10)
        .map((one) => one.message)
        .join(" "),
    );
  checkReferences(guideProcedure(guide));
  return guide;
}

/**
 * Publishes guides that are not there yet, each with the procedure that its faults are worked with. A published version never
 * changes: the same version with other content is refused.
 *
 * @returns families of the new ones
 */
export async function publishGuides(
  guides: readonly FaultGuide[],
  now: Date,
  by: { actor: Actor; why: string } | null = null,
  within?: Transaction,
): Promise<string[]> {
  const db = getDb();
  const publish = async (tx: Transaction): Promise<string[]> => {
    const added: string[] = [];
    for (const guide of guides) {
      const { family, version } = guide;
      const known = await db.models.FaultGuide.findOne({ where: { family, version }, raw: true, transaction: tx });
      if (known && contentHash(known.body) !== contentHash(guide))
        throw new Refusal(
          409,
          "version-taken",
          `Version ${version} of the guide for "${family}" is published already with other content. Give the change a new version number.`,
        );
      if (known) continue;
      await publishProcedures([guideProcedure(guide)], now, by, tx);
      await db.models.FaultGuide.create(
        {
          family,
          version,
          title: guide.title,
          body: guide,
          createdAt: now,
          publishedBy: by?.actor.id ?? null,
          why: by?.why ?? "",
        },
        { transaction: tx },
      );
      added.push(family);
    }
    return added;
  };
  return within ? publish(within) : db.transact(publish);
}

/** Publishes what ships with the app: what is there already stays as it is. @returns what is new */
export async function publishShipped(
  now: Date,
  by: { actor: Actor; why: string } | null = null,
): Promise<{ procedures: string[]; guides: string[] }> {
  const procedures = await publishProcedures(readProcedureFiles(shippedFolder()), now, by);
  return { procedures, guides: await publishGuides(shippedGuides(), now, by) };
}

/** A family's guide: a version of it, or the newest; where the library has none, the one that ships. Null without it. */
export async function guideOf(
  family: string,
  version: number | null = null,
  tx?: Transaction,
): Promise<FaultGuide | null> {
  const row = await getDb().models.FaultGuide.findOne({
    attributes: ["body"],
    where: { family, ...(version === null ? {} : { version }) },
    order: [["version", "DESC"]],
    raw: true,
    transaction: tx ?? null,
  });
  if (row) return row.body;
  const shipped = shippedGuide(family);
  return version === null || shipped?.version === version ? shipped : null;
}

/** The number of a family's newest guide, that which ships where the library has none; 0 without one. */
export async function newestGuideVersion(family: string, tx?: Transaction): Promise<number> {
  const row = await getDb().models.FaultGuide.findOne({
    attributes: ["version"],
    where: { family },
    order: [["version", "DESC"]],
    raw: true,
    transaction: tx ?? null,
  });
  return row?.version ?? shippedGuide(family)?.version ?? 0;
}

/** The procedure that a family's faults are worked with, its newest version; the guide that ships where the library has none. */
export async function faultProcedure(family: string, now: Date, tx: Transaction): Promise<Procedure | null> {
  const { models } = getDb();
  if ((await models.FaultGuide.count({ where: { family }, transaction: tx })) === 0) {
    const guide = shippedGuide(family);
    if (!guide) return null;
    try {
      await publishGuides([guide], now, null, tx);
    } catch (error) {
      // Somebody else has begun with it at the same moment: it is the same guide.
      if (errorNumber(error) !== ER_DUP_ENTRY) throw error;
    }
  }
  const row = await models.Procedure.findOne({
    where: { id: faultProcedureId(family) },
    order: [["version", "DESC"]],
    raw: true,
    transaction: tx,
  });
  const { expanded, body } = must(row);
  return expanded ?? body;
}
