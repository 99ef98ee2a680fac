import { type ExpectedRange, expectedRange, plausible } from "@core";
import { ER_DUP_ENTRY, errorNumber, getDb, type MeterReadingRow, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import { assessMachine } from "~/duties/assess.server";
import { getMachineNames } from "~/duties/machine-names.server";
import type { Actor } from "~/kit/actor";
import { dayInZone } from "~/kit/days/site-day";
import { Refusal } from "~/kit/refusal";
import { audit, zoneOf } from "~/kit/server/audit.server";

import * as sql from "./meters.sql";

async function recentReadings(machineId: string, meter: string): Promise<{ on: string; value: number }[]> {
  const rows = await sql.latestReadings({ machineId, meter });
  return rows.reverse();
}

/** Where each meter's next value is expected. */
export async function expectations(
  machineId: string,
  meters: readonly string[],
  now: Date,
): Promise<Record<string, ExpectedRange>> {
  const today = dayInZone(now, await zoneOf(machineId));
  const found: Record<string, ExpectedRange> = {};
  for (const meter of meters) {
    const range = expectedRange(await recentReadings(machineId, meter), today);
    if (range) found[meter] = range;
  }
  return found;
}

/**
 * A question to ask before a value is logged that may be a slip, or a replaced meter: only the person can tell which.
 *
 * @returns null when the value is nothing to ask about
 */
export async function meterQuestion(
  machineId: string,
  meter: string,
  value: number,
  now: Date,
): Promise<string | null> {
  const range = (await expectations(machineId, [meter], now))[meter];
  if (!range || (value >= range.low && value <= range.high)) return null;
  const words = `The last value was ${range.last} on ${range.lastOn}, this one is ${value}.`;
  if (value < range.low) return `${words} A meter does not run backwards: is it right, or was the meter replaced?`;
  return `${words} ${range.perDay === null ? "" : `At ${Math.round(range.perDay * 10) / 10} a day up to ${Math.floor(range.high)} was expected. `}Is it right?`;
}

/**
 * Refuses what a meter cannot show: more hours than there are, less than nothing. The caller has asked about the rest.
 *
 * @throws Refusal beside the field, with the reason
 */
async function refuseImpossible(
  machineId: string,
  { meter, value }: { meter: string; value: number },
  on: string,
): Promise<void> {
  const unit = (await getMachineNames(machineId)).meters.find((one) => one.id === meter)?.unit ?? "";
  const history = await recentReadings(machineId, meter);
  const { verdict, because } = plausible({ value, unit, history, on, kind: "meter", possible: [0, null] });
  if (verdict === "impossible") throw new Refusal(422, "value", because);
}

export function readingRow(
  values: Pick<MeterReadingRow, "machineId" | "meter" | "value" | "readOn" | "readAt" | "byPerson" | "source"> &
    Partial<MeterReadingRow>,
): MeterReadingRow {
  return { id: uuidv7(), sheetId: null, replaced: false, note: "", externalId: null, ...values };
}

/** Logs a meter reading by hand and re-assesses the machine's duties. */
export async function logMeterReading(
  actor: Actor,
  machineId: string,
  input: { meter: string; value: number },
  now: Date,
): Promise<void> {
  const db = getDb();
  // Before the transaction: one that waits for a second connection can starve the pool.
  const readOn = dayInZone(now, await zoneOf(machineId));
  await refuseImpossible(machineId, input, readOn);
  await db.transact(async (tx) => {
    await db.models.MeterReading.create(
      readingRow({
        machineId,
        meter: input.meter,
        value: input.value,
        readOn,
        readAt: now,
        byPerson: actor.id,
        source: "hand",
      }),
      { transaction: tx },
    );
    await assessMachine(machineId, now, tx);
  });
}

/**
 * Logs that a meter was replaced: the old one's last value, if it can still be read, and what the new one starts at.
 * It is a reading of its own: nothing that was read before is changed, and use goes on from the old sum.
 */
export async function replaceMeter(
  actor: Actor,
  machineId: string,
  input: { meter: string; lastValue: number | null; startsAt: number; note: string },
  now: Date,
): Promise<void> {
  const db = getDb();
  const readOn = dayInZone(now, await zoneOf(machineId));
  const recent = await recentReadings(machineId, input.meter);
  const last = recent[recent.length - 1];
  const oldest = input.lastValue ?? last?.value ?? 0;
  if (last && input.lastValue !== null && input.lastValue < last.value) {
    throw new Refusal(
      422,
      "lastValue",
      `The old meter showed ${last.value} on ${last.on} already; it cannot have ended at ${input.lastValue}.`,
    );
  }
  if (input.startsAt >= oldest && oldest > 0) {
    throw new Refusal(
      422,
      "startsAt",
      `A new meter starts below what the old one showed (${oldest}). If this is the same meter, log a reading instead.`,
    );
  }
  await db.transact(async (tx) => {
    const row = { machineId, meter: input.meter, readOn, byPerson: actor.id, source: "hand" as const };
    if (input.lastValue !== null) {
      await db.models.MeterReading.create(
        readingRow({ ...row, value: input.lastValue, readAt: now, note: "Last value of the old meter" }),
        {
          transaction: tx,
        },
      );
    }
    const replacedAt = new Date(now.getTime() + 1);
    await db.models.MeterReading.create(
      readingRow({ ...row, value: input.startsAt, readAt: replacedAt, replaced: true, note: input.note }),
      {
        transaction: tx,
      },
    );
    await audit(
      { by: actor, subject: "machine", subjectId: machineId, action: "meter replaced", details: input, now },
      tx,
    );
    await assessMachine(machineId, now, tx);
  });
}

/** Gives a machine a meter of its own, by hand or from the gateway. */
export async function addMeter(
  actor: Actor,
  machineId: string,
  input: { meter: string; name: string; unit: string; basis: string; gatewayRef: string | null },
  now: Date,
): Promise<void> {
  const db = getDb();
  try {
    await db.transact(async (tx) => {
      await db.models.MachineMeter.upsert({ machineId, ...input }, { transaction: tx });
      await audit(
        { by: actor, subject: "machine", subjectId: machineId, action: "meter set up", details: input, now },
        tx,
      );
    });
  } catch (error) {
    if (errorNumber(error) !== ER_DUP_ENTRY) throw error;
    throw new Refusal(409, "gatewayRef", "Another meter gets its readings under this gateway name already.");
  }
}

/**
 * Stores readings that came from outside, each once by its external id, and re-assesses the machines they are of.
 *
 * @returns how many were new
 */
export async function storeOutside(rows: readonly MeterReadingRow[], now: Date, tx: Transaction): Promise<number> {
  if (rows.length === 0) return 0;
  const db = getDb();
  const known = new Set(
    (
      await db.models.MeterReading.findAll({
        attributes: ["externalId"],
        where: { externalId: rows.flatMap((row) => row.externalId ?? []) },
        raw: true,
        transaction: tx,
      })
    ).map((row) => row.externalId),
  );
  const fresh = rows.filter(
    (row, i) => !known.has(row.externalId) && rows.findIndex((one) => one.externalId === row.externalId) === i,
  );
  await db.models.MeterReading.bulkCreate(fresh, { transaction: tx });
  for (const machineId of new Set(fresh.map((row) => row.machineId))) await assessMachine(machineId, now, tx);
  return fresh.length;
}
