/**
 * `npm run soak -- copies`: a database of a million log entries is copied while twenty technicians work on it, then somebody empties a
 * table by mistake. A new server gets the copy and all that came after it up to the moment before: nothing that was acknowledged may be
 * missing, and records and stock are whole. How long each took is said.
 */
import { rmSync } from "node:fs";
import { join, resolve } from "node:path";

import { createConnection } from "mysql2/promise";

import { chainEnd } from "../../app/kit/server/record-chain.server";
import { backUp } from "../../db/copies/back-up";
import { restore } from "../../db/copies/restore";
import { connect, type Db, getDb, setDb } from "../../db/index";
import { type RunningDatabase, startMariaDb } from "../lib/mariadb.mjs";
import { sleep } from "../lib/system.mjs";
import { beginFirm } from "./begin-firm";
import { endsWithUs, OwnServer } from "./own-server";
import { say, Trial } from "./working-firm";

const PEOPLE = 20;
const ENTRIES = Number(process.env.HOUND_ENTRIES ?? 1_000_000);
const FOLDER = ".data/soak-copies";
const secondsSince = (began: number): string => `${((Date.now() - began) / 1000).toFixed(1)} s`;

rmSync(FOLDER, { recursive: true, force: true });
const database = await startMariaDb(join(FOLDER, "one"), 33698, "hound_soak", ["--log-bin=log", "--binlog-format=ROW"]);
// Under another name, as one beside the first would have.
const other = await startMariaDb(join(FOLDER, "other"), 33699, "hound_back");
for (const one of [database, other]) endsWithUs(() => one.pid);
process.env.DATABASE_URL = database.url();
const firm = await beginFirm(getDb(), PEOPLE);
const server = await OwnServer.start({ DATABASE_URL: database.url() });
const trial = new Trial(firm, { bases: [server.base], pause: [200, 800] });
const work = trial.begin();
while (trial.acknowledged.signed.size < 2 * PEOPLE) await sleep(200);
let began = Date.now();
await multiply(getDb());
say(`${ENTRIES.toLocaleString("en")} entries made in ${secondsSince(began)}`);

trial.takeLongest();
began = Date.now();
const copy = await backUp(database.url(), join(FOLDER, "copies"), { chain: await chainEnd(), now: new Date() });
const size = `${(copy.bytes / 1024 / 1024).toFixed(0)} MiB`;
say(`Copied while all worked in ${secondsSince(began)}: ${size}; longest wait meanwhile ${trial.takeLongest().ms} ms`);
const before = trial.acknowledged.entries.size;
await sleep(10_000);
trial.end();
await work;
await server.end("SIGTERM");
say(`${trial.acknowledged.entries.size - before} entries more after the copy`);
// The log tells of whole seconds.
await sleep(1100);
const until = new Date();
await sleep(1100);
await getDb().run("SET STATEMENT foreign_key_checks = 0 FOR DELETE FROM log_entries WHERE seq > 0");
say("Somebody emptied a table");
await getDb().close();

await asRoot(other, "other", "GRANT BINLOG REPLAY ON *.* TO hound@'127.0.0.1'");
began = Date.now();
await restore(other.url(), join(FOLDER, "copies", copy.file.replace(".sql.gz", ".json")), {
  folder: resolve(FOLDER, "one/data"),
  until,
});
say(`Restored up to ${until.toISOString()} in ${secondsSince(began)}`);
process.env.DATABASE_URL = other.url();
setDb(connect(other.url()));
began = Date.now();
trial.faults.push(...(await trial.lostOrDoubled(getDb())));
say(`Looked through in ${secondsSince(began)}`);
await getDb().close();
await database.stop();
await other.stop();
rmSync(FOLDER, { recursive: true, force: true });
trial.close("all there");

/** What a firm has logged in years, on sheets of which nothing else is left: for the size alone. */
async function multiply(db: Db): Promise<void> {
  const FROM = 200;
  const AT_ONCE = 100_000;
  const columns = (
    await db.select<{ name: string }>(
      `SELECT COLUMN_NAME AS name FROM information_schema.COLUMNS
       WHERE TABLE_SCHEMA = DATABASE() AND TABLE_NAME = 'log_entries' AND COLUMN_NAME NOT IN ('seq', 'id', 'sheet_id')`,
    )
  ).map((one) => one.name);
  for (let done = 0; done < ENTRIES; done += AT_ONCE)
    await db.run(
      `SET STATEMENT foreign_key_checks = 0, max_statement_time = 0 FOR
       INSERT INTO log_entries (id, sheet_id, ${columns.join(", ")})
       SELECT UUID(), CONCAT(LEFT(UUID(), 8), '-past-', RIGHT(UUID(), 12)), ${columns.map((name) => `l.${name}`).join(", ")}
       FROM (SELECT * FROM log_entries ORDER BY seq LIMIT ${FROM}) l
       CROSS JOIN seq_1_to_${Math.ceil(Math.min(AT_ONCE, ENTRIES - done) / FROM)}`,
    );
}

/** Something that the app's own user may not do. */
async function asRoot(at: RunningDatabase, folder: string, statement: string): Promise<void> {
  const connection = await createConnection({
    socketPath: resolve(FOLDER, folder, "data/my.sock"),
    user: "root",
    password: new URL(at.url()).password,
  });
  await connection.query(statement);
  await connection.end();
}
