import { getDb, type PhotoRow, type Transaction } from "@db";
import sharp from "sharp";
import { v7 as uuidv7 } from "uuid";

import { MAX_PHOTO_BYTES } from "~/kit/forms/fields";
import { Refusal } from "~/kit/refusal";

/** Largest file taken from a phone. */
const LONGEST_SIDE = 1600;
const QUALITY = 80;
/** Longest a picture is worked on. */
const MAX_SECONDS = 10;
const NO_PICTURE = "This file is no picture that can be read. Take a JPEG or PNG.";
/** Pixels a picture may have before it is read at all: a small file can claim to be huge. */
const MAX_PIXELS = 60_000_000;

// What a phone's camera writes, told by its content; nothing else is opened: some kinds draw for minutes.
sharp.block({ operation: ["VipsForeignLoad"] });
sharp.unblock({
  operation: ["VipsForeignLoadJpeg", "VipsForeignLoadPng", "VipsForeignLoadWebp", "VipsForeignLoadHeif"],
});

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
