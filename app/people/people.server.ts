import { must } from "@core";
import {
  type AuthorisationRow,
  ER_DUP_ENTRY,
  errorNumber,
  getDb,
  Op,
  type PersonRow,
  type Role,
  type Transaction,
} from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { forgetAllSignIns } from "~/kit/server/rate-limit.server";

import { MIDDAY } from "./midday";
import { hashPassword } from "./passwords.server";
import * as sql from "./people.sql";
import { mustHavePractised } from "./required-practice.server";

export type PersonView = Pick<
  PersonRow,
  "id" | "name" | "signIn" | "role" | "active" | "mustChangePassword" | "email"
> & {
  openSessions: number;
  authorisations: AuthorisationRow[];
};

/** Everybody, the active ones first: two queries. */
export async function listPeople(now: Date): Promise<PersonView[]> {
  const db = getDb();
  const persons = await sql.peopleWithSessions({ now });
  const authorisations = await db.models.Authorisation.findAll({
    where: { revokedAt: null as never },
    order: ["kind"],
    raw: true,
  });
  return persons.map((person) => ({
    ...person,
    active: person.active,
    mustChangePassword: person.mustChangePassword,
    openSessions: person.openSessions,
    authorisations: authorisations.filter((one) => one.personId === person.id),
  }));
}

export async function addPerson(
  by: Actor,
  input: { name: string; signIn: string; password: string; role: Role },
  now: Date,
): Promise<string> {
  const db = getDb();
  const id = uuidv7();
  const passwordHash = await hashPassword(input.password);
  try {
    await db.transact(async (tx) => {
      await db.models.Person.create(
        {
          id,
          name: input.name,
          signIn: input.signIn.toLowerCase(),
          passwordHash,
          role: input.role,
          active: true,
          mustChangePassword: true,
          demo: false,
          createdAt: now,
          breaks: MIDDAY,
        },
        { transaction: tx },
      );
      await audit(
        {
          by,
          subject: "person",
          subjectId: id,
          action: "person-added",
          details: { name: input.name, role: input.role },
          now,
        },
        tx,
      );
    });
  } catch (error) {
    if (errorNumber(error) === ER_DUP_ENTRY)
      throw new Refusal(422, "taken", `The sign-in name "${input.signIn}" is taken. Choose another one.`);
    throw error;
  }
  return id;
}

/** Where the digest of a lead goes; empty: nowhere. */
export async function changeEmail(by: Actor, personId: string, email: string, now: Date): Promise<void> {
  await getDb().transact(async (tx) => {
    const { models } = getDb();
    const before = await models.Person.findByPk(personId, {
      attributes: ["email"],
      raw: true,
      lock: tx.LOCK.UPDATE,
      transaction: tx,
    });
    if (!before) throw new Refusal(404, "no-such-person", "This person does not exist.");
    await models.Person.update({ email }, { where: { id: personId }, transaction: tx });
    const details = { old: before.email, new: email };
    await audit({ by, subject: "person", subjectId: personId, action: "email", details, now }, tx);
  });
}

/** Deactivates or reactivates; a deactivated person is signed out everywhere at once. */
export async function setActive(by: Actor, personId: string, active: boolean, now: Date): Promise<void> {
  const db = getDb();
  await db.transact(async (tx) => {
    // Leads are locked together: two of them deactivating each other must not leave none.
    const leads = await db.models.Person.findAll({
      attributes: ["id"],
      where: { role: "lead", active: true },
      lock: tx.LOCK.UPDATE,
      raw: true,
      transaction: tx,
    });
    if (!active && leads.length === 1 && must(leads[0]).id === personId) {
      throw new Refusal(422, "last-lead", "This is the last active lead. Make another person a lead first.");
    }
    await mustExist(personId, tx);
    await db.models.Person.update({ active }, { where: { id: personId }, transaction: tx });
    if (!active) await endSessions(personId, now, tx);
    await audit(
      {
        by,
        subject: "person",
        subjectId: personId,
        action: active ? "person-activated" : "person-deactivated",
        details: {},
        now,
      },
      tx,
    );
  });
}

/** Sets a password that must be changed at the next sign-in, and signs the person out everywhere. */
export async function resetPassword(by: Actor, personId: string, password: string, now: Date): Promise<void> {
  const db = getDb();
  const passwordHash = await hashPassword(password);
  await db.transact(async (tx) => {
    await mustExist(personId, tx);
    await db.models.Person.update(
      { passwordHash, mustChangePassword: true, demo: false },
      { where: { id: personId }, transaction: tx },
    );
    await endSessions(personId, now, tx);
    await audit({ by, subject: "person", subjectId: personId, action: "password-reset", details: {}, now }, tx);
  });
  const person = await db.models.Person.findByPk(personId, { attributes: ["signIn"], raw: true });
  if (person) await forgetAllSignIns(person.signIn);
}

/** A person's own new password; other sign-ins of theirs end, this one stays. */
export async function changeOwnPassword(actor: Actor, sessionId: string, password: string, now: Date): Promise<void> {
  const db = getDb();
  const passwordHash = await hashPassword(password);
  await db.transact(async (tx) => {
    await db.models.Person.update(
      { passwordHash, mustChangePassword: false, demo: false },
      { where: { id: actor.id }, transaction: tx },
    );
    await db.models.Session.update(
      { endedAt: now },
      { where: { personId: actor.id, id: { [Op.ne]: sessionId }, endedAt: null }, transaction: tx },
    );
    await audit(
      { by: actor, subject: "person", subjectId: actor.id, action: "password-changed", details: {}, now },
      tx,
    );
  });
}

export async function endSignIns(by: Actor, personId: string, now: Date): Promise<void> {
  const db = getDb();
  await db.transact(async (tx) => {
    await mustExist(personId, tx);
    await endSessions(personId, now, tx);
    await audit({ by, subject: "person", subjectId: personId, action: "sign-ins-ended", details: {}, now }, tx);
  });
}

export async function grantAuthorisation(
  by: Actor,
  personId: string,
  input: { kind: string; expiresOn: string | null },
  now: Date,
): Promise<void> {
  const db = getDb();
  await db.transact(async (tx) => {
    await mustExist(personId, tx);
    await mustHavePractised(personId, input.kind, now, tx);
    await db.models.Authorisation.create(
      { id: uuidv7(), personId, kind: input.kind, expiresOn: input.expiresOn, grantedBy: by.id, grantedAt: now },
      { transaction: tx },
    );
    await audit(
      { by, subject: "person", subjectId: personId, action: "authorisation-granted", details: input, now },
      tx,
    );
  });
}

export async function revokeAuthorisation(
  by: Actor,
  personId: string,
  authorisationId: string,
  now: Date,
): Promise<void> {
  const db = getDb();
  await db.transact(async (tx) => {
    const [changed] = await db.models.Authorisation.update(
      { revokedBy: by.id, revokedAt: now },
      { where: { id: authorisationId, personId, revokedAt: null }, transaction: tx },
    );
    if (changed === 0) throw new Refusal(404, "gone", "This authorisation was revoked already.");
    await audit(
      {
        by,
        subject: "person",
        subjectId: personId,
        action: "authorisation-revoked",
        details: { authorisationId },
        now,
      },
      tx,
    );
  });
}

async function mustExist(personId: string, tx: Transaction): Promise<void> {
  if (!(await getDb().models.Person.findByPk(personId, { attributes: ["id"], raw: true, transaction: tx })))
    throw new Refusal(404, "no-such-person", "This person does not exist.");
}

async function endSessions(personId: string, now: Date, tx: Transaction): Promise<void> {
  await getDb().models.Session.update({ endedAt: now }, { where: { personId, endedAt: null }, transaction: tx });
}

/** A person with their authorisations, as permissions need to know them. */
export async function actorById(id: string): Promise<Actor> {
  const person = await getDb().models.Person.findOne({ where: { id, active: true }, raw: true });
  if (!person) throw new Refusal(404, "no-such-person", "This person does not exist or is not active any more.");
  const authorisations = await getDb().models.Authorisation.findAll({
    where: { personId: id, revokedAt: null as never },
    raw: true,
  });
  return {
    id,
    name: person.name,
    role: person.role,
    authorisations: authorisations.map(({ kind, expiresOn }) => ({ kind, expiresOn })),
  };
}

/** Active technicians and leads, to put duties on a day for. */
export async function listWorkers(): Promise<{ id: string; name: string }[]> {
  return getDb().models.Person.findAll({
    attributes: ["id", "name"],
    where: { active: true },
    order: ["name"],
    limit: 500,
    raw: true,
  });
}

/** People a sheet can be handed to. */
export async function colleaguesOf(personId: string): Promise<{ id: string; name: string }[]> {
  return getDb().models.Person.findAll({
    attributes: ["id", "name"],
    where: { active: true, id: { [Op.ne]: personId } },
    order: ["name"],
    limit: 200,
    raw: true,
  });
}

export async function personNames(ids: string[]): Promise<Record<string, string>> {
  if (ids.length === 0) return {};
  const rows = await getDb().models.Person.findAll({
    attributes: ["id", "name"],
    where: { id: [...new Set(ids)] },
    raw: true,
  });
  return Object.fromEntries(rows.map((row) => [row.id, row.name]));
}
