/**
 * `npm run soak -- cluster`: three Galera nodes, three app processes and twenty technicians. First the processes are of the build
 * from before the schema's last change, and are replaced one by one while all work. Then, for ten minutes, an app process is killed
 * every half minute, a node is killed and comes back, and another is cut off and let in again. Nothing that was acknowledged may be
 * lost, doubled, or outside the chain; nobody is told of a fault; and whoever asks has an answer within ten seconds.
 */
import { resolve } from "node:path";

import { must } from "../../core/must";
import { connect, getDb, setDb } from "../../db/index";
import { beginFirm } from "./begin-firm";
import { buildBefore } from "./build-before";
import { startNodes } from "./galera-nodes";
import { atTheEnd, endsWithUs, OwnServer } from "./own-server";
import { say, Trial } from "./working-firm";

const PEOPLE = 20;
const SECONDS = Number(process.env.HOUND_SECONDS ?? 600);
/** What happens and when, as shares of the time. */
const NODE_DIES = 0.15;
const NODE_COMES_BACK = 0.3;
const NODE_IS_CUT_OFF = 0.5;
const NODE_IS_LET_IN = 0.6;
const KILL_EVERY_S = 30;
const REPLACE_EVERY_S = 15;
/** Two cores carry three nodes, three processes and everybody's passwords: more would measure these, and not the cluster. */
const PAUSE_MS = [1000, 3000] as const;
const BACK_WITHIN_MS = 10_000;
const OURS = resolve(".");

say("Starting three nodes");
const cluster = await startNodes(3);
const servers: OwnServer[] = [];
for (const node of cluster.nodes) endsWithUs(() => node.pid);
process.env.DATABASE_URL = cluster.url(0);
const firm = await beginFirm(getDb(), PEOPLE);
say("Building the version before");
const before = buildBefore();
if (before) atTheEnd(before.remove);
const build = must(process.env.HOUND_BUILD_DIR);
for (let i = 0; i < 3; i++)
  servers.push(
    await OwnServer.start(
      { DATABASE_URL: cluster.urlOf(0), HOUND_BUILD_DIR: before?.build ?? build },
      [],
      before?.folder ?? OURS,
    ),
  );

const trial = new Trial(firm, { bases: servers.map((one) => one.base), isMixed: true, pause: PAUSE_MS });
const { faults } = trial;
if (!before) faults.push("the version before could not be built: its history is not there");
const work = trial.begin();
await trial.goes(`the build before (${before?.version ?? "none"}) on this schema`, REPLACE_EVERY_S, BACK_WITHIN_MS);
for (const [i, server] of servers.entries()) {
  await server.change({ DATABASE_URL: cluster.urlOf(0), HOUND_BUILD_DIR: build }, OURS);
  await trial.goes(`process ${i + 1} of this build`, REPLACE_EVERY_S, BACK_WITHIN_MS);
}
// Each with a node of its own, and the others behind it.
for (const [i, server] of servers.entries())
  await server.change({ DATABASE_URL: cluster.url(i), HOUND_BUILD_DIR: build }, OURS);
await trial.goes("each process with its own node", REPLACE_EVERY_S, BACK_WITHIN_MS);

const began = Date.now();
const share = (): number => (Date.now() - began) / 1000 / SECONDS;
const [, second, third] = cluster.nodes.map((node) => must(node));
const happenings: [at: number, what: string, does: () => Promise<void>][] = [
  [NODE_DIES, "node 2 was killed", () => must(second).end("SIGKILL")],
  [NODE_COMES_BACK, "node 2 came back", () => must(second).start()],
  [NODE_IS_CUT_OFF, "node 3 was cut off", () => must(third).isolate(true)],
  [NODE_IS_LET_IN, "node 3 was let in again", () => must(third).isolate(false)],
];
for (let kill = 0; share() < 1; kill++) {
  const server = must(servers[kill % servers.length]);
  await server.end("SIGKILL");
  await server.again();
  await trial.goes(`process ${(kill % servers.length) + 1} was killed`, KILL_EVERY_S / 2, BACK_WITHIN_MS);
  const next = happenings[0];
  if (next && share() >= next[0]) {
    happenings.shift();
    await next[2]();
    await trial.goes(next[1], KILL_EVERY_S / 2, BACK_WITHIN_MS);
  } else await trial.goes("nothing happened", KILL_EVERY_S / 2, BACK_WITHIN_MS);
}
trial.end();
await work;
for (const server of servers) await server.end("SIGTERM");

// The books are looked at by way of one node: all are to say the same.
await getDb().close();
process.env.DATABASE_URL = cluster.urlOf(0);
setDb(connect(cluster.urlOf(0)));
trial.tellAnswers();
faults.push(...(await differing()), ...(await trial.lostOrDoubled(getDb())), ...(await trial.plantedFaults(getDb())));
await getDb().close();
await cluster.stop();
trial.close("nothing lost, doubled, half or outside the chain");

/** What stands on one node and not on another. */
async function differing(): Promise<string[]> {
  const found: string[] = [];
  const sums: string[][] = [];
  for (let i = 0; i < 3; i++) {
    const node = connect(cluster.urlOf(i), { poolSize: 1 });
    const tables = await node.select<{ name: string }>(
      "SELECT TABLE_NAME AS name FROM information_schema.TABLES WHERE TABLE_SCHEMA = DATABASE() ORDER BY name",
    );
    const rows = await node.select<{ Table: string; Checksum: number }>(
      `CHECKSUM TABLE ${tables.map((table) => table.name).join(", ")}`,
    );
    sums.push(rows.map((row) => `${row.Table} ${row.Checksum}`));
    await node.close();
  }
  const [first = [], ...others] = sums;
  for (const [i, other] of others.entries())
    for (const [k, sum] of other.entries())
      if (sum !== first[k]) found.push(`node ${i + 2} differs from node 1: ${sum}, ${first[k]}`);
  return found;
}
