import { createHash, randomBytes } from "node:crypto";

import { getDb, Op } from "@db";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { logError } from "~/kit/server/log.server";
import { sweepSubmissions } from "~/kit/server/once.server";
import { countSignIn, forgetSignIns } from "~/kit/server/rate-limit.server";

import { passwordMatches, pretendToCheck } from "./passwords.server";
import * as sql from "./sessions.sql";

export const SESSION_COOKIE = "hound_session";
/** A working day and the next morning. */
const SESSION_HOURS = 18;
const SEEN_EVERY_MS = 5 * 60_000;

export interface SignedIn {
  sessionId: string;
  actor: Actor;
  mustChangePassword: boolean;
}

/** The row is found by a hash of the cookie's token: a copy of the table signs nobody in. */
function rowId(token: string): string {
  return createHash("sha256").update(token).digest("hex");
}

/** Checks name and password and opens a session: the cookie's token. */
export async function signIn(
  input: { signIn: string; password: string; device: string; address: string },
  now: Date,
): Promise<string> {
  const db = getDb();
  const name = input.signIn.trim().toLowerCase();
  await countSignIn(name, input.address);
  const found = await db.models.Person.findOne({ where: { signIn: name }, raw: true });
  // The database takes letters with and without accents for the same: here they are other names.
  const person = found?.signIn === name ? found : null;
  if (!person) await pretendToCheck(input.password);
  if (!person || !person.active || !(await passwordMatches(person.passwordHash, input.password))) {
    throw new Refusal(401, "wrong", "Name or password is wrong. After 8 wrong tries you have to wait 15 minutes.");
  }
  await forgetSignIns(name, input.address);
  await sweep(now);
  const token = randomBytes(32).toString("base64url");
  await db.models.Session.create({
    id: rowId(token),
    personId: person.id,
    device: input.device.slice(0, 200),
    createdAt: now,
    lastSeenAt: now,
    expiresAt: new Date(now.getTime() + SESSION_HOURS * 3_600_000),
  });
  return token;
}

const KEEP_SESSIONS_MS = 90 * 86_400_000;

/** Removes a few of the rows that mean nothing any more, so that the tables do not grow for ever. */
async function sweep(now: Date): Promise<void> {
  const { models } = getDb();
  const before = new Date(now.getTime() - KEEP_SESSIONS_MS);
  await models.Session.destroy({ where: { expiresAt: { [Op.lt]: before } }, limit: 50 });
  await models.RateLimit.destroy({ where: { expire: { [Op.lt]: now.getTime() } }, limit: 50 });
  await sweepSubmissions(now);
}

/** Who a cookie's token belongs to; null when it is unknown, ended, expired, or the person was deactivated. One query. */
export async function findSession(token: string, now: Date): Promise<SignedIn | null> {
  const id = rowId(token);
  const rows = await sql.personOfSession({ id, now });
  const [first] = rows;
  if (!first) return null;
  if (now.getTime() - first.lastSeenAt.getTime() > SEEN_EVERY_MS) {
    // A note for leads: where it cannot be written the page is shown all the same.
    await getDb()
      .models.Session.update({ lastSeenAt: now }, { where: { id } })
      .catch((error: unknown) => logError(`last seen was not noted: ${(error as Error).message}`));
  }
  const authorisations = rows.flatMap((row) =>
    row.kind === null ? [] : [{ kind: row.kind, expiresOn: row.expiresOn }],
  );
  return {
    sessionId: id,
    actor: { id: first.id, name: first.name, role: first.role, authorisations },
    mustChangePassword: Boolean(first.mustChange),
  };
}

export async function endSession(sessionId: string, now: Date): Promise<void> {
  await getDb().models.Session.update({ endedAt: now }, { where: { id: sessionId, endedAt: null } });
}

/** Whether this is the signed-in person's password; wrong tries count like those of signing in. */
export async function confirmPassword(personId: string, password: string, address: string): Promise<boolean> {
  const person = await getDb().models.Person.findByPk(personId, { raw: true });
  if (!person) return false;
  await countSignIn(person.signIn, address);
  if (!(await passwordMatches(person.passwordHash, password))) return false;
  await forgetSignIns(person.signIn, address);
  return true;
}
