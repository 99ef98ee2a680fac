import { getDb, type MeterReadingRow, Op, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";
import * as yup from "yup";

import { assessMachine } from "~/duties/assess.server";
import { dayInZone } from "~/kit/days/site-day";
import { Refusal } from "~/kit/refusal";
import { readingRow, storeOutside } from "~/machines/meters.server";

import * as sql from "./gateway.sql";
import { CLOCK_SLACK_MS, parkedNow, type ParkedView } from "./parked.server";

const NAME = "gateway";
const BATCH = 500;
const TIMEOUT_MS = 10_000;
const MAX_BYTES = 2 * 1024 * 1024;
const FIRST_WAIT_MS = 5_000;
const LONGEST_WAIT_MS = 5 * 60_000;

/** Whatever it is: what cannot be true is parked with the reading, not refused with the whole answer. */
const anything = yup.mixed<object>() as unknown as yup.Schema<unknown>;

/** What the gateway sends; anything else is parked or refused as a whole. */
const answerSchema = yup.object({
  readings: yup
    .array(
      yup.object({
        id: yup.string().strict().required().max(80),
        ref: yup.string().strict().required().max(120),
        kind: yup.string().oneOf(["meter", "light", "alarm"]).required(),
        value: anything,
        at: anything,
        restarted: yup.boolean(),
        on: yup.boolean(),
        text: yup.string().max(300),
      }),
    )
    .max(5000)
    .required(),
  next: yup.string().strict().required().max(80),
  more: yup.boolean().required(),
});
type GatewayAnswer = yup.InferType<typeof answerSchema>;
type GatewayReading = NonNullable<GatewayAnswer["readings"]>[number];

export interface PollResult {
  outcome: "ok" | "waiting" | "failed";
  taken: number;
  parked: number;
  more: boolean;
  message: string;
}

interface GatewayState {
  readTo: string;
  failures: number;
  nextTryAt: Date | null;
}

/**
 * Asks the gateway once for what is new. Readings and the place read up to are stored in one transaction: whatever dies
 * in between, each reading is there once. A failed try is followed by a longer wait.
 */
export async function pollGateway(url: string, now: Date, ask: typeof fetch = fetch): Promise<PollResult> {
  const db = getDb();
  await sql.knowGateway({ name: NAME });
  const [state] = (await db.models.Gateway.findAll({
    attributes: ["readTo", "failures", "nextTryAt"],
    where: { name: NAME },
    raw: true,
  })) as [GatewayState];
  if (state.nextTryAt && state.nextTryAt > now)
    return { outcome: "waiting", taken: 0, parked: 0, more: false, message: "" };
  let answer: GatewayAnswer;
  try {
    answer = await fetchReadings(url, state.readTo, ask);
  } catch (error) {
    const failures = state.failures + 1;
    const wait = Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** Math.min(10, state.failures));
    const message = `The gateway did not answer rightly: ${(error as Error).message}`.slice(0, 300);
    await db.models.Gateway.update(
      { failures, nextTryAt: new Date(now.getTime() + wait), message },
      { where: { name: NAME } },
    );
    return { outcome: "failed", taken: 0, parked: 0, more: false, message };
  }
  const { taken, parked } = await db.transact((tx) => storeAnswer(answer, state.readTo, now, tx));
  return { outcome: "ok", taken, parked, more: answer.more, message: "" };
}

async function fetchReadings(url: string, after: string, ask: typeof fetch): Promise<GatewayAnswer> {
  const response = await ask(`${url.replace(/\/$/, "")}/readings?after=${encodeURIComponent(after)}&limit=${BATCH}`, {
    signal: AbortSignal.timeout(TIMEOUT_MS),
    redirect: "error",
  });
  if (!response.ok) throw new Error(`status ${response.status}`);
  const text = await response.text();
  if (text.length > MAX_BYTES) throw new Error("the answer is too large");
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    throw new Error("the answer is no JSON");
  }
  return answerSchema.validate(raw);
}

export interface Mapped {
  machineId: string;
  meter: string;
  unit: string;
  timeZone: string;
}

async function storeAnswer(
  answer: GatewayAnswer,
  readTo: string,
  now: Date,
  tx: Transaction,
): Promise<{ taken: number; parked: number }> {
  const db = getDb();
  const readings = answer.readings;
  const refs = [...new Set(readings.map((one) => one.ref))];
  const mapped = new Map(
    (refs.length === 0 ? [] : await sql.metersByReference({ refs }, tx)).map((row) => [row.ref, row]),
  );
  const last = await lastValues([...mapped.values()], tx);
  const rows: MeterReadingRow[] = [];
  const bad: { reading: GatewayReading; reason: string }[] = [];
  const events: { reading: GatewayReading; to: Mapped }[] = [];
  const unknown = new Set<string>();
  const inOrder = readings
    .map((reading, i) => ({ reading, i }))
    .sort((a, b) => stampOf(a.reading) - stampOf(b.reading) || a.i - b.i);
  for (const { reading } of inOrder) {
    const to = mapped.get(reading.ref);
    if (!to) {
      // One parked reading says that a name is not known; the next thousand would say nothing more.
      if (!unknown.has(reading.ref))
        bad.push({ reading, reason: "No machine has a meter of this name at the gateway." });
      unknown.add(reading.ref);
      continue;
    }
    const key = `${to.machineId}/${to.meter}`;
    const reason = faultOf(reading, to, last.get(key) ?? null, now);
    if (reason) bad.push({ reading, reason });
    else if (reading.kind !== "meter") events.push({ reading, to });
    else {
      const at = new Date(stampOf(reading));
      const before = last.get(key);
      if (!before || at >= before.at) last.set(key, { at, value: reading.value as number });
      rows.push(
        readingRow({
          machineId: to.machineId,
          meter: to.meter,
          value: reading.value as number,
          readOn: dayInZone(at, to.timeZone),
          readAt: at,
          byPerson: null,
          source: "gateway",
          replaced: reading.restarted === true && before !== undefined && (reading.value as number) < before.value,
          externalId: `gw:${reading.id}`.slice(0, 80),
        }),
      );
    }
  }
  const taken = (await storeOutside(rows, now, tx)) + (await storeOccurrences(events, now, tx));
  const parked = await park(bad, now, tx);
  // Two polls over one state would store the same twice over: the place read up to moves only from where it was read.
  const [moved] = await db.models.Gateway.update(
    { readTo: answer.next, failures: 0, nextTryAt: null, lastOkAt: now, message: "" },
    { where: { name: NAME, readTo }, transaction: tx },
  );
  if (moved === 0 && answer.next !== readTo)
    throw new Refusal(409, "read-elsewhere", "Another process reads the gateway.");
  return { taken, parked };
}

const stampOf = (reading: GatewayReading): number => (typeof reading.at === "string" ? Date.parse(reading.at) : NaN);

async function lastValues(
  mapped: readonly Mapped[],
  tx: Transaction,
): Promise<Map<string, { at: Date; value: number }>> {
  const last = new Map<string, { at: Date; value: number }>();
  if (mapped.length === 0) return last;
  const rows = await sql.lastValues({ ids: [...new Set(mapped.map((one) => one.machineId))] }, tx);
  for (const { machineId, meter, value, at } of rows) last.set(`${machineId}/${meter}`, { at, value });
  return last;
}

/** Why a reading cannot be true; null when it can. */
function faultOf(
  reading: GatewayReading,
  to: Mapped,
  last: { at: Date; value: number } | null,
  now: Date,
): string | null {
  const at = stampOf(reading);
  if (Number.isNaN(at)) return "Its time cannot be read.";
  if (at > now.getTime() + CLOCK_SLACK_MS) return "It lies in the future.";
  if (reading.kind !== "meter") return null;
  const { value } = reading;
  if (typeof value !== "number" || !Number.isFinite(value))
    return `Its value is no number: ${(JSON.stringify(value) as string | undefined)?.slice(0, 60) ?? "none"}.`;
  if (value < 0) return `Its value is negative: ${value}.`;
  if (!last || at < last.at.getTime()) return null;
  if (value < last.value && reading.restarted !== true)
    return `It is lower than the ${last.value} before it, and the controller does not say that it was replaced.`;
  const hours = (at - last.at.getTime()) / 3_600_000;
  if (to.unit === "h" && value - last.value > hours + 0.5)
    return `It counts ${Math.round(value - last.value)} h more, but only ${Math.round(hours)} h have passed.`;
  return null;
}

/** Lights and alarms are occurrences on the machine, under the name their meter has there. */
async function storeOccurrences(
  events: readonly { reading: GatewayReading; to: Mapped }[],
  now: Date,
  tx: Transaction,
): Promise<number> {
  const db = getDb();
  let taken = 0;
  for (const { reading, to } of events) {
    if (reading.kind === "light" && reading.on !== true) continue;
    const at = new Date(stampOf(reading));
    const note = `${reading.text ?? "Light on"} (gateway ${reading.id})`.slice(0, 500);
    const happensOn = dayInZone(at, to.timeZone);
    const [known] = await db.models.Occurrence.findAll({
      attributes: ["id"],
      where: { machineId: to.machineId, happensOn, event: to.meter, note },
      limit: 1,
      raw: true,
      transaction: tx,
    });
    if (known) continue;
    await db.models.Occurrence.create(
      { id: uuidv7(), machineId: to.machineId, event: to.meter, happensOn, note, byPerson: null, loggedAt: now },
      { transaction: tx },
    );
    await assessMachine(to.machineId, now, tx);
    taken += 1;
  }
  return taken;
}

async function park(
  bad: readonly { reading: GatewayReading; reason: string }[],
  now: Date,
  tx: Transaction,
): Promise<number> {
  const db = getDb();
  let parked = 0;
  for (const { reading, reason } of bad) {
    const unknownRef = reason.startsWith("No machine");
    if (unknownRef) {
      const [known] = await db.models.ParkedReading.findAll({
        attributes: ["id"],
        where: { gatewayRef: reading.ref, reason },
        limit: 1,
        raw: true,
        transaction: tx,
      });
      if (known) continue;
    }
    parked += await sql.parkReadings(
      {
        id: uuidv7(),
        externalId: `gw:${reading.id}`.slice(0, 80),
        ref: reading.ref,
        payload: JSON.stringify({ value: reading.value ?? null, at: reading.at ?? null }),
        reason,
        now,
      },
      tx,
    );
  }
  return parked;
}

export interface GatewayView {
  state: { readTo: string; failures: number; nextTryAt: Date | null; lastOkAt: Date | null; message: string } | null;
  meters: number;
  parked: ParkedView[];
  parkedCount: number;
}

/** How the gateway is doing, and the readings that wait for a person. */
export async function gatewayView(): Promise<GatewayView> {
  const db = getDb();
  const [state] = await db.models.Gateway.findAll({
    attributes: ["readTo", "failures", "nextTryAt", "lastOkAt", "message"],
    where: { name: NAME },
    raw: true,
  });
  return {
    state: state ?? null,
    meters: await db.models.MachineMeter.count({ where: { gatewayRef: { [Op.not]: null } } }),
    parked: await parkedNow(),
    parkedCount: await db.models.ParkedReading.count({ where: { settledAt: null } }),
  };
}
