import { getDb, type MeterReadingRow, type ParkedReadingRow, type Transaction } from "@db";

import { assessMachine } from "~/duties/assess.server";
import type { Actor } from "~/kit/actor";
import { dayInZone } from "~/kit/days/site-day";
import { Refusal } from "~/kit/refusal";
import { audit, zoneOf } from "~/kit/server/audit.server";
import { readingRow, storeOutside } from "~/machines/meters.server";

import * as sql from "./gateway.sql";

/** A controller's clock may be this far ahead. */
export const CLOCK_SLACK_MS = 10 * 60_000;

export interface ParkedView {
  id: string;
  /** What it is a value of: a name at the gateway, else the meter or reading of a sheet. */
  ref: string;
  value: unknown;
  at: unknown;
  reason: string;
  parkedAt: Date;
  machineId: string | null;
  machineName: string | null;
  sheetId: string | null;
}

/** Readings that wait for a person, the latest first. */
export async function parkedNow(): Promise<ParkedView[]> {
  return (await sql.parkedNames()).map(({ payload, ref, ...row }) => ({
    ...row,
    ref: payload.name ?? ref,
    value: payload.value,
    at: payload.at,
  }));
}

/** A person decides on parked readings: taken as they are (a replaced controller, a busy night), or dropped; all or none. */
export async function settleParked(
  actor: Actor,
  ids: readonly string[],
  as: "taken" | "dropped",
  now: Date,
): Promise<void> {
  await getDb().transact(async (tx) => {
    for (const id of [...ids].sort()) await settleOne(actor, { id, as }, now, tx);
  });
}

async function settleOne(
  actor: Actor,
  { id, as }: { id: string; as: "taken" | "dropped" },
  now: Date,
  tx: Transaction,
): Promise<void> {
  const { models } = getDb();
  const row = await models.ParkedReading.findByPk(id, { raw: true, transaction: tx, lock: tx.LOCK.UPDATE });
  if (!row || row.settledAt !== null) return;
  if (as === "taken") {
    if (row.machineId === null) await takeFromGateway(actor, row, now, tx);
    else await takeFromSheet(actor, { ...row, machineId: row.machineId }, now, tx);
  }
  await models.ParkedReading.update(
    { settledBy: actor.id, settledAt: now, settledAs: as },
    { where: { id }, transaction: tx },
  );
  const { gatewayRef: ref, reason, payload } = row;
  await audit(
    {
      by: actor,
      subject: "gateway",
      subjectId: id,
      action: as,
      details: { ref: payload.name ?? ref, value: payload.value, reason },
      now,
    },
    tx,
  );
}

async function takeFromGateway(actor: Actor, row: ParkedReadingRow, now: Date, tx: Transaction): Promise<void> {
  const [to] = await sql.settledReadings({ ref: row.gatewayRef }, tx);
  if (!to) throw new Refusal(422, "no-meter", "Give a machine a meter with this gateway name first.");
  const { value, when } = valueOf(row, now);
  if (value < 0) throw cannotBe();
  const { machineId, meter, timeZone } = to;
  const reading = { machineId, meter, value, readOn: dayInZone(when, timeZone), readAt: when, byPerson: actor.id };
  const replaced = await isLower(reading, tx);
  const more = { source: "gateway" as const, replaced, note: TAKEN, externalId: row.externalId };
  await storeOutside([readingRow({ ...reading, ...more })], now, tx);
}

/** Its id is that of its entry, so that what is corrected there is corrected here. */
async function takeFromSheet(
  actor: Actor,
  row: ParkedReadingRow & { machineId: string },
  now: Date,
  tx: Transaction,
): Promise<void> {
  const { models } = getDb();
  const { machineId, sheetId, externalId: id, payload } = row;
  const { value, when } = valueOf(row, now);
  const readOn = dayInZone(when, await zoneOf(machineId, tx));
  const common = { id, machineId, sheetId, value, readOn, readAt: when, byPerson: actor.id };
  const name = payload.name ?? "";
  if (payload.meter) {
    if (value < 0) throw cannotBe();
    const replaced = await isLower({ ...common, meter: name }, tx);
    const reading = { ...common, meter: name, source: "sheet" as const, replaced, note: TAKEN };
    await models.MeterReading.bulkCreate([reading], { transaction: tx, updateOnDuplicate: ["value"] });
  } else {
    const reading = { ...common, reading: name, unit: payload.unit ?? "" };
    await models.Reading.bulkCreate([reading], { transaction: tx, updateOnDuplicate: ["value"] });
  }
  await assessMachine(machineId, now, tx);
}

const TAKEN = "Taken by hand";

async function isLower(
  { machineId, meter, value }: Pick<MeterReadingRow, "machineId" | "meter" | "value">,
  tx: Transaction,
): Promise<boolean> {
  const last = (await sql.lastValues({ ids: [machineId] }, tx)).find((one) => one.meter === meter);
  return last !== undefined && value < last.value;
}

function valueOf({ payload: { value, at } }: ParkedReadingRow, now: Date): { value: number; when: Date } {
  const when = typeof at === "string" ? new Date(at) : new Date(NaN);
  if (typeof value !== "number" || !Number.isFinite(value) || Number.isNaN(when.getTime())) throw cannotBe();
  if (when.getTime() > now.getTime() + CLOCK_SLACK_MS) throw cannotBe();
  return { value, when };
}

const cannotBe = (): Refusal =>
  new Refusal(422, "not-possible", "This reading cannot be taken: its value or its time cannot be. Drop it.");
