import { connect as connectSocket, createServer, type Server, type Socket } from "node:net";

import { must } from "../core/must";
import { connect, type Db } from "./connect";

/** A road to the database that can go silent: nothing is refused, nothing is ended, nothing comes through. */
class SilentRoad {
  readonly #sockets = new Set<Socket>();
  readonly #server: Server;
  silent = false;

  constructor({ hostname, port }: URL) {
    this.#server = createServer((near) => {
      const far = connectSocket(Number(port), hostname);
      for (const [from, to] of [
        [near, far],
        [far, near],
      ] as const) {
        this.#sockets.add(from);
        from.on("data", (bytes) => this.silent || to.write(bytes));
        from.on("error", () => undefined);
        // A network that went silent passes on no end either.
        from.on("close", () => this.silent || to.destroy());
      }
    });
  }

  listen(): Promise<number> {
    return new Promise((resolve) =>
      this.#server.listen(0, "127.0.0.1", () => resolve((this.#server.address() as { port: number }).port)),
    );
  }

  close(): void {
    for (const socket of this.#sockets) socket.destroy();
    this.#server.close();
  }
}

let road: SilentRoad;
let db: Db;

beforeAll(async () => {
  const url = new URL(must(process.env["DATABASE_URL"]));
  road = new SilentRoad(url);
  url.port = String(await road.listen());
  url.hostname = "127.0.0.1";
  db = connect(url.href, { poolSize: 3, silenceSeconds: 1 });
});
afterAll(async () => {
  await db.close().catch(() => undefined);
  road.close();
});

it("gives a silent connection up instead of keeping the pool for ever, and goes on when there is one again", async () => {
  const ask = () => db.select<{ one: number }>("SELECT 1 AS one");
  await Promise.all([ask(), ask(), ask()]);
  road.silent = true;
  const started = performance.now();
  const answers = await Promise.allSettled(Array.from({ length: 6 }, ask));
  expect(answers.filter((one) => one.status === "rejected").length).toBeGreaterThanOrEqual(3);
  expect(performance.now() - started).toBeLessThan(14_000);
  road.silent = false;
  // What was being opened in the silence fails yet; then there is a connection again.
  let answer: { one: number }[] = [];
  for (let tries = 0; tries < 10 && answer.length === 0; tries++) answer = await ask().catch(() => []);
  expect(answer).toHaveLength(1);
}, 60_000);

it("ends what takes too long on the server too", async () => {
  const strict = connect(must(process.env["DATABASE_URL"]), { silenceSeconds: 1 });
  const started = performance.now();
  await expect(strict.select("SELECT SLEEP(20)")).rejects.toThrow();
  expect(performance.now() - started).toBeLessThan(15_000);
  const [left] = await strict.select<{ running: number }>(
    "SELECT COUNT(*) AS running FROM information_schema.processlist WHERE info LIKE '%SLEEP(20)%' AND info NOT LIKE '%processlist%'",
  );
  expect(must(left).running).toBe(0);
  await strict.close();
}, 60_000);

it("holds every session to strict values, and to letting go of rows", async () => {
  const own = connect(must(process.env["DATABASE_URL"]));
  const [row] = await own.select<{ mode: string; idle: number; wait: number }>(
    "SELECT @@sql_mode AS mode, @@idle_transaction_timeout AS idle, @@innodb_lock_wait_timeout AS wait",
  );
  for (const word of ["STRICT_ALL_TABLES", "NO_ZERO_DATE", "NO_ZERO_IN_DATE"]) expect(must(row).mode).toContain(word);
  // Who waits asks as often as it takes until the rows are free.
  expect(must(row).idle).toBe(7);
  expect(must(row).wait * 5).toBeGreaterThan(must(row).idle);
  await own.transact(async (tx) => {
    await own.run("CREATE TEMPORARY TABLE days_of_test (day DATE, word VARCHAR(3))", {}, tx);
    for (const [day, word] of [
      ["0000-00-00", "a"],
      ["2026-02-30", "a"],
      ["2026-02-28", "four"],
    ])
      await expect(own.run("INSERT INTO days_of_test VALUES (:day, :word)", { day, word }, tx)).rejects.toThrow();
  });
  await own.close();
});
