import { createHash, randomBytes } from "node:crypto";

import { getDb, type LinkRow } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";

import { audit } from "./audit.server";
import * as sql from "./links.sql";

/** 256 random bits: a link without sign-in cannot be guessed, and says nothing about what it opens. */
const TOKEN_BYTES = 32;
const TOKEN_FORM = /^[A-Za-z0-9_-]{43}$/;

const hashOf = (token: string): string => createHash("sha256").update(token).digest("hex");

/**
 * Makes a link that works without sign-in. The token is given once, here; only its hash is kept.
 *
 * @returns the token
 */
export async function makeLink(actor: Actor, kind: LinkRow["kind"], subjectId: string, now: Date): Promise<string> {
  const db = getDb();
  const { token, link } = linkToken(actor, kind, now);
  await db.transact(async (tx) => {
    await db.models.Link.create({ ...link, subjectId }, { transaction: tx });
    const details = { kind, subjectId };
    await audit({ by: actor, subject: "link", subjectId: link.id, action: "made", details, now }, tx);
  });
  return token;
}

/** A token with the row that knows it, for a link that is kept together with what it is for. */
export function linkToken(
  actor: Actor,
  kind: LinkRow["kind"],
  now: Date,
): { token: string; link: Omit<LinkRow, "subjectId"> } {
  const token = randomBytes(TOKEN_BYTES).toString("base64url");
  return {
    token,
    link: {
      id: uuidv7(),
      kind,
      tokenHash: hashOf(token),
      madeBy: actor.id,
      madeAt: now,
      revokedBy: null,
      revokedAt: null,
    },
  };
}

/** Ends a link of a subject at once. */
export async function revokeOwnLink(
  actor: Actor,
  kind: LinkRow["kind"],
  subjectId: string,
  id: string,
  now: Date,
): Promise<void> {
  const db = getDb();
  await db.transact(async (tx) => {
    const [ended] = await db.models.Link.update(
      { revokedBy: actor.id, revokedAt: now },
      { where: { id, kind, subjectId, revokedAt: null }, transaction: tx },
    );
    if (ended === 1)
      await audit({ by: actor, subject: "link", subjectId: id, action: "revoked", details: {}, now }, tx);
  });
}

/** What a token opens; null for one that never was or is revoked. */
export async function findLink(kinds: readonly LinkRow["kind"][], token: string): Promise<LinkRow | null> {
  if (!TOKEN_FORM.test(token)) return null;
  const link = await getDb().models.Link.findOne({ where: { tokenHash: hashOf(token) }, raw: true });
  return link && link.revokedAt === null && kinds.includes(link.kind) ? link : null;
}

export type LinkView = Pick<LinkRow, "id" | "kind" | "subjectId" | "madeAt"> & { by: string };

/** Links of a subject that still work. */
export async function listLinks(kinds: readonly LinkRow["kind"][], subjectId: string): Promise<LinkView[]> {
  return sql.linksWithNames({ kinds, subjectId });
}
