import { getDb, type PhotoRow, type Transaction } from "@db";
import sharp from "sharp";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { MAX_PHOTO_BYTES } from "~/kit/forms/fields";
import { Refusal } from "~/kit/refusal";

/** Largest file taken from a phone. */
const LONGEST_SIDE = 1600;
const QUALITY = 80;
/** Longest a picture is worked on. */
const MAX_SECONDS = 10;
/** What a phone's camera writes, by how the file begins; anything else is not even opened: some kinds draw for minutes. */
const BEGINS: ((head: Buffer) => boolean)[] = [
  (head) => head.subarray(0, 3).equals(Buffer.from([0xff, 0xd8, 0xff])),
  (head) => head.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])),
  (head) => head.toString("latin1", 0, 4) === "RIFF" && head.toString("latin1", 8, 12) === "WEBP",
  (head) =>
    head.toString("latin1", 4, 8) === "ftyp" &&
    /^(heic|heix|heim|heis|mif1|msf1|avif)$/.test(head.toString("latin1", 8, 12)),
];
const NO_PICTURE = "This file is no picture that can be read. Take a JPEG or PNG.";
/** Pixels a picture may have before it is read at all: a small file can claim to be huge. */
const MAX_PIXELS = 60_000_000;

/**
 * Where pictures are kept: behind these two functions, in a table of their own, so that every app process has them.
 * What comes in is written anew as JPEG: that strips the position and everything else a phone adds.
 *
 * @throws Refusal when the content is no picture, whatever its name says
 */
export async function preparePhoto(bytes: Uint8Array, now: Date): Promise<PhotoRow> {
  if (bytes.length > MAX_PHOTO_BYTES)
    throw new Refusal(
      413,
      "photo",
      `The picture is larger than ${MAX_PHOTO_BYTES / 1024 / 1024} MB. Take it again with less resolution.`,
    );
  const head = Buffer.from(bytes.buffer, bytes.byteOffset, Math.min(bytes.length, 16));
  if (!BEGINS.some((begins) => begins(head))) throw new Refusal(422, "photo", NO_PICTURE);
  try {
    const { data, info } = await sharp(bytes, { limitInputPixels: MAX_PIXELS })
      .timeout({ seconds: MAX_SECONDS })
      .rotate()
      .resize({ width: LONGEST_SIDE, height: LONGEST_SIDE, fit: "inside", withoutEnlargement: true })
      .jpeg({ quality: QUALITY })
      .toBuffer({ resolveWithObject: true });
    return { id: uuidv7(), mime: "image/jpeg", bytes: data, width: info.width, height: info.height, madeAt: now };
  } catch {
    throw new Refusal(422, "photo", NO_PICTURE);
  }
}

export async function storePhoto(photo: PhotoRow, tx: Transaction): Promise<void> {
  await getDb().models.Photo.create(photo, { transaction: tx });
}

/**
 * Stores a sheet's picture under the id that the device gave it; sent again it changes nothing. The id belongs to the entry
 * that names it: nobody else's picture comes under it, and none before the entry.
 */
export async function storeSheetPhoto(
  who: Pick<Actor, "id">,
  sheetId: string,
  photoId: string,
  bytes: Uint8Array,
  now: Date,
): Promise<void> {
  const db = getDb();
  if (!(await db.models.Sheet.findByPk(sheetId, { attributes: ["id"], raw: true })))
    throw new Refusal(404, "no-such-run", "This sheet does not exist.");
  const entries = await db.models.LogEntry.findAll({
    attributes: ["byPerson", "body"],
    where: { sheetId, type: "photo" },
    raw: true,
  });
  const named = entries.find(({ body }) => body.type === "photo" && body.photo === photoId);
  if (!named) throw new Refusal(409, "entry-first", "No entry names this picture yet. It is sent again by itself.");
  if (named.byPerson !== who.id)
    throw new Refusal(
      403,
      "not-yours",
      "Another person took this picture: they must sign in on this device to send it.",
    );
  if (await db.models.Photo.findByPk(photoId, { attributes: ["id"], raw: true })) return;
  const photo = await preparePhoto(bytes, now);
  await db.models.Photo.bulkCreate([{ ...photo, id: photoId }], { ignoreDuplicates: true });
}

/** Which of these pictures are there already. */
export async function arrivedPhotos(ids: readonly string[]): Promise<string[]> {
  if (ids.length === 0) return [];
  return (await getDb().models.Photo.findAll({ attributes: ["id"], where: { id: [...ids] }, raw: true })).map(
    (row) => row.id,
  );
}

export async function readPhoto(id: string): Promise<Pick<PhotoRow, "mime" | "bytes">> {
  const photo = await getDb().models.Photo.findByPk(id, { raw: true });
  if (!photo) throw new Refusal(404, "no-such-photo", "This picture does not exist.");
  return photo;
}
