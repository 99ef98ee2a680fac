import { Sequelize, Transaction } from "sequelize";

import { type Failover, throughHere, watchHosts } from "./failover";
import { accessOf, type Host, readHosts } from "./hosts";

/**
 * What every session is held to. Strict: what does not fit is refused, never cut or guessed. A transaction whose process has
 * lost its power lets go of its rows after a while, and who waits for them asks again until then.
 */
const SESSION = {
  sql_mode: "'STRICT_ALL_TABLES,NO_ZERO_DATE,NO_ZERO_IN_DATE,ERROR_FOR_DIVISION_BY_ZERO,NO_ENGINE_SUBSTITUTION'",
  idle_transaction_timeout: 7,
  innodb_lock_wait_timeout: 6,
};

export interface ConnectOptions {
  poolSize?: number;
  /**
   * Seconds after which a database that says nothing is given up, and its connection with it: a network that went silent
   * tells nobody. 0: never, for scripts whose statements take as long as they take.
   */
  silenceSeconds?: number;
  /** It is a node of a cluster, where locks are no locks (`turns.ts`). Found out where nothing is said. */
  cluster?: boolean;
}

/** What is needed of a connection of the driver. */
interface DriverConnection {
  stream: { destroyed: boolean; setTimeout(ms: number, then: () => void): void; destroy(error: Error): void };
  _fatalError?: unknown;
  _protocolError?: unknown;
  _closing?: boolean;
  promise(): { query(sql: string): Promise<unknown> };
}

/** Connections to one database, on whichever of its hosts takes work. */
export function openPool(several: string, options: ConnectOptions) {
  const silence = options.silenceSeconds ?? 0;
  const { url, hosts } = readHosts(several);
  let queryCount = 0;
  let isCluster = options.cluster ?? false;
  const failover = hosts.length > 1 ? watchHosts<DriverConnection>(hosts, accessOf(url)) : null;
  const sequelize = new Sequelize(url, {
    dialect: "mysql",
    timezone: "+00:00",
    logging: () => {
      queryCount += 1;
    },
    define: { underscored: true, charset: "utf8mb4", timestamps: false },
    dialectOptions: {
      dateStrings: ["DATE"],
      decimalNumbers: true,
      supportBigNumbers: true,
      bigNumberStrings: false,
      connectTimeout: 5000,
      typeCast,
    },
    pool: {
      max: options.poolSize ?? 10,
      min: 0,
      acquire: 15_000,
      idle: 10_000,
      ...(failover && {
        validate: (kept?: unknown) => isOpen(kept as DriverConnection) && failover.isGood(kept as DriverConnection),
      }),
    },
    isolationLevel: Transaction.ISOLATION_LEVELS.READ_COMMITTED,
    retry: { max: 1 },
  });

  const prepare = async (connection: DriverConnection): Promise<void> => {
    if (silence > 0)
      connection.stream.setTimeout(silence * 1000, () =>
        connection.stream.destroy(
          Object.assign(new Error(`The database said nothing for ${silence} s.`), { code: "PROTOCOL_CONNECTION_LOST" }),
        ),
      );
    const settings = { ...SESSION, ...(silence > 0 ? { max_statement_time: silence } : {}) };
    await connection.promise().query(
      `SET SESSION ${Object.entries(settings)
        .map(([name, value]) => `${name} = ${value}`)
        .join(", ")}`,
    );
    if (options.cluster === undefined) isCluster ||= await onCluster(connection);
  };
  if (failover) connectThrough(sequelize, failover, prepare);
  else sequelize.addHook("afterConnect", (opened) => prepare(opened as DriverConnection));
  throughHere(sequelize, failover);
  return {
    sequelize,
    failover,
    isCluster: () => isCluster,
    state: () => {
      const { pool } = (sequelize as unknown as { connectionManager: { pool: Pool } }).connectionManager;
      return { open: pool.size, idle: pool.available, waiting: pool.waiting };
    },
    takeQueryCount: () => {
      const taken = queryCount;
      queryCount = 0;
      return taken;
    },
  };
}

/** What Sequelize's pool says of itself. */
interface Pool {
  size: number;
  available: number;
  waiting: number;
}

/** What Sequelize itself asks of a connection that it kept. */
const isOpen = ({ _fatalError, _protocolError, _closing, stream }: DriverConnection): boolean =>
  !_fatalError && !_protocolError && !_closing && !stream.destroyed;

/** Opens each connection to the host that takes work. */
function connectThrough(
  sequelize: Sequelize,
  failover: Failover<DriverConnection>,
  prepare: (connection: DriverConnection) => Promise<void>,
): void {
  // Sequelize knows one host and no more; of what it opens connections with, this is the part that names it.
  const { connectionManager } = sequelize as unknown as {
    connectionManager: { connect(config: Host): Promise<DriverConnection> };
  };
  const connectTo = connectionManager.connect.bind(connectionManager);
  connectionManager.connect = (config) =>
    failover.open(async (host) => {
      const connection = await connectTo({ ...config, ...host });
      try {
        await prepare(connection);
      } catch (error) {
        connection.stream.destroy(error as Error);
        throw error;
      }
      return connection;
    });
}

/** Whether the server writes through to other nodes. */
async function onCluster(connection: DriverConnection): Promise<boolean> {
  const [rows] = (await connection.promise().query("SHOW VARIABLES LIKE 'wsrep_on'")) as [{ Value?: string }[]];
  return rows[0]?.Value === "ON";
}

/** A field as mysql2 hands it over, before it is read. */
interface Field {
  type: string;
  length: number;
  string(): string | null;
}

/**
 * Values as our types name them. Yes and no are kept as TINYINT(1), and what a comparison comes to is an INT(1): both are
 * booleans. Instants come with their milliseconds and are UTC.
 */
function typeCast(field: Field, next: () => unknown): unknown {
  if ((field.type === "TINY" || field.type === "LONG") && field.length === 1) {
    const value = field.string();
    return value === null ? null : value !== "0";
  }
  if (field.type === "DATETIME") {
    const value = field.string();
    return value === null ? null : new Date(`${value.replace(" ", "T")}Z`);
  }
  return next();
}
