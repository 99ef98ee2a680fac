/**
 * `npm run soak -- network`: two app processes and twenty technicians, with ways between them and to the database that go silent, lose
 * answers to what was done, are slow, or are cut. Nothing that was acknowledged may be lost or doubled; nobody is told of a fault; and
 * while the database has one good way left, whoever asks has an answer within ten seconds.
 */
import { rmSync } from "node:fs";

import { connect, getDb, setDb } from "../../db/index";
import { startMariaDb } from "../lib/mariadb.mjs";
import { beginFirm } from "./begin-firm";
import { endsWithUs, OwnServer } from "./own-server";
import { type Way, Wire } from "./wire";
import { Trial } from "./working-firm";

const PEOPLE = 20;
const ROUNDS = Number(process.env.HOUND_ROUNDS ?? 2);
const BAD_S = 15;
const GOOD_S = 8;
const BACK_WITHIN_MS = 10_000;
/** So long a device waits for an answer before it asks again. */
const DEVICE_MS = 6000;
const FOLDER = ".data/soak-network";

rmSync(FOLDER, { recursive: true, force: true });
const database = await startMariaDb(FOLDER, 33697, "hound_soak");
const servers: OwnServer[] = [];
endsWithUs(() => database.pid);
process.env.DATABASE_URL = database.url();
const firm = await beginFirm(getDb(), PEOPLE);
/** Two ways to one database: what a client sees of two nodes. */
const [toOne, toOther] = [await Wire.to(database.port), await Wire.to(database.port)];
const url = (...wires: Wire[]): string =>
  database.url().replace(/127\.0\.0\.1:\d+/u, wires.map((wire) => `127.0.0.1:${wire.port}`).join(","));
servers.push(await OwnServer.start({ DATABASE_URL: url(toOne, toOther) }));
servers.push(await OwnServer.start({ DATABASE_URL: url(toOther, toOne) }));
const fronts = await Promise.all(servers.map((server) => Wire.to(Number(new URL(server.base).port))));

const trial = new Trial(firm, {
  bases: fronts.map((front) => `http://127.0.0.1:${front.port}`),
  isMixed: true,
  pause: [400, 1600],
  patienceMs: DEVICE_MS,
});
const work = trial.begin();
await trial.goes("all is well", GOOD_S, BACK_WITHIN_MS);
const [front] = fronts;
for (let round = 1; round <= ROUNDS; round++) {
  for (const way of ["silent", "answers-lost", "cut", "slow"] as const) {
    // A slow way is no way that is gone: it is waited for.
    await bad(`a way to the database: ${way}`, way, [toOne], way !== "slow");
    await bad(`both ways to the database: ${way}`, way, [toOne, toOther], false);
    if (front) await bad(`the way to a process: ${way}`, way, [front], false);
  }
}
trial.end();
await work;
for (const server of servers) await server.end("SIGTERM");
for (const wire of [toOne, toOther, ...fronts]) wire.close();
await getDb().close();
setDb(connect(database.url()));
trial.tellAnswers();
trial.faults.push(...(await trial.lostOrDoubled(getDb())));
await getDb().close();
await database.stop();
rmSync(FOLDER, { recursive: true, force: true });
trial.close("nothing lost, doubled or half");

async function bad(what: string, way: Way, wires: readonly Wire[], isTimed: boolean): Promise<void> {
  for (const wire of wires) wire.goes(way);
  await trial.goes(what, BAD_S, isTimed ? BACK_WITHIN_MS : Infinity);
  for (const wire of wires) wire.goes("through");
  await trial.goes("all is well again", GOOD_S);
}
