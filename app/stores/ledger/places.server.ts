import { must } from "@core";
import { getDb, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { asItem, type Item } from "~/stores/items/catalogue.server";

import * as sql from "./places.sql";
import { PAGE } from "./places.sql";

export interface Place {
  id: string;
  kind: "van" | "depot" | "shelf";
  name: string;
  personId: string | null;
  personName: string | null;
  siteId: string | null;
  siteName: string | null;
}

/** Where things lie: vans, then the depot, then customers' shelves. */
export async function listPlaces(tx?: Transaction): Promise<Place[]> {
  return sql.allPlaces(tx);
}

export async function getPlace(placeId: string): Promise<Place> {
  const [row] = await sql.onePlace({ placeId });
  if (!row) throw new Refusal(404, "no-such-place", "This place does not exist. Go back to the stores.");
  return row;
}

/** Where a person takes things from: the own van, else the depot; null when the firm keeps no stores. */
export async function placeOf(personId: string, tx?: Transaction): Promise<string | null> {
  const [row] = await sql.placeOfPerson({ personId }, tx);
  return row?.id ?? null;
}

export async function addPlace(
  actor: Actor,
  input: { kind: Place["kind"]; name: string; personId: string | null; siteId: string | null },
  now: Date,
): Promise<string> {
  const db = getDb();
  if (input.kind === "shelf" && input.siteId === null)
    throw new Refusal(422, "siteId", "Say at which site the shelf is.");
  return db.transact(async (tx) => {
    const [same] = await db.models.Place.findAll({
      attributes: ["id"],
      where: { name: input.name },
      raw: true,
      transaction: tx,
    });
    if (same) throw new Refusal(422, "name", "There is a place of this name already.");
    const id = uuidv7();
    const row = {
      id,
      ...input,
      personId: input.kind === "van" ? input.personId : null,
      siteId: input.kind === "shelf" ? input.siteId : null,
    };
    await db.models.Place.create(
      { id: row.id, kind: row.kind, name: row.name, personId: row.personId, siteId: row.siteId },
      { transaction: tx },
    );
    await audit({ by: actor, subject: "place", subjectId: id, action: "added", details: { new: row }, now }, tx);
    return id;
  });
}

export interface PlaceStock extends Item {
  onHand: number;
  reserved: number;
  countAsked: boolean;
  runsOutOn: string | null;
}

/** A page of what a place holds, what asks for a count first when `counts`. */
export async function stockAt(
  placeId: string,
  filter: { after: string | null; counts?: boolean },
): Promise<{ rows: PlaceStock[]; next: string | null }> {
  const rows = await sql.stockPage({ placeId, after: filter.after }, filter);
  const page = rows.slice(0, PAGE).map((row) =>
    asItem({
      ...row,
      onHand: row.onHand,
      reserved: row.reserved,
      countAsked: row.countAsked,
    }),
  );
  return { rows: page, next: rows.length > PAGE ? must(page.at(-1)).id : null };
}
