import { must } from "@core";

import type { Item } from "~/stores/items/catalogue.server";
import { exactQty } from "~/stores/ledger/exact-qty";
import type { Place } from "~/stores/ledger/places.server";

import type { DutySql, LoadView, PlacedNeed } from "./load.server";

/** A customer's shelf serves its own site: what lies there is taken off the needs and off the stock that is free. */
export function takeFromShelves(
  needs: PlacedNeed[],
  duties: readonly DutySql[],
  places: readonly Place[],
  stock: { itemId: string; placeId: string; free: number }[],
  items: ReadonlyMap<string, Item>,
): LoadView["onSite"] {
  const onSite: LoadView["onSite"] = [];
  for (const need of needs) {
    const shelf = places.find((place) => place.kind === "shelf" && place.siteId === need.siteId);
    const there = shelf && stock.find((row) => row.placeId === shelf.id && row.itemId === need.item);
    if (!there || there.free <= 0) continue;
    const taken = Math.min(there.free, need.qty);
    there.free = exactQty(there.free - taken);
    need.qty = exactQty(need.qty - taken);
    const item = items.get(need.item);
    const siteName = must(duties.find((duty) => duty.siteId === need.siteId)).siteName;
    onSite.push({ itemName: item?.name ?? need.item, unit: item?.unit ?? "", qty: taken, siteName });
  }
  return onSite;
}
