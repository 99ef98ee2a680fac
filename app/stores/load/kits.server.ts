import { type KitCover, kitCover } from "@core";
import { getDb, Op } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { type FieldWords, refuseIfChanged } from "~/kit/server/meanwhile.server";
import { proceduresOf } from "~/procedures/procedures.server";
import { takesOf } from "~/stores/items/needs.server";

import * as sql from "./kits.sql";

export interface KitItem {
  itemId: string;
  name: string;
  unit: string;
  usesPerPiece: number;
  /** In a full kit. */
  full: number;
  /** A service takes so much; of items with several uses, uses. */
  perService: number;
}

export interface KitAtPlace {
  placeId: string;
  placeName: string;
  /** Null when the kit's items take nothing at a service. */
  cover: KitCover | null;
  /** What it lacks of a full kit. */
  missing: { itemId: string; qty: number }[];
}

export interface KitView {
  id: string;
  name: string;
  procedureId: string;
  procedureTitle: string;
  items: KitItem[];
  places: KitAtPlace[];
}

/** Kits with what each covers at every place that holds something of it: as many services as its scarcest item. */
export async function listKits(): Promise<KitView[]> {
  const db = getDb();
  const kits = await db.models.Kit.findAll({
    attributes: ["id", "name", "procedureId"],
    where: { active: true },
    order: ["name"],
    limit: 200,
    raw: true,
  });
  if (kits.length === 0) return [];
  const items = await sql.kitsWithCounts({ ids: kits.map((kit) => kit.id) });
  const stock = items.length === 0 ? [] : await sql.stockOfKits({ ids: [...new Set(items.map((one) => one.itemId))] });
  const procedures = await proceduresOf([...new Set(kits.map((kit) => kit.procedureId))]);
  return kits.map((kit) => {
    const procedure = procedures.get(kit.procedureId);
    const takes = new Map(
      procedure
        ? takesOf(
            procedure,
            procedure.options.map((one) => one.id),
            { used: new Map(), services: new Map() },
          ).sure.map((one) => [one.item, one.qty])
        : [],
    );
    const own = items
      .filter((one) => one.kitId === kit.id)
      .map(({ kitId: _, ...one }) => ({ ...one, full: one.full, perService: takes.get(one.itemId) ?? 0 }));
    const places = [...new Map(stock.map((row) => [row.placeId, row.placeName]))].map(
      ([placeId, placeName]): KitAtPlace => {
        const there = (itemId: string): number =>
          Math.max(0, stock.find((row) => row.placeId === placeId && row.itemId === itemId)?.onHand ?? 0);
        const perService = Object.fromEntries(own.map((one) => [one.itemId, one.perService]));
        return {
          placeId,
          placeName,
          cover: own.some((one) => one.perService > 0)
            ? kitCover({
                kit: Object.fromEntries(own.map((one) => [one.itemId, there(one.itemId) * one.usesPerPiece])),
                perService,
              })
            : null,
          missing: own.flatMap((one) =>
            there(one.itemId) < one.full ? [{ itemId: one.itemId, qty: one.full - there(one.itemId) }] : [],
          ),
        };
      },
    );
    return {
      ...kit,
      procedureTitle: procedure?.title ?? kit.procedureId,
      items: own,
      places: places.filter((place) =>
        own.some((one) => stock.some((row) => row.placeId === place.placeId && row.itemId === one.itemId)),
      ),
    };
  });
}

export interface KitSettings {
  name: string;
  procedureId: string;
  items: { itemId: string; qty: number }[];
}

/** The form's fields, for who changes a kit that somebody else has changed. */
export const KIT_WORDS: FieldWords<KitSettings> = {
  name: ["Name"],
  procedureId: ["For the procedure"],
  items: ["Contents", (items) => items.map((one) => `${one.qty} ${one.itemId}`).join("\n")],
};

/** A kit as its form is filled; contents in the order of their keys. */
export function kitSettings(kit: {
  name: string;
  procedureId: string;
  items: readonly { itemId: string; qty: number }[];
}): KitSettings {
  const items = kit.items.map(({ itemId, qty }) => ({ itemId, qty }));
  return { name: kit.name, procedureId: kit.procedureId, items: items.sort((a, b) => (a.itemId < b.itemId ? -1 : 1)) };
}

/** Adds a kit or gives one other contents. */
export async function saveKit(
  actor: Actor,
  kitId: string | null,
  input: KitSettings,
  now: Date,
  seen: string | null = null,
): Promise<string> {
  if (input.items.length === 0) throw new Refusal(422, "items", "Put at least one item into the kit.");
  const db = getDb();
  const known = new Set(
    (
      await db.models.Item.findAll({
        attributes: ["id"],
        where: { id: input.items.map((one) => one.itemId) },
        raw: true,
      })
    ).map((row) => row.id),
  );
  const unknown = input.items.find((one) => !known.has(one.itemId));
  if (unknown) throw new Refusal(422, "items", `“${unknown.itemId}” is not in the catalogue.`);
  return db.transact(async (tx) => {
    const id = kitId ?? uuidv7();
    const kit = await db.models.Kit.findByPk(id, { raw: true, transaction: tx, lock: tx.LOCK.UPDATE });
    if (kitId !== null && !kit) throw new Refusal(404, "no-such-kit", "This kit is not there any more.");
    const [same] = await db.models.Kit.findAll({
      attributes: ["id"],
      where: { name: input.name, id: { [Op.ne]: id } },
      raw: true,
      transaction: tx,
    });
    if (same) throw new Refusal(422, "name", "There is a kit of this name already.");
    const before = await db.models.KitItem.findAll({
      attributes: ["itemId", "qty"],
      where: { kitId: id },
      raw: true,
      transaction: tx,
    });
    if (kit) {
      const theirs = kitSettings({ ...kit, items: before });
      await refuseIfChanged({ subject: "kit", subjectId: id, seen, theirs, yours: kitSettings(input) }, KIT_WORDS);
    }
    await sql.keepKit({ id, ...input }, tx);
    await db.models.KitItem.destroy({ where: { kitId: id }, transaction: tx });
    for (const { itemId, qty } of input.items) await sql.keepKitItems({ id, itemId, qty }, tx);
    await audit(
      {
        by: actor,
        subject: "kit",
        subjectId: id,
        action: kitId === null ? "added" : "changed",
        details: { old: before, new: input },
        now,
      },
      tx,
    );
    return id;
  });
}
