import { must } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { publishProcedures } from "~/procedures/procedures.server";
import { addPlace } from "~/stores/ledger/places.server";
import { receive } from "~/stores/ledger/stock.server";
import { addActor, freshDatabase, importLines, publishShipped } from "~/testing/database";

import { earlier } from "../../core/sheet/testing/shipped";

export const NOW = new Date("2026-06-10T08:00:00Z");
export const ON = "2026-06-10";
export let mo: Actor;
export let kim: Actor;
export let lead: Actor;
export let depot: string;
export let van: string;
export let kimsVan: string;
export let shelf: string;
export let supplierId: string;

export const later = (minutes: number): Date => new Date(NOW.getTime() + minutes * 60_000);
export const onHand = async (itemId: string, placeId: string): Promise<number> => {
  const [row] = await getDb().select<{ qty: string }>(
    "SELECT on_hand AS qty FROM stock WHERE item_id = :itemId AND place_id = :placeId",
    { itemId, placeId },
  );
  return Number(row?.qty ?? 0);
};
export const asked = async (itemId: string, placeId: string): Promise<boolean> => {
  const [row] = await getDb().select<{ asked: number }>(
    "SELECT count_asked AS asked FROM stock WHERE item_id = :itemId AND place_id = :placeId",
    {
      itemId,
      placeId,
    },
  );
  return Boolean(row?.asked);
};
export const put = (
  itemId: string,
  placeId: string,
  qty: number,
  lot: string | null = null,
  expiresOn: string | null = null,
): Promise<void> => receive(lead, { itemId, placeId, qty, lot, expiresOn, note: "" }, NOW);

/** A firm with two vans, a depot and a customer's shelf; nothing is on the books yet. */
export async function beginStores(): Promise<void> {
  await freshDatabase();
  await publishShipped("all");
  // What takes a part for sure, and often: rings that are renewed at each strip, as an earlier version had it.
  await publishProcedures([{ ...earlier("soft-serve-freezer-14-day"), id: "freezer-rings", version: 1 }], NOW);
  mo = await addActor("Mo");
  kim = await addActor("Kim");
  lead = await addActor("Lea", "lead");
  await importLines(
    lead,
    [
      "Co,Works,,Europe/Lisbon,,06:00-20:00,Hall,S-1,Ice,flake-ice-maker,,2025-05-01",
      "Co,Works,,Europe/Lisbon,,06:00-20:00,Hall,S-2,Printer,card-printer,,2026-05-01",
      "Co,Works,,Europe/Lisbon,,06:00-20:00,Hall,S-3,Scrubber,ride-on-scrubber,,2025-05-01",
      "Co,Lab,,Europe/Lisbon,,,Hall,S-4,Stainer,slide-stainer,,2026-05-01",
      "Co,Lab,,Europe/Lisbon,,,Hall,S-5,Freezer,soft-serve-freezer,,2026-05-01",
    ],
    new Date("2026-05-01T10:00:00Z"),
  );
  await getDb().run("UPDATE machines SET model = 'SF', serial = 'SF-77' WHERE tag = 'S-5'");
  const [lab] = await getDb().select<{ id: string }>("SELECT id FROM sites WHERE name = 'Lab'");
  depot = await addPlace(lead, { kind: "depot", name: "Depot", personId: null, siteId: null }, NOW);
  van = await addPlace(lead, { kind: "van", name: "Van Mo", personId: mo.id, siteId: null }, NOW);
  kimsVan = await addPlace(lead, { kind: "van", name: "Van Kim", personId: kim.id, siteId: null }, NOW);
  shelf = await addPlace(lead, { kind: "shelf", name: "Lab shelf", personId: null, siteId: must(lab).id }, NOW);
  supplierId = uuidv7();
  await getDb().run("INSERT INTO suppliers (id, name, code, lead_days) VALUES (:supplierId, 'Trade', 'T', 4)", {
    supplierId,
  });
}
