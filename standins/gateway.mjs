/**
 * A simulated machine gateway: invents controllers that count hours on five bases and pieces, switch lights and raise
 * alarms, drop out, and are replaced. Start it with `npm run standin:gateway`; the app polls it when GATEWAY_URL is set.
 *
 *   GET  /readings?after=CURSOR&limit=N   readings in order, each with an id; `next` is the cursor to go on with
 *   GET  /status                          what it simulates
 *   POST /behave?mode=MODE                ok | down | slow | lying | broken: how it answers from now on
 *
 * Everything follows from SEED and the time: started again, it says the same.
 */
import { createServer } from "node:http";

const PORT = Number(process.env.PORT ?? 7480);
const SEED = Number(process.env.SEED ?? 7);
const STEP_MS = Number(process.env.STEP_MS ?? 3_600_000);
const START_MS = Number(process.env.START_MS ?? Math.floor(Date.now() / 86_400_000) * 86_400_000 - 14 * 86_400_000);
const SLOW_MS = Number(process.env.SLOW_MS ?? 30_000);
/** Hours that the first basis shows at the start, and each other its share of the one before. */
const BEGIN_H = Number(process.env.BEGIN_H ?? 0);
const HOUR_BASES = ["power-on-hours", "running-hours", "cutting-hours", "spindle-hours", "axis-hours"];
const CONTROLLERS = Array.from(
  { length: Number(process.env.CONTROLLERS ?? 4) },
  (_, i) => `ctl-${String(i + 1).padStart(2, "0")}`,
);
/** Steps after which the second controller is replaced and its meters start at zero again. */
const REPLACED_AFTER = 24 * 9;

let mode = process.env.MODE ?? "ok";

/** A number in [0, 1) from whole numbers alone (a small integer hash). */
function chance(...parts) {
  let hash = SEED >>> 0;
  for (const part of parts) {
    hash = Math.imul(hash ^ (part + 0x9e3779b9), 0x85ebca6b) >>> 0;
    hash = (hash ^ (hash >>> 13)) >>> 0;
  }
  return (Math.imul(hash, 0xc2b2ae35) >>> 0) / 2 ** 32;
}

/** Hours run in a step: little at night, on each basis a share of the one before. */
function hoursIn(step, controller, basis) {
  const hourOfDay = step % 24;
  const atWork = hourOfDay >= 7 && hourOfDay < 18 ? 1 : 0.1;
  let share = atWork * (0.5 + chance(step, controller) / 2);
  for (let i = 0; i < basis; i++) share *= 0.6 + chance(step, controller, i) * 0.3;
  return (share * STEP_MS) / 3_600_000;
}

const sums = new Map();
/** Meter after a step; sums are kept, as the simulation only goes forward. */
function hoursAt(step, controller, basis) {
  const key = `${controller}/${basis}`;
  const known = sums.get(key) ?? { step: -1, total: BEGIN_H * 0.75 ** basis, byStep: [] };
  for (let s = known.step + 1; s <= step; s++) {
    if (controller === 1 && s === REPLACED_AFTER) known.total = 0;
    known.total += hoursIn(s, controller, basis);
    known.byStep[s] = Math.round(known.total * 100) / 100;
  }
  known.step = Math.max(known.step, step);
  sums.set(key, known);
  return known.byStep[step];
}

/** What all controllers say after a step. */
function readingsOf(step) {
  const at = new Date(START_MS + (step + 1) * STEP_MS).toISOString();
  const readings = [];
  CONTROLLERS.forEach((name, c) => {
    // A drop-out: nothing for some hours, then on as before.
    if (chance(Math.floor(step / 6), c, 99) < 0.05) return;
    const restarted = c === 1 && step === REPLACED_AFTER;
    HOUR_BASES.forEach((basis, b) => {
      readings.push({
        id: `${name}-${step}-${basis}`,
        ref: `${name}/${basis}`,
        kind: "meter",
        unit: "h",
        value: hoursAt(step, c, b),
        at,
        ...(restarted ? { restarted: true } : {}),
      });
    });
    readings.push({
      id: `${name}-${step}-pieces`,
      ref: `${name}/pieces`,
      kind: "meter",
      unit: "pcs",
      value: Math.floor(hoursAt(step, c, 1) * 40),
      at,
      ...(restarted ? { restarted: true } : {}),
    });
    if (chance(step, c, 5) < 0.004)
      readings.push({ id: `${name}-${step}-fan-light`, ref: `${name}/fan-light`, kind: "light", on: true, at });
    if (chance(step, c, 6) < 0.003)
      readings.push({
        id: `${name}-${step}-alarm`,
        ref: `${name}/alarm`,
        kind: "alarm",
        text: "Coolant level low",
        at,
      });
  });
  return readings;
}

/** Spoils a list the way a faulty gateway would: negative, future, doubled and senseless values. */
function lie(readings) {
  return readings.flatMap((reading, i) => {
    if (reading.kind !== "meter") return [reading];
    if (i % 11 === 3) return [{ ...reading, id: `${reading.id}-neg`, value: -5 }, reading];
    if (i % 11 === 5)
      return [
        { ...reading, id: `${reading.id}-future`, at: new Date(Date.now() + 30 * 86_400_000).toISOString() },
        reading,
      ];
    if (i % 11 === 7) return [reading, reading];
    if (i % 11 === 9) return [{ ...reading, id: `${reading.id}-text`, value: "n/a" }, reading];
    return [reading];
  });
}

const server = createServer((request, response) => {
  const url = new URL(request.url, "http://gateway");
  const json = (status, body) => {
    response.writeHead(status, { "content-type": "application/json" });
    response.end(JSON.stringify(body));
  };
  if (url.pathname === "/behave" && request.method === "POST") {
    mode = url.searchParams.get("mode") ?? "ok";
    return json(200, { mode });
  }
  if (url.pathname === "/status")
    return json(200, { mode, controllers: CONTROLLERS, since: new Date(START_MS).toISOString(), stepMs: STEP_MS });
  if (url.pathname !== "/readings") return json(404, { error: "Known are /readings, /status and /behave." });
  if (mode === "down") return json(503, { error: "Controllers are not reachable." });
  if (mode === "broken") {
    response.writeHead(200, { "content-type": "application/json" });
    return response.end('{"readings":[{"id":');
  }
  const answer = () => {
    const limit = Math.min(2000, Number(url.searchParams.get("limit") ?? 500));
    const from = Number(url.searchParams.get("after") || -1) + 1;
    const last = Math.floor((Date.now() - START_MS) / STEP_MS) - 1;
    const readings = [];
    let step = from;
    for (; step <= last && readings.length < limit; step++) readings.push(...readingsOf(step));
    json(200, { readings: mode === "lying" ? lie(readings) : readings, next: String(step - 1), more: step <= last });
  };
  if (mode === "slow") setTimeout(answer, SLOW_MS).unref();
  else answer();
});

server.listen(PORT, "127.0.0.1", () =>
  process.stdout.write(`Gateway stand-in on http://127.0.0.1:${server.address().port}\n`),
);
for (const signal of ["SIGTERM", "SIGINT"])
  process.on(signal, () => server.close(() => process.exit(0)) && server.closeAllConnections());
