import { foldRun } from "@core";
import { getDb } from "@db";

import { exactQty } from "~/stores/ledger/exact-qty";
import { placeOf } from "~/stores/ledger/places.server";
import { bookedForSheet } from "~/stores/ledger/sheet-stock.sql";
import { takenBy } from "~/stores/ledger/taken-by";

import { procedureOf, readEntries } from "./sheet-context.server";
import * as sql from "./sheets.sql";

export interface UseDifference {
  sheetId: string;
  item: string;
  /** What the log says was taken, and what the ledger has booked for it. */
  log: number;
  ledger: number;
}

/**
 * Sheets whose logs say that they took something else from the stores than is booked for them: empty when all is well.
 * Reads every sheet that took anything.
 */
export async function verifyUses(): Promise<UseDifference[]> {
  const known = new Set((await getDb().models.Item.findAll({ attributes: ["id"], raw: true })).map((row) => row.id));
  const places = new Map<string, boolean>();
  const hasPlace = async (personId: string): Promise<boolean> => {
    const place = places.get(personId) ?? (await getDb().transact((tx) => placeOf(personId, tx))) !== null;
    places.set(personId, place);
    return place;
  };
  const differences: UseDifference[] = [];
  for (const { sheetId } of await sql.sheetsThatTook()) {
    const log = new Map<string, number>();
    const sheet = await getDb().models.Sheet.findByPk(sheetId, { raw: true });
    const entries = sheet ? await readEntries(sheetId) : [];
    if (sheet)
      for (const one of takenBy(foldRun(await procedureOf(sheet), entries), entries))
        // Without a place of theirs, what a person takes comes from nowhere that is counted.
        if (known.has(one.item) && (await hasPlace(one.by))) add(log, one.item, one.qty);
    const ledger = new Map<string, number>();
    for (const one of await bookedForSheet({ sheetId })) add(ledger, one.itemId, -one.qty);
    for (const item of new Set([...log.keys(), ...ledger.keys()])) {
      const [said, booked] = [log.get(item) ?? 0, ledger.get(item) ?? 0];
      if (said !== booked) differences.push({ sheetId, item, log: said, ledger: booked });
    }
  }
  return differences;
}

function add(sums: Map<string, number>, item: string, qty: number): void {
  sums.set(item, exactQty((sums.get(item) ?? 0) + qty));
}
