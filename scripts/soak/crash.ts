/**
 * `npm run soak -- crash`: twenty technicians work, sign and book while the app and its database are killed without warning,
 * thirty times. Nothing that was acknowledged may be lost, doubled or half there; and the checks that say so are shown faults
 * that they must find.
 */
import { execFileSync } from "node:child_process";
import { rmSync } from "node:fs";

import { v7 as uuidv7 } from "uuid";

import type { Actor } from "../../app/kit/actor";
import { applyImport, checkImport, claimImport } from "../../app/machines/register/imports.server";
import { hashPassword } from "../../app/people/passwords.server";
import {
  getProcedure,
  publishProcedures,
  readProcedureFiles,
  shippedFolder,
} from "../../app/procedures/procedures.server";
import { loadSheet } from "../../app/sheet/log/sheets.server";
import { addPlace } from "../../app/stores/ledger/places.server";
import { must } from "../../core/must";
import { simulateSheet } from "../../db/demo/simulate-sheet";
import { type Db, getDb, migrate } from "../../db/index";
import { startMariaDb } from "../lib/mariadb.mjs";
import { isAlive, sleep } from "../lib/system.mjs";
import { OwnServer, Visitor } from "./own-server";

const PEOPLE = 20;
const KILLS = Number(process.env.HOUND_KILLS ?? 30);
const PASSWORD = "soak password one";
const FOLDER = ".data/soak-crash";
const PROCEDURE = "ride-on-scrubber-brushes";
const say = (text: string): void => void process.stdout.write(`${text}\n`);
const between = (least: number, most: number): number => least + Math.floor(Math.random() * (most - least + 1));

rmSync(FOLDER, { recursive: true, force: true });
let database = await startMariaDb(FOLDER, 33690, "hound_soak");
// A trial that breaks off leaves nothing running.
process.on("exit", () => {
  for (const pid of [database.pid, server.process.pid ?? 0]) if (pid > 0 && isAlive(pid)) process.kill(pid, "SIGKILL");
});
process.env.DATABASE_URL = database.url();
const now = new Date();
const firm = await beginFirm(getDb());

const server = await OwnServer.start({ DATABASE_URL: database.url() });
const acknowledged = { entries: new Set<string>(), signed: new Set<string>(), received: new Set<string>() };
/** Told to everybody who works. */
const phase = { ending: false };
const working = (): boolean => !phase.ending;
const work = [...firm.people.map((person, i) => technician(person, must(firm.duties[i]))), receiver()];
// Everybody signs in first.
while (acknowledged.signed.size < PEOPLE) await sleep(200);
for (let kill = 1; kill <= KILLS; kill++) {
  await sleep(between(2000, 6000));
  if (kill % 2 === 0) {
    process.kill(database.pid, "SIGKILL");
    await sleep(between(0, 1500));
    database = await startMariaDb(FOLDER, database.port);
    if (server.process.exitCode !== null) await server.again();
  } else {
    await server.end("SIGKILL");
    await server.again();
  }
  const { entries, signed, received } = acknowledged;
  say(`kill ${kill} of ${KILLS}: ${entries.size} entries, ${signed.size} signatures, ${received.size} receipts so far`);
}
phase.ending = true;
await Promise.all(work);
await server.end("SIGTERM");

const faults = [...(await lostOrDoubled(getDb())), ...(await plantedFaults(getDb()))];
await getDb().close();
await database.stop();
rmSync(FOLDER, { recursive: true, force: true });
for (const fault of faults) say(fault);
say(
  `${KILLS} kills, ${acknowledged.entries.size} entries, ${acknowledged.signed.size} signatures and ` +
    `${acknowledged.received.size} receipts acknowledged: ${faults.length === 0 ? "nothing lost, doubled or half" : "FAULTS"}`,
);
process.exit(faults.length === 0 ? 0 : 1);

/** Twenty technicians with a machine and a van each, and a lead with a depot. */
async function beginFirm(db: Db) {
  await migrate(db.sequelize);
  await publishProcedures(readProcedureFiles(shippedFolder()), now);
  const passwordHash = await hashPassword(PASSWORD);
  const person = async (name: string, role: "lead" | "technician"): Promise<Actor> => {
    const id = uuidv7();
    const row = { id, name, signIn: name, passwordHash, role, active: true, mustChangePassword: false, demo: false };
    await db.models.Person.create({ ...row, createdAt: now });
    return { id, name, role, authorisations: [] };
  };
  const lead = await person("lead", "lead");
  const people: Actor[] = [];
  for (let i = 0; i < PEOPLE; i++) people.push(await person(`technician${i}`, "technician"));
  const lines = people.map((_, i) => `Co,Site ${i % 5},Europe/Lisbon,C-${i},Machine ${i},ride-on-scrubber`);
  const file = ["customer,site,time_zone,tag,name,family", ...lines].join("\n");
  const importId = await checkImport(lead, "soak.csv", file, now);
  await claimImport(importId, now);
  await applyImport(importId, now);
  const duties: { id: string; machineId: string }[] = [];
  for (const [i, one] of people.entries()) {
    const [duty] = await db.select<{ id: string; machineId: string }>(
      "SELECT d.id, d.machine_id AS machineId FROM duties d JOIN machines m ON m.id = d.machine_id WHERE m.tag = :tag AND d.procedure_id = :procedure",
      { tag: `C-${i}`, procedure: PROCEDURE },
    );
    duties.push(must(duty));
    await addPlace(lead, { kind: "van", name: `Van ${i}`, personId: one.id, siteId: null }, now);
  }
  const depot = await addPlace(lead, { kind: "depot", name: "Depot", personId: null, siteId: null }, now);
  return { lead, people, duties, depot, procedure: await getProcedure(PROCEDURE) };
}

/** Asks again and again, as a device does, until there is an answer that is one. */
async function untilAnswered(ask: () => Promise<Response>): Promise<{ status: number; text: string } | null> {
  for (let tries = 0; ; tries++) {
    // Half an answer is none.
    const answer = await ask()
      .then(async (response) => ({ status: response.status, text: await response.text() }))
      .catch(() => null);
    if (answer !== null && answer.status < 500 && answer.status !== 429) return answer;
    // What has no answer by the end was not acknowledged.
    if (phase.ending && tries > 100) return null;
    await sleep(between(100, 600));
  }
}

async function signedIn(name: string): Promise<Visitor> {
  const visitor = new Visitor(server.base);
  for (;;) {
    try {
      await visitor.signIn(name, PASSWORD);
      return visitor;
    } catch {
      await sleep(between(100, 600));
    }
  }
}

/** Works one sheet after the other, in batches of a few entries, and signs each. */
async function technician(person: Actor, duty: { id: string; machineId: string }): Promise<void> {
  const visitor = await signedIn(person.name);
  const started = {
    type: "started" as const,
    planId: duty.id,
    procedureId: PROCEDURE,
    procedureVersion: firm.procedure.version,
  };
  while (working()) {
    const sheetId = uuidv7();
    const log = simulateSheet({
      procedure: firm.procedure,
      machine: { options: [], slots: {} },
      sheetId,
      by: person.id,
      startMs: Date.now(),
      newId: uuidv7,
      started,
      script: {},
    }).map((entry) => ({ ...entry, at: new Date().toISOString() }));
    const queue = [...log];
    while (queue.length > 0 && working()) {
      const batch = queue.splice(0, between(1, 4));
      const body = JSON.stringify({ entries: batch });
      const answer = await untilAnswered(() => visitor.post(`/api/sheets/${sheetId}/entries`, body));
      if (!answer) return;
      const { accepted, refused } = JSON.parse(answer.text) as { accepted: string[]; refused?: unknown[] };
      if ((refused?.length ?? 0) > 0) throw new Error(`refused: ${JSON.stringify(refused)}`);
      for (const id of accepted) acknowledged.entries.add(id);
      await sleep(between(20, 200));
    }
    if (!working()) return;
    const form = new URLSearchParams({ intent: "sign", customer: "typed", customerName: "Desk", password: PASSWORD });
    form.set("missingReason", "part of a trial");
    const answer = await untilAnswered(() => visitor.post(`/sheet/${sheetId}/sign`, form));
    if (!answer) return;
    if (answer.status !== 302) throw new Error(`not signed: ${answer.status} ${answer.text}`);
    acknowledged.signed.add(sheetId);
  }
}

/** Books what has arrived, each with a key that stays the same until there is an answer. */
async function receiver(): Promise<void> {
  const visitor = await signedIn("lead");
  while (working()) {
    const note = uuidv7();
    const form = new URLSearchParams({ intent: "receive", place: firm.depot, qty: "3", note });
    const path = "/stores/items/squeegee-blade";
    const answer = await untilAnswered(() => visitor.post(path, form, { "Idempotency-Key": note }));
    if (!answer) return;
    if (answer.status >= 400) throw new Error(`not received: ${answer.status} ${answer.text}`);
    acknowledged.received.add(note);
    await sleep(between(20, 200));
  }
}

/** What was acknowledged and is not there once, whole. */
async function lostOrDoubled(db: Db): Promise<string[]> {
  const faults: string[] = [];
  const ids = (await db.select<{ id: string }>("SELECT id FROM log_entries")).map((row) => row.id);
  const there = new Set(ids);
  if (there.size < ids.length) faults.push(`${ids.length - there.size} entries are there twice`);
  for (const id of acknowledged.entries) if (!there.has(id)) faults.push(`entry ${id} is lost`);
  const signed = await db.select<{ id: string; records: number; completions: number; status: string }>(
    `SELECT s.id, s.status, (SELECT COUNT(*) FROM record_chain c WHERE c.subject_id = s.id AND c.kind = 'record') AS records,
       (SELECT COUNT(*) FROM completions x WHERE x.sheet_id = s.id) AS completions FROM sheets s`,
  );
  const states = new Map(signed.map((one) => [one.id, one]));
  for (const id of acknowledged.signed) {
    const one = states.get(id);
    if (one?.status !== "signed") faults.push(`the signature of ${id} is lost`);
  }
  for (const one of signed) {
    const whole = one.status === "signed" ? 1 : 0;
    if (one.records !== whole || one.completions !== whole)
      faults.push(`sheet ${one.id} is ${one.status} with ${one.records} records and ${one.completions} completions`);
  }
  const received = await db.select<{ note: string; times: number }>(
    "SELECT note, COUNT(*) AS times FROM stock_moves WHERE kind = 'receive' GROUP BY note",
  );
  const times = new Map(received.map((one) => [one.note, one.times]));
  for (const note of acknowledged.received)
    if (times.get(note) !== 1) faults.push(`receipt ${note} is there ${times.get(note) ?? 0} times`);
  for (const one of received) if (one.times > 1) faults.push(`receipt ${one.note} is there ${one.times} times`);
  for (const check of ["verify-records", "verify-stock"] as const) {
    const found = verify(check);
    if (found !== null) faults.push(`${check}: ${found}`);
  }
  return faults;
}

/** What a check says is wrong; null when it finds nothing. */
function verify(check: "verify-records" | "verify-stock"): string | null {
  try {
    execFileSync(process.execPath, ["--import", "tsx", `scripts/${check}.ts`], { encoding: "utf8" });
    return null;
  } catch (error) {
    return (error as { stdout: string }).stdout;
  }
}

/** Faults put where the checks must find them, one after the other, each taken out again. */
async function plantedFaults(db: Db): Promise<string[]> {
  const sheetId = must([...acknowledged.signed][0]);
  const { entries } = await loadSheet(sheetId);
  const entry = must(entries.find((one) => one.type === "step-done") ?? entries[1]);
  const added = uuidv7();
  const took = must(
    (await db.select<{ seq: number }>("SELECT seq FROM stock_moves WHERE kind = 'use' ORDER BY seq LIMIT 1"))[0],
  );
  const plants: [what: string, check: Parameters<typeof verify>[0], put: string, takeOut: string][] = [
    [
      "an entry of a signed sheet that no signature saw",
      "verify-records",
      `INSERT INTO log_entries (id, sheet_id, by_person, type, body, content_hash, received_at, late)
         SELECT '${added}', sheet_id, by_person, type, body, content_hash, received_at, 0 FROM log_entries WHERE id = '${entry.id}'`,
      `DELETE FROM log_entries WHERE id = '${added}'`,
    ],
    [
      "a changed byte in a signed entry",
      "verify-records",
      `UPDATE log_entries SET body = JSON_SET(body, '$.device', 'browsex') WHERE id = '${entry.id}'`,
      `UPDATE log_entries SET body = JSON_SET(body, '$.device', '${entry.device}') WHERE id = '${entry.id}'`,
    ],
    [
      "a changed byte in the chain",
      "verify-records",
      `UPDATE record_chain SET content_hash = CONCAT('0', SUBSTRING(content_hash, 2)) WHERE seq = 1 AND LEFT(content_hash, 1) <> '0'`,
      "",
    ],
    [
      "a sum that differs from the ledger",
      "verify-stock",
      "UPDATE stock SET on_hand = on_hand + 1 ORDER BY item_id, place_id LIMIT 1",
      "UPDATE stock SET on_hand = on_hand - 1 ORDER BY item_id, place_id LIMIT 1",
    ],
    [
      "a ledger that differs from its log, with its sum",
      "verify-stock",
      `UPDATE stock_moves m JOIN stock k ON k.item_id = m.item_id AND k.place_id = m.place_id
         SET m.qty = m.qty - 1, k.on_hand = k.on_hand - 1 WHERE m.seq = ${took.seq}`,
      `UPDATE stock_moves m JOIN stock k ON k.item_id = m.item_id AND k.place_id = m.place_id
         SET m.qty = m.qty + 1, k.on_hand = k.on_hand + 1 WHERE m.seq = ${took.seq}`,
    ],
  ];
  const faults: string[] = [];
  for (const [what, check, put, takeOut] of plants) {
    await db.run(put);
    const found = verify(check);
    say(`planted: ${what}: ${found === null ? "NOT FOUND" : `found (${found.trim().split("\n")[0]})`}`);
    if (found === null) faults.push(`${check} does not find ${what}`);
    if (takeOut) await db.run(takeOut);
  }
  return faults;
}
