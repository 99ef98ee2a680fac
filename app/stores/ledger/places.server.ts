import { getDb, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { asItem, type Item, ITEM_COLUMNS } from "~/stores/items/catalogue.server";

export interface Place {
  id: string;
  kind: "van" | "depot" | "shelf";
  name: string;
  personId: string | null;
  personName: string | null;
  siteId: string | null;
  siteName: string | null;
}

const COLUMNS = `p.id, p.kind, p.name, p.person_id AS personId, w.name AS personName, p.site_id AS siteId, s.name AS siteName
  FROM places p LEFT JOIN persons w ON w.id = p.person_id LEFT JOIN sites s ON s.id = p.site_id`;

/** Where things lie: vans, then the depot, then customers' shelves. */
export async function listPlaces(tx?: Transaction): Promise<Place[]> {
  return getDb().select<Place>(
    `SELECT ${COLUMNS} WHERE p.active = 1 ORDER BY FIELD(p.kind, 'van', 'depot', 'shelf'), p.name LIMIT 500`,
    {},
    tx,
  );
}

export async function getPlace(placeId: string): Promise<Place> {
  const [row] = await getDb().select<Place>(`SELECT ${COLUMNS} WHERE p.id = :placeId`, { placeId });
  if (!row) throw new Refusal(404, "no-such-place", "This place does not exist. Go back to the stores.");
  return row;
}

/** Where a person takes things from: the own van, else the depot; null when the firm keeps no stores. */
export async function placeOf(personId: string, tx?: Transaction): Promise<string | null> {
  const [row] = await getDb().select<{ id: string }>(
    `SELECT id FROM places WHERE active = 1 AND (person_id = :personId OR kind = 'depot') ORDER BY person_id <=> :personId DESC, name LIMIT 1`,
    { personId },
    tx,
  );
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
    await audit(actor, "place", id, "added", { new: row }, now, tx);
    return id;
  });
}

export interface PlaceStock extends Item {
  onHand: number;
  reserved: number;
  countAsked: boolean;
  runsOutOn: string | null;
}

const PAGE = 60;

/** A page of what a place holds, what asks for a count first when `counts`. */
export async function stockAt(
  placeId: string,
  filter: { after: string | null; counts?: boolean },
): Promise<{ rows: PlaceStock[]; next: string | null }> {
  const rows = await getDb().select<PlaceStock>(
    `SELECT ${ITEM_COLUMNS}, k.on_hand AS onHand, k.reserved, k.count_asked AS countAsked, o.runs_out_on AS runsOutOn
     FROM stock k FORCE INDEX (${filter.counts ? "stock_count" : "stock_place"}) STRAIGHT_JOIN items i ON i.id = k.item_id LEFT JOIN stock_outlook o ON o.item_id = k.item_id AND o.place_id = k.place_id
     WHERE k.place_id = :placeId ${filter.after ? "AND k.item_id > :after" : ""} ${filter.counts ? "AND k.count_asked = 1" : ""} ORDER BY k.item_id LIMIT ${PAGE + 1}`,
    { placeId, after: filter.after },
  );
  const page = rows.slice(0, PAGE).map((row) =>
    asItem({
      ...row,
      onHand: Number(row.onHand),
      reserved: Number(row.reserved),
      countAsked: Boolean(row.countAsked),
    }),
  );
  return { rows: page, next: rows.length > PAGE ? page.at(-1)!.id : null };
}
