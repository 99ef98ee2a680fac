import { must, type Procedure, questionValue, type RunResults } from "@core";
import { getDb, type SheetRow, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import { dayInZone } from "~/kit/days/site-day";

import { recentValues } from "./past-values.server";
import * as sql from "./sheets.sql";

type Value = RunResults["meterReadings"][number] | RunResults["readings"][number];

interface Closed {
  sheet: SheetRow;
  procedure: Procedure;
  timeZone: string;
  /** Who closed it. */
  by: string;
  now: Date;
}

/**
 * What of a sheet's values moves due days and trends: those that are what the machine shows, and those that a person was asked
 * about. The others are parked, as the gateway's are, until somebody has looked at them.
 */
export async function usedResults(results: RunResults, closed: Closed, tx: Transaction): Promise<RunResults> {
  const { sheet, procedure, timeZone, now } = closed;
  const all: Value[] = [...results.meterReadings, ...results.readings];
  if (all.length === 0) return results;
  const ids = all.map((one) => one.eventId);
  const { models } = getDb();
  const where = { id: ids };
  const query = { attributes: ["id"] as ["id"], where, raw: true as const, transaction: tx };
  const stored = new Set(
    [...(await models.MeterReading.findAll(query)), ...(await models.Reading.findAll(query))].map((row) => row.id),
  );
  const past = await recentValues(sheet.machineId, new Set(ids), tx);
  const steps = new Map(procedure.steps.map((step) => [step.id, step]));
  const parked = new Set<string>();
  for (const one of all) {
    if (stored.has(one.eventId)) continue;
    const on = dayInZone(new Date(one.at), timeZone);
    const { verdict, because } = questionValue(procedure, must(steps.get(one.step)), one.value, { past, on });
    if (verdict !== "impossible" && (verdict !== "unusual" || one.asked)) continue;
    parked.add(one.eventId);
    await sql.parkValue(
      {
        id: uuidv7(),
        entryId: one.eventId,
        machineId: sheet.machineId,
        sheetId: sheet.id,
        payload: JSON.stringify(
          "meter" in one
            ? { value: one.value, at: one.at, name: one.meter, meter: true }
            : { value: one.value, at: one.at, name: one.reading, unit: one.unit },
        ),
        reason: because.slice(0, 300),
        now,
      },
      tx,
    );
  }
  await unpark(
    ids.filter((id) => !parked.has(id)),
    closed,
    tx,
  );
  const used = <One extends Value>(list: readonly One[]): One[] => list.filter((one) => !parked.has(one.eventId));
  const meterReadings = used(results.meterReadings);
  return {
    meterReadings,
    meters: Object.fromEntries(meterReadings.map((one) => [one.meter, one.value])),
    readings: used(results.readings),
  };
}

/** What was corrected to what can be meant waits for nobody any more. */
async function unpark(ids: readonly string[], { by, now }: Closed, tx: Transaction): Promise<void> {
  await getDb().models.ParkedReading.update(
    { settledBy: by, settledAt: now, settledAs: "taken" },
    { where: { externalId: [...ids], settledAt: null }, transaction: tx },
  );
}
