import { type Connection, createConnection, type RowDataPacket } from "mysql2/promise";
import type { Sequelize } from "sequelize";

import { errorNumber, isConnectionLost, isNeverConnected } from "./error-number";
import { type Access, type Heard, type Host, Standing } from "./hosts";
import { tryAgain } from "./try-again";
import { dbWatch, watched } from "./watch";

/** How often each host is asked. */
const ASK_EVERY_MS = 1000;
/** What takes longer is no answer. */
const ANSWER_MS = 2000;
const HELD_MS = 500;
/** Galera's number of a node that has all and takes work. */
const SYNCED = "4";

/** Takes no work: no part of its cluster, shutting down, ended by its administrator. */
const REFUSES = new Set([1047, 1053, 1077, 1927]);

/** Whether an error says that the host is gone, and not that something is wrong with what it was asked. */
const isHostGone = (error: unknown): boolean => REFUSES.has(errorNumber(error)) || isConnectionLost(error);

/** Whether it was refused before anything was done: no connection, or a node that takes none. */
const isUndone = (error: unknown): boolean => REFUSES.has(errorNumber(error)) || isNeverConnected(error);

/** A connection of the driver, as far as it is ended here. */
interface Ending {
  stream: { destroy(error: Error): void };
}

export interface Failover<Driver extends Ending> {
  /** Opens a connection to the first host that gives one. */
  open(connectTo: (host: Host) => Promise<Driver>): Promise<Driver>;
  /** Whether a kept connection is still one to work with. */
  isGood(connection: Driver): boolean;
  /** After an error: asks every host at once. @returns whether there is one to try again with */
  isWorthAnother(error: unknown): Promise<boolean>;
  close(): void;
}

/** Watches the hosts of a database from now on. */
export function watchHosts<Driver extends Ending>(hosts: readonly Host[], access: Access): Failover<Driver> {
  const standing = new Standing(hosts.length);
  const open = hosts.map(() => new Set<Driver>());
  const at = new WeakMap<Driver, number>();
  const watchers = hosts.map((host) => new Watcher(host, access));

  let told = 0;
  const hear = (index: number, what: Heard | null): void => {
    if (what === null) return;
    const wentDown = standing.heard(index, what);
    const now = hosts[standing.current];
    if (standing.current !== told && now) dbWatch().host(now);
    told = standing.current;
    if (!wentDown) return;
    // Whoever waits for it there would wait for nothing.
    for (const connection of open[index] ?? [])
      connection.stream.destroy(
        Object.assign(new Error("The database host takes no work."), { code: "PROTOCOL_CONNECTION_LOST" }),
      );
    open[index]?.clear();
  };
  let asking: Promise<unknown> | null = null;
  const askAll = (): Promise<unknown> =>
    (asking ??= Promise.all(watchers.map(async (one, index) => hear(index, await one.ask()))).finally(
      () => (asking = null),
    ));
  const timer = setInterval(() => void askAll(), ASK_EVERY_MS);
  timer.unref();

  return {
    async open(connectTo) {
      let failure: unknown;
      for (const index of standing.order()) {
        const host = hosts[index];
        const kept = open[index];
        if (!host || !kept) continue;
        try {
          const connection = await connectTo(host);
          kept.add(connection);
          at.set(connection, index);
          return connection;
        } catch (error) {
          failure = error;
          if (!isHostGone(error)) throw error;
          hear(index, "away");
        }
      }
      throw failure;
    },
    isGood(connection) {
      const index = at.get(connection);
      const isGood = index === undefined || index === standing.current || !standing.isAnyUp;
      if (!isGood) open[index]?.delete(connection);
      return isGood;
    },
    async isWorthAnother(error) {
      if (!isHostGone(error)) return false;
      await askAll();
      return standing.isAnyUp;
    },
    close() {
      clearInterval(timer);
      for (const one of watchers) one.end();
    },
  };
}

/** Asks one host whether it takes work, over a connection of its own. */
class Watcher {
  readonly #host: Host;
  readonly #access: Access;
  #connection: Connection | null = null;
  #isOver = false;

  constructor(host: Host, access: Access) {
    this.#host = host;
    this.#access = access;
  }

  /** @returns null when nobody can say */
  async ask(): Promise<Heard | null> {
    const began = Date.now();
    let timer: ReturnType<typeof setTimeout> | undefined;
    const tooLate = new Promise<Heard>((resolve) => {
      timer = setTimeout(() => resolve("silent"), ANSWER_MS);
    });
    const heard = await Promise.race([this.#answer().catch((): Heard => "away"), tooLate]);
    clearTimeout(timer);
    if (heard !== "ready") this.close();
    // Held by work of its own, this process did not hear what was said.
    return heard === "silent" && Date.now() - began > ANSWER_MS + HELD_MS ? null : heard;
  }

  async #answer(): Promise<Heard> {
    this.#connection ??= await this.#connect();
    // A node that has lost its cluster refuses whatever reads; a replica takes no writes.
    const [settings] = await this.#connection.query<RowDataPacket[]>("SELECT @@read_only AS isReplica");
    // A number in older servers, a word in newer ones.
    if (!["0", "OFF"].includes(String(settings[0]?.["isReplica"]).toUpperCase())) return "away";
    const [state] = await this.#connection.query<RowDataPacket[]>("SHOW GLOBAL STATUS LIKE 'wsrep_local_state'");
    const [on] = await this.#connection.query<RowDataPacket[]>("SHOW VARIABLES LIKE 'wsrep_on'");
    const isNode = on[0]?.["Value"] === "ON";
    return isNode && state[0]?.["Value"] !== SYNCED ? "away" : "ready";
  }

  async #connect(): Promise<Connection> {
    const connection = await createConnection({ ...this.#host, ...this.#access, connectTimeout: ANSWER_MS });
    // It is asked again in a second; nobody else listens for its end.
    connection.on("error", () => this.close());
    if (!this.#isOver) return connection;
    connection.destroy();
    throw new Error("Nobody asks any more.");
  }

  /** Nobody asks any more, not even who is connecting just now. */
  end(): void {
    this.#isOver = true;
    this.close();
  }

  close(): void {
    this.#connection?.destroy();
    this.#connection = null;
  }
}

/**
 * Every statement goes through here, and is told of (`watch.ts`). One by itself is done again when another writer won, and when a host is
 * gone and there is another: what only reads, and what was refused before anything was done. A transaction is done again as a whole
 * (`transact`), as its statements are not.
 */
export function throughHere(sequelize: Sequelize, failover: Pick<Failover<Ending>, "isWorthAnother"> | null): void {
  const query = sequelize.query.bind(sequelize) as (sql: unknown, options?: Asked) => Promise<unknown>;
  const asking = (sql: unknown, options?: Asked): Promise<unknown> => {
    const text = typeof sql === "string" ? sql : (sql as { query: string }).query;
    const ask = (): Promise<unknown> => watched(text, () => query(sql, options));
    if (options?.transaction) return ask();
    const isHarmless = (error: unknown): boolean => options?.type === "SELECT" || isUndone(error);
    return tryAgain(ask, {
      also: async (error) => failover !== null && isHarmless(error) && failover.isWorthAnother(error),
    });
  };
  sequelize.query = asking as typeof sequelize.query;
}

interface Asked {
  type?: string;
  transaction?: unknown;
}
