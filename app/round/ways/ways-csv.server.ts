import { must } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { depotPlace } from "~/kit/days/depot.server";
import { audit } from "~/kit/server/audit.server";
import { guardText, listed, type RowFault, tableOf, unguardText } from "~/kit/server/csv-table.server";
import { inSlices } from "~/kit/server/in-slices";

import * as sql from "./ways-csv.sql";

export const WAY_COLUMNS = ["from", "to", "minutes"] as const;
const MOST_MINUTES = 1440;
const CHUNK = 500;

export interface Way {
  from: string;
  to: string;
  minutes: number;
}

/** Places by name: the depot and all sites. A name that two customers use stands for neither. */
async function placesByName(): Promise<Map<string, string | null>> {
  const rows = await getDb().models.Site.findAll({ attributes: ["id", "name"], raw: true });
  const depot = await depotPlace();
  const places = new Map<string, string | null>();
  for (const { id, name } of [...rows, ...(depot ? [depot] : [])])
    places.set(name.toLowerCase(), places.has(name.toLowerCase()) ? null : id);
  return places;
}

/** The firm's own minutes between places, by name. */
export async function listWays(): Promise<Way[]> {
  const depot = await depotPlace();
  return sql.waysWithNames({ depotName: depot?.name ?? "", depotId: depot?.id ?? "" });
}

export async function waysCsv(): Promise<string> {
  const cell = (text: string): string =>
    /[",\r\n]/.test(guardText(text)) ? `"${guardText(text).replaceAll('"', '""')}"` : guardText(text);
  return (
    [
      WAY_COLUMNS.join(","),
      ...(await listWays()).map((way) => `${cell(way.from)},${cell(way.to)},${way.minutes}`),
    ].join("\r\n") + "\r\n"
  );
}

/** Takes the firm's own minutes over; with any fault nothing is written. Ways not named stay as they were. */
export async function importWays(
  actor: Actor,
  content: string,
  now: Date,
): Promise<{ faults: RowFault[]; written: number }> {
  const { rows, faults } = await tableOf(content, WAY_COLUMNS, WAY_COLUMNS);
  const places = await placesByName();
  const ways: { from: string; to: string; minutes: number }[] = [];
  await inSlices(rows, ({ line, cells }) => {
    const ends = (["from", "to"] as const).map((column) => {
      const name = unguardText(must(cells[column]).trim());
      const found = places.get(name.toLowerCase());
      if (found === undefined) faults.push({ line, column, reason: `There is no depot or site "${name}".` });
      if (found === null) faults.push({ line, column, reason: `More than one site is called "${name}".` });
      return found ?? null;
    });
    const text = must(cells.minutes).trim();
    const minutes = Number(text);
    if (text === "" || !Number.isInteger(minutes) || minutes < 0 || minutes > MOST_MINUTES)
      faults.push({
        line,
        column: "minutes",
        reason: `"${text}" is no whole number of minutes from 0 to ${MOST_MINUTES}.`,
      });
    else if (ends[0] && ends[1]) ways.push({ from: ends[0], to: ends[1], minutes });
  });
  if (faults.length > 0 || ways.length === 0) return { faults: listed(faults), written: 0 };
  await getDb().transact(async (tx) => {
    for (let i = 0; i < ways.length; i += CHUNK) {
      const part = ways.slice(i, i + CHUNK);
      await sql.keepWays(
        Object.assign(
          {},
          ...part.map((way, k) => ({ [`f${k}`]: way.from, [`t${k}`]: way.to, [`m${k}`]: way.minutes })),
        ) as Record<string, unknown>,
        part,
        tx,
      );
    }
    await audit(
      { by: actor, subject: "ways", subjectId: actor.id, action: "imported", details: { rows: ways.length }, now },
      tx,
    );
  });
  return { faults, written: ways.length };
}

export type Depot = NonNullable<Awaited<ReturnType<typeof depotPlace>>>;

/** Sets where rounds begin and end. */
export async function saveDepot(actor: Actor, depot: Omit<Depot, "id">, now: Date): Promise<void> {
  await getDb().transact(async (tx) => {
    const [before] = await getDb().models.Depot.findAll({
      attributes: ["id", "name", "timeZone", "latitude", "longitude"],
      order: ["name"],
      limit: 1,
      lock: tx.LOCK.UPDATE,
      raw: true,
      transaction: tx,
    });
    const id = before?.id ?? uuidv7();
    await sql.keepDepot({ id, ...depot }, tx);
    await audit(
      { by: actor, subject: "depot", subjectId: id, action: "changed", details: { old: before, new: depot }, now },
      tx,
    );
  });
}
