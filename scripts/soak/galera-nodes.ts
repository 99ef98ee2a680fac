/** A Galera cluster on loopback whose nodes are killed, cut off and brought back. */
import { execFileSync, spawn } from "node:child_process";
import { randomBytes } from "node:crypto";
import { chownSync, closeSync, mkdirSync, mkdtempSync, openSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

import { createConnection, type RowDataPacket } from "mysql2/promise";

import { must } from "../../core/must";
import { findProgram, freePort, isAlive, sleep } from "../lib/system.mjs";

const PROVIDER = "/usr/lib/galera/libgalera_smm.so";
/** A node that fetches everything anew takes its time. */
const UP_WITHIN_MS = 120_000;

export interface GaleraNodes {
  nodes: GaleraNode[];
  /** Of all nodes, this one first. */
  url(first: number): string;
  /** Of one node. */
  urlOf(index: number): string;
  stop(): Promise<void>;
}

/** Makes a cluster of `count` nodes from nothing, with the database and its user. */
export async function startNodes(count: number, database = "hound_soak"): Promise<GaleraNodes> {
  const root = process.getuid?.() === 0;
  // The transfer of a whole node gives up the rights of root: as root, the nodes run as the database's own user.
  const owner = root ? Number(execFileSync("id", ["-u", "mysql"], { encoding: "utf8" })) : null;
  const folder = mkdtempSync(join(tmpdir(), "hound-nodes-"));
  if (owner !== null) chownSync(folder, owner, owner);
  const secret = randomBytes(16).toString("hex");
  const ports: { sql: number; group: number; whole: number }[] = [];
  for (let n = 0; n < count; n++)
    ports.push({ sql: await freePort(33_811 + n), group: await freePort(45_710 + 10 * n), whole: 45_712 + 10 * n });
  const group = ports.map((one) => `127.0.0.1:${one.group}`).join(",");
  const nodes: GaleraNode[] = [];
  for (const [n, port] of ports.entries()) {
    const node = new GaleraNode(join(folder, `n${n + 1}`), port, { group, secret, database, owner });
    nodes.push(node);
    await node.start(n === 0 ? ["--wsrep-new-cluster", `--init-file=${node.firstStatements}`] : []);
  }
  const url = (of: typeof ports): string =>
    `mysql://hound:${secret}@${of.map((one) => `127.0.0.1:${one.sql}`).join(",")}/${database}`;
  return {
    nodes,
    url: (first) => url([...ports.slice(first), ...ports.slice(0, first)]),
    urlOf: (index) => url([must(ports[index])]),
    async stop() {
      for (const node of nodes.toReversed()) await node.end("SIGTERM");
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

export class GaleraNode {
  readonly port: number;
  /** A file that the first node of all begins with. */
  readonly firstStatements: string;
  readonly #folder: string;
  readonly #config: string;
  readonly #secret: string;
  #pid = 0;

  constructor(
    folder: string,
    port: { sql: number; group: number; whole: number },
    { group, secret, database, owner }: { group: string; secret: string; database: string; owner: number | null },
  ) {
    this.port = port.sql;
    this.#folder = folder;
    this.#secret = secret;
    mkdirSync(folder, { mode: 0o700 });
    this.#config = join(folder, "my.cnf");
    this.firstStatements = join(folder, "begin.sql");
    writeFileSync(this.firstStatements, firstStatements(secret, database));
    writeFileSync(this.#config, configuration(folder, port, group, owner === null ? null : "mysql"));
    if (owner !== null) for (const file of [folder, this.firstStatements, this.#config]) chownSync(file, owner, owner);
    execFileSync(must(findProgram("mariadb-install-db") ?? undefined), [
      "--no-defaults",
      ...(owner === null ? [] : ["--user=mysql"]),
      `--datadir=${join(folder, "data")}`,
      "--auth-root-authentication-method=normal",
      "--skip-test-db",
    ]);
  }

  /** Starts it, and waits until it has all that the others have. */
  async start(flags: readonly string[] = []): Promise<void> {
    const log = openSync(join(this.#folder, "log"), "a");
    const child = spawn(must(findProgram("mariadbd") ?? undefined), [`--defaults-file=${this.#config}`, ...flags], {
      stdio: ["ignore", log, log],
      detached: true,
    });
    closeSync(log);
    child.unref();
    this.#pid = must(child.pid);
    for (let waited = 0; (await this.state()) !== "Synced"; waited += 200) {
      if (waited > UP_WITHIN_MS || !isAlive(this.#pid))
        throw new Error(
          `Node ${this.#folder} did not come up:\n${readFileSync(join(this.#folder, "log"), "utf8").slice(-2000)}`,
        );
      await sleep(200);
    }
  }

  async end(signal: "SIGKILL" | "SIGTERM"): Promise<void> {
    if (isAlive(this.#pid)) process.kill(this.#pid, signal);
    while (isAlive(this.#pid)) await sleep(50);
  }

  /** Takes it out of its cluster without a word, or lets it back in. */
  async isolate(isCutOff: boolean): Promise<void> {
    await this.#asRoot(`SET GLOBAL wsrep_provider_options = 'gmcast.isolate=${isCutOff ? 1 : 0}'`);
  }

  /** What the node says of itself: Synced, Donor/Desynced, Joining, Initialized; "" when it says nothing. */
  async state(): Promise<string> {
    const rows = await this.#asRoot("SHOW GLOBAL STATUS LIKE 'wsrep_local_state_comment'").catch(() => []);
    return String(rows[0]?.["Value"] ?? "");
  }

  async #asRoot(statement: string): Promise<RowDataPacket[]> {
    const connection = await createConnection({
      socketPath: join(this.#folder, "my.sock"),
      user: "root",
      password: this.#secret,
      connectTimeout: 2000,
    });
    try {
      const [rows] = await connection.query<RowDataPacket[]>(statement);
      return rows;
    } finally {
      connection.destroy();
    }
  }

  get pid(): number {
    return this.#pid;
  }
}

/** The first node's go to all others. */
function firstStatements(secret: string, database: string): string {
  return [
    "DELETE FROM mysql.global_priv WHERE User = 'root' AND Host <> 'localhost';",
    "DELETE FROM mysql.global_priv WHERE User = '';",
    "FLUSH PRIVILEGES;",
    `ALTER USER root@localhost IDENTIFIED BY '${secret}';`,
    `CREATE DATABASE IF NOT EXISTS ${database} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;`,
    `CREATE USER IF NOT EXISTS hound@'127.0.0.1' IDENTIFIED BY '${secret}';`,
    `GRANT ALL ON ${database}.* TO hound@'127.0.0.1';`,
    "",
  ].join("\n");
}

function configuration(
  folder: string,
  port: { sql: number; group: number; whole: number },
  group: string,
  user: string | null,
): string {
  const options = {
    base_host: "127.0.0.1",
    base_port: port.group,
    "gmcast.listen_addr": `tcp://127.0.0.1:${port.group}`,
    "ist.recv_addr": `127.0.0.1:${port.group + 1}`,
    // Who dies without a word is missed after three seconds, not five: all who write wait for that.
    "evs.keepalive_period": "PT0.5S",
    "evs.suspect_timeout": "PT3S",
    "evs.inactive_timeout": "PT6S",
    "gcache.size": "128M",
    "gcache.recover": "yes",
  };
  const settings = {
    ...(user ? { user } : {}),
    datadir: join(folder, "data"),
    socket: join(folder, "my.sock"),
    "pid-file": join(folder, "my.pid"),
    port: port.sql,
    "bind-address": "127.0.0.1",
    "character-set-server": "utf8mb4",
    "collation-server": "utf8mb4_unicode_ci",
    innodb_buffer_pool_size: "256M",
    innodb_autoinc_lock_mode: 2,
    innodb_flush_log_at_trx_commit: 2,
    binlog_format: "ROW",
    wsrep_on: "ON",
    wsrep_provider: PROVIDER,
    wsrep_cluster_name: "hound",
    wsrep_cluster_address: `gcomm://${group}`,
    wsrep_node_name: folder.split("/").pop(),
    wsrep_node_address: `127.0.0.1:${port.group}`,
    wsrep_node_incoming_address: `127.0.0.1:${port.sql}`,
    wsrep_provider_options: `"${Object.entries(options)
      .map(([name, value]) => `${name}=${value}`)
      .join(";")}"`,
    // Which tables the writers of two nodes met on.
    wsrep_log_conflicts: "ON",
    wsrep_sst_method: "rsync",
    wsrep_sst_receive_address: `127.0.0.1:${port.whole}`,
  };
  const lines = Object.entries(settings).map(([name, value]) => `${name}=${value}`);
  return `[mysqld]\nskip-name-resolve\n${lines.join("\n")}\n`;
}
