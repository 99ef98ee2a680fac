/**
 * `npm run soak -- crash`: twenty technicians work, sign and book while the app and its database are killed without warning,
 * thirty times. Nothing that was acknowledged may be lost, doubled or half there; and the checks that say so are shown faults
 * that they must find.
 */
import { rmSync } from "node:fs";

import { getDb } from "../../db/index";
import { startMariaDb } from "../lib/mariadb.mjs";
import { sleep } from "../lib/system.mjs";
import { beginFirm } from "./begin-firm";
import { endsWithUs, OwnServer } from "./own-server";
import { between, say, Trial } from "./working-firm";

const PEOPLE = 20;
const KILLS = Number(process.env.HOUND_KILLS ?? 30);
const FOLDER = ".data/soak-crash";

rmSync(FOLDER, { recursive: true, force: true });
let database = await startMariaDb(FOLDER, 33690, "hound_soak");
endsWithUs(() => database.pid);
process.env.DATABASE_URL = database.url();
const firm = await beginFirm(getDb(), PEOPLE);

const server = await OwnServer.start({ DATABASE_URL: database.url() });
const trial = new Trial(firm, { bases: [server.base] });
const { acknowledged } = trial;
const work = trial.begin();
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
trial.end();
await work;
await server.end("SIGTERM");

trial.faults.push(...(await trial.lostOrDoubled(getDb())), ...(await trial.plantedFaults(getDb())));
await getDb().close();
await database.stop();
rmSync(FOLDER, { recursive: true, force: true });
trial.close("nothing lost, doubled or half");
