import { v7 as uuidv7 } from "uuid";

import type { Actor } from "../app/kit/actor";
import { MIDDAY } from "../app/people/midday";
import { hashPassword } from "../app/people/passwords.server";
import { must } from "../core/must";
import { DEMO_PASSWORD, PEOPLE } from "../db/demo/story";
import { getDb } from "../db/index";

/** The firm's people, with what they may. */
export async function addPeople(now: Date, daysAgo: (days: number) => Date): Promise<Map<string, Actor>> {
  const db = getDb();
  const passwordHash = await hashPassword(DEMO_PASSWORD);
  const actors = new Map<string, Actor>();
  for (const person of PEOPLE) {
    const id = uuidv7();
    await db.models.Person.create({
      id,
      name: person.name,
      signIn: person.signIn,
      passwordHash,
      role: person.role,
      demo: true,
      createdAt: now,
      breaks: MIDDAY,
    });
    actors.set(person.signIn, { id, name: person.name, role: person.role, authorisations: [] });
  }
  const lead = must(actors.get("jonas"));
  for (const person of PEOPLE) {
    for (const { kind, inDays } of person.authorisations) {
      await db.models.Authorisation.create({
        id: uuidv7(),
        personId: must(actors.get(person.signIn)).id,
        kind,
        expiresOn: daysAgo(-inDays).toISOString().slice(0, 10),
        grantedBy: lead.id,
        grantedAt: now,
      });
    }
  }
  return actors;
}
