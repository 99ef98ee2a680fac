import { getDb } from "@db";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { preparePhoto } from "~/kit/server/photos.server";

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
