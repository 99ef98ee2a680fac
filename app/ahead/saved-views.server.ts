import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";

import * as sql from "./saved-views.sql";

/** A person's own filters of a place, by name. */
export async function listViews(actor: Actor, place: string): Promise<{ id: string; name: string; query: string }[]> {
  return getDb().models.SavedView.findAll({
    attributes: ["id", "name", "query"],
    where: { personId: actor.id, place },
    order: ["name"],
    raw: true,
  });
}

/** Keeps a filter under a name; the same name again replaces it. */
export async function saveView(actor: Actor, place: string, name: string, query: string, now: Date): Promise<void> {
  await sql.keepView({ id: uuidv7(), personId: actor.id, place, name, query, now });
}

export async function dropView(actor: Actor, id: string): Promise<void> {
  await getDb().models.SavedView.destroy({ where: { id, personId: actor.id } });
}
