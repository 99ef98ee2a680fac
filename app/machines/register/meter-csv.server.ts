import { createHash } from "node:crypto";

import { must, readNumber } from "@core";
import { getDb, type MeterReadingRow } from "@db";

import type { Actor } from "~/kit/actor";
import { isDay } from "~/kit/days/is-day";
import { dayCell, type DayOrder, dayOrderOf } from "~/kit/days/read-day";
import { dayInZone } from "~/kit/days/site-day";
import { csvText, listed, type RowFault, tableOf, unguardText } from "~/kit/server/csv-table.server";
import { inSlices } from "~/kit/server/in-slices";
import { readingRow, storeOutside } from "~/machines/meters.server";

import * as sql from "./meter-csv.sql";

export const METER_COLUMNS = ["tag", "meter", "value", "read_at", "note"] as const;
type Column = (typeof METER_COLUMNS)[number];
const REQUIRED: Column[] = ["tag", "meter", "value", "read_at"];
const METER_NAME = /^[a-z0-9]+(-[a-z0-9]+)*$/;
const INSTANT = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:\d{2})$/;
const CHUNK = 500;

/** A file to fill in. */
export const readingsTemplate = (): string =>
  csvText(METER_COLUMNS, [["EXAMPLE-1", "running-hours", 2927.5, "2026-04-03", "Row to show how: take it out"]]);

export interface MeterImport {
  good: number;
  /** How many were not there yet; null while nothing was written. */
  added: number | null;
  faults: RowFault[];
}

/**
 * Takes meter readings from a CSV file: all good rows or, with faults and without `takeGood`, none. A row counts once,
 * however often the file is sent.
 */
export async function importReadings(
  actor: Actor,
  content: string,
  { takeGood = false, dayOrder = null }: { takeGood?: boolean; dayOrder?: DayOrder | null },
  now: Date,
): Promise<MeterImport> {
  const { rows, faults } = await tableOf(content, METER_COLUMNS, REQUIRED);
  const machines = await machinesByTag(rows.map((row) => tagOf(row.cells.tag)));
  const order = dayOrder ?? dayOrderOf(rows.map((row) => row.cells.read_at ?? ""));
  const good: MeterReadingRow[] = [];
  await inSlices(rows, ({ line, cells }) => {
    const cell = (column: Column): string | undefined => cells[column];
    const fault = (column: Column, reason: string): number => faults.push({ line, column, reason });
    const before = faults.length;
    const machine = machines.get(tagOf(cell("tag")));
    const meter = must(cell("meter")).trim();
    const value = valueOf(must(cell("value")));
    const time = must(cell("read_at")).trim();
    const day = INSTANT.test(time) ? null : dayCell(time, order);
    const readAt = day === null ? instantOf(time) : "day" in day ? instantOf(day.day) : null;
    if (!machine) fault("tag", "No machine in the register has this tag.");
    if (!METER_NAME.test(meter) || meter.length > 60)
      fault("meter", "Is no meter's short name, such as running-hours.");
    if (value === null || value < 0 || value > 1e12) fault("value", "Must be a number, zero or more.");
    if (day !== null && "reason" in day) fault("read_at", day.reason);
    else if (!readAt) fault("read_at", "Must be a day, such as 2026-04-03, or an instant with its offset.");
    else if (readAt.getTime() > now.getTime() + 86_400_000) fault("read_at", "Lies in the future.");
    if (faults.length > before) return;
    good.push(
      readingRow({
        machineId: must(machine).id,
        meter,
        value: must(value),
        readOn: day !== null && "day" in day ? day.day : dayInZone(must(readAt), must(machine).timeZone),
        readAt: must(readAt),
        byPerson: actor.id,
        source: "import",
        note: unguardText(cell("note") ?? "").slice(0, 500),
        externalId: `csv:${createHash("sha256")
          .update(`${must(machine).id}|${meter}|${must(readAt).toISOString()}|${value}`)
          .digest("hex")
          .slice(0, 60)}`,
      }),
    );
  });
  if (good.length === 0 || (faults.length > 0 && !takeGood))
    return { good: good.length, added: null, faults: listed(faults) };
  const db = getDb();
  const added = await db.transact(async (tx) => {
    let sum = 0;
    for (let i = 0; i < good.length; i += CHUNK) sum += await storeOutside(good.slice(i, i + CHUNK), now, tx);
    return sum;
  });
  return { good: good.length, added, faults: listed(faults) };
}

const tagOf = (cell: string | undefined): string =>
  unguardText((cell ?? "").trim())
    .trim()
    .toLowerCase();

/** A plain day counts as noon UTC: the day itself is kept beside it. */
function instantOf(text: string): Date | null {
  if (!isDay(text) && !INSTANT.test(text)) return null;
  const at = new Date(isDay(text) ? `${text}T12:00:00Z` : text);
  return Number.isNaN(at.getTime()) || (isDay(text) && at.toISOString().slice(0, 10) !== text) ? null : at;
}

async function machinesByTag(tags: readonly string[]): Promise<Map<string, { id: string; timeZone: string }>> {
  const unique = [...new Set(tags)].filter(Boolean);
  const found = new Map<string, { id: string; timeZone: string }>();
  for (let i = 0; i < unique.length; i += CHUNK) {
    const rows = await sql.machinesByTag({ tags: unique.slice(i, i + CHUNK) });
    for (const row of rows) found.set(row.tag.toLowerCase(), row);
  }
  return found;
}

/** A figure that can be meant in one way only; a file says nothing of whose format it is in. */
function valueOf(text: string): number | null {
  const read = readNumber(text, { decimal: ".", group: null });
  if (read.kind === "ambiguous") return text.includes(".") ? read.values[0] : null;
  return read.kind === "number" ? read.value : null;
}
