import { must } from "@core";
import { getDb, Op, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { likeText } from "~/kit/server/like-text.server";
import { type FieldWords, refuseIfChanged } from "~/kit/server/meanwhile.server";
import { itemKey, type ItemKind } from "~/procedures/item-keys";

import * as sql from "./catalogue.sql";

export interface Item {
  id: string;
  name: string;
  kind: ItemKind;
  /** What quantities are counted in: pc, mL, g. */
  unit: string;
  /** How it is sold: so much of the unit in a pack, and what the pack is called. */
  packSize: number;
  packName: string;
  /** Services that one piece serves: four for a four-edged blade. */
  usesPerPiece: number;
  shelfLifeDays: number | null;
  hazards: string[];
  storage: string;
  alternatives: string[];
  packPriceCents: number | null;
  supplierId: string | null;
  orderCode: string;
  /** Calendar days; the supplier's when null. */
  leadDays: number | null;
  /** Order lines name the machine's model and serial. */
  needsSerial: boolean;
  scanCode: string | null;
  active: boolean;
}

/** DECIMAL comes as text, BOOLEAN as 0/1. */
export function asItem<T extends Item>(row: T): T {
  return { ...row, packSize: row.packSize, needsSerial: row.needsSerial, active: row.active };
}

export async function getItem(itemId: string, tx?: Transaction): Promise<Item> {
  const [row] = await sql.oneItem({ itemId }, tx);
  if (!row) throw new Refusal(404, "no-such-item", "This item is not in the catalogue. Go back to the stores.");
  return asItem(row);
}

/**
 * What a person scanned or typed as an item: its scan code, its key, its order code, or its name if only one has it.
 *
 * @throws Refusal 422 when nothing, or more than one thing, is meant
 */
export async function itemMeant(text: string): Promise<Item> {
  const said = text.trim();
  if (said === "") throw new Refusal(422, "item", "Scan or type an item.");
  const rows = await sql.itemsMeant({ said: said.slice(0, 160), key: said.toLowerCase().slice(0, 80) });
  if (rows.length === 1) return asItem(must(rows[0]));
  if (rows.length > 1)
    throw new Refusal(422, "item", `“${said}” is more than one item. Scan it, or choose it from the list.`);
  const found = await listItems({ q: said, after: null, limit: 2 });
  if (found.rows.length === 1) return must(found.rows[0]);
  throw new Refusal(
    422,
    "item",
    found.rows.length === 0
      ? `Nothing in the catalogue is “${said}”.`
      : `“${said}” is more than one item. Type more of its name.`,
  );
}

/** The items meant by the lines of a text; what is not understood is said at the field it was typed in. */
export async function itemsMeant(lines: string, field: string): Promise<string[]> {
  const found: string[] = [];
  for (const line of lines.split("\n").map((one) => one.trim())) {
    if (line === "") continue;
    try {
      found.push((await itemMeant(line)).id);
    } catch (error) {
      throw error instanceof Refusal ? new Refusal(422, field, error.message) : error;
    }
  }
  return found;
}

export interface ItemRow extends Item {
  supplierName: string | null;
  onHand: number;
  countAsked: boolean;
}

const PAGE = 50;

/**
 * A page of the catalogue by name, with what is there in all places. Words are found by their beginnings in the full-text
 * index; codes by their beginning.
 *
 * @param filter.after cursor: name and key of the last row before
 */
export async function listItems(filter: {
  q: string | null;
  after: string | null;
  limit?: number;
}): Promise<{ rows: ItemRow[]; next: string | null }> {
  const limit = filter.limit ?? PAGE;
  const q = (filter.q ?? "").trim().slice(0, 80);
  const words = q
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word.length >= 3)
    .slice(0, 5);
  const [afterName = "", afterId = ""] = filter.after?.split("\u001f") ?? [];
  const after = filter.after ? "AND (i.name > :afterName OR (i.name = :afterName AND i.id > :afterId))" : "";
  const found =
    words.length > 0
      ? "AND MATCH (i.name, i.order_code) AGAINST (:words IN BOOLEAN MODE)"
      : q === ""
        ? ""
        : "AND (i.name LIKE :like OR i.id LIKE :like)";
  const rows = await sql.itemsPage(
    { words: words.map((word) => `+${word}*`).join(" "), like: `${likeText(q)}%`, afterName, afterId },
    found,
    after,
    limit,
  );
  const page = rows.slice(0, limit).map(asItem);
  const last = page.at(-1);
  return { rows: page, next: rows.length > limit && last ? `${last.name}\u001f${last.id}` : null };
}

export type ItemSettings = Omit<Item, "id">;

/** The form's fields, for who changes an item that somebody else has changed. */
export const ITEM_WORDS: FieldWords<ItemSettings> = {
  name: ["Name"],
  kind: ["What it is"],
  unit: ["Counted in"],
  usesPerPiece: ["Uses of a piece"],
  packSize: ["A pack holds"],
  packName: ["Pack"],
  packPriceCents: ["Price of a pack, euros", (cents) => (cents === null ? "–" : (cents / 100).toFixed(2))],
  supplierId: ["Supplier"],
  orderCode: ["Supplier's code"],
  leadDays: ["Days to come"],
  scanCode: ["Code on it"],
  shelfLifeDays: ["Keeps, days"],
  needsSerial: ["Ordered by model and serial"],
  storage: ["How it is kept"],
  alternatives: ["What would also do"],
  hazards: ["Watch out"],
  active: ["In use"],
};

/** Adds an item or changes one; old and new settings stay readable. */
export async function saveItem(
  actor: Actor,
  itemId: string | null,
  settings: ItemSettings,
  now: Date,
  seen: string | null = null,
): Promise<string> {
  const db = getDb();
  const id = itemId ?? itemKey(settings.name);
  if (id === "") throw new Refusal(422, "name", "Give the item a name with letters in it.");
  return db.transact(async (tx) => {
    const [before] = await sql.lockItem({ id }, tx);
    await db.takeTurns([`items ${id}`], tx);
    if (itemId === null && before)
      throw new Refusal(422, "name", `There is an item like that already: ${before.name}.`);
    if (itemId !== null && !before) throw new Refusal(404, "no-such-item", "This item is not in the catalogue.");
    if (before) {
      const theirs = asItem(before);
      const suppliers = new Map((await listSuppliers()).map((one) => [one.id, one.name]));
      const words: FieldWords<ItemSettings> = {
        ...ITEM_WORDS,
        supplierId: [
          "Supplier",
          (supplierId) => (supplierId === null ? "–" : (suppliers.get(supplierId) ?? "one of before")),
        ],
      };
      await refuseIfChanged({ subject: "item", subjectId: id, seen, theirs, yours: settings }, words);
    }
    // In lists and on shelves a name stands for one thing.
    if (before?.name !== settings.name) {
      const [namesake] = await db.models.Item.findAll({
        attributes: ["id"],
        where: { name: settings.name, active: true, id: { [Op.ne]: id } },
        limit: 1,
        raw: true,
        transaction: tx,
      });
      if (namesake)
        throw new Refusal(
          422,
          "name",
          `Another item is called ${settings.name}. Give this one a name that tells them apart.`,
        );
    }
    if (settings.scanCode !== null) {
      const [other] = await db.models.Item.findAll({
        attributes: ["name"],
        where: { scanCode: settings.scanCode, id: { [Op.ne]: id } },
        raw: true,
        transaction: tx,
      });
      if (other) throw new Refusal(422, "scanCode", `This code is on ${other.name} already.`);
    }
    if (before && before.unit !== settings.unit) {
      const [moved] = await db.models.StockMove.findAll({
        attributes: ["id"],
        where: { itemId: id },
        limit: 1,
        raw: true,
        transaction: tx,
      });
      if (moved)
        throw new Refusal(422, "unit", `It is booked in ${before.unit} already. Add another item for another unit.`);
    }
    const values = {
      ...settings,
      id,
      hazards: JSON.stringify(settings.hazards),
      alternatives: JSON.stringify(settings.alternatives),
    };
    await sql.keepItem(values, tx);
    await audit(
      {
        by: actor,
        subject: "item",
        subjectId: id,
        action: before ? "changed" : "added",
        details: { old: before ? asItem(before) : null, new: settings },
        now,
      },
      tx,
    );
    return id;
  });
}

/** Adds a supplier; one with a code takes orders over the network. */
export async function addSupplier(
  actor: Actor,
  input: { name: string; code: string; email: string; leadDays: number },
  now: Date,
): Promise<void> {
  const db = getDb();
  await db.transact(async (tx) => {
    const [same] = await db.models.Supplier.findAll({
      attributes: ["id"],
      where: { name: input.name },
      limit: 1,
      raw: true,
      transaction: tx,
    });
    if (same) throw new Refusal(422, "name", "There is a supplier of this name already.");
    const id = uuidv7();
    await db.models.Supplier.create(
      { id, name: input.name, code: input.code, email: input.email, leadDays: input.leadDays },
      { transaction: tx },
    );
    await audit({ by: actor, subject: "supplier", subjectId: id, action: "added", details: { new: input }, now }, tx);
  });
}

export async function listSuppliers(): Promise<
  { id: string; name: string; code: string; email: string; leadDays: number }[]
> {
  return getDb().models.Supplier.findAll({
    attributes: ["id", "name", "code", "email", "leadDays"],
    where: { active: true },
    order: ["name"],
    limit: 500,
    raw: true,
  });
}
