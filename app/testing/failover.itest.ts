import { must } from "@core";
import { type Claim, claims, connect, type Db, ER_DUP_ENTRY, errorNumber, getDb } from "@db";

import { isDatabaseAway } from "~/kit/server/database-refusal.server";

import { type Way, Wire } from "../../scripts/soak/wire";
import { closeDatabase, freshDatabase } from "./database";

/** Two ways to one database are what a client sees of two nodes. */
let one: Wire;
let two: Wire;
let db: Db;

beforeAll(async () => {
  await freshDatabase();
  await getDb().models.Setting.create({ name: "counted", value: { n: 0 } });
});
beforeEach(async () => {
  const url = must(process.env["DATABASE_URL"]);
  const port = Number(new URL(url).port);
  [one, two] = [await Wire.to(port), await Wire.to(port)];
  const hosts = [one, two].map((wire) => `127.0.0.1:${wire.port}`).join(",");
  db = connect(url.replace(`127.0.0.1:${port}`, hosts), { poolSize: 4, silenceSeconds: 15 });
  await getDb().models.Setting.update({ value: { n: 0 } }, { where: { name: "counted" } });
});
afterEach(async () => {
  for (const wire of [one, two]) wire.goes("through");
  await db.close();
  for (const wire of [one, two]) wire.close();
});
afterAll(closeDatabase);

const countUp = (tx: Parameters<Parameters<Db["transact"]>[0]>[0]): Promise<number> =>
  db.run(
    "UPDATE settings SET value = JSON_SET(value, '$.n', JSON_VALUE(value, '$.n') + 1) WHERE name = 'counted'",
    {},
    tx,
  );
const counted = async (): Promise<number> => {
  const row = await getDb().models.Setting.findByPk("counted", { raw: true });
  return (must(row ?? undefined).value as { n: number }).n;
};
const read = async (): Promise<number> => must((await db.select<{ n: number }>("SELECT 12 AS n"))[0]).n;

it.each<Way>(["cut", "silent", "answers-lost"])(
  "what reads goes on by the other host when the first is %s",
  async (way) => {
    expect(await read()).toBe(12);
    one.goes(way);
    const began = Date.now();
    expect(await read()).toBe(12);
    expect(Date.now() - began).toBeLessThan(10_000);
    // From now on nobody asks there first.
    const again = Date.now();
    expect(await read()).toBe(12);
    expect(Date.now() - again).toBeLessThan(1000);
  },
);

it("a transaction whose host goes in the middle of it is done as a whole, once", async () => {
  let tries = 0;
  await db.transact(async (tx) => {
    tries += 1;
    await countUp(tx);
    if (tries === 1) one.goes("cut");
    await countUp(tx);
  });
  expect([tries, await counted()]).toEqual([2, 2]);
});

it("one that was written for good without anybody hearing of it is not done again: who asked is told that the database is away", async () => {
  let tries = 0;
  const lost = db.transact(async (tx) => {
    tries += 1;
    await countUp(tx);
    one.goes("answers-lost");
  });
  const error = await lost.catch((fault: unknown) => fault);
  expect(isDatabaseAway(error)).toBe(true);
  expect([tries, await counted()]).toEqual([1, 1]);
});

it("with a claim beside it the next try learns that it is done", async () => {
  let tries = 0;
  const claim: Claim = {
    taken: false,
    done: false,
    write: async (tx) => {
      await db.models.Setting.create({ name: "claim", value: {} }, { transaction: tx });
    },
  };
  const lost = claims.run(claim, () =>
    db.transact(async (tx) => {
      tries += 1;
      await countUp(tx);
      one.goes("answers-lost");
    }),
  );
  const error = await lost.catch((fault: unknown) => fault);
  expect(errorNumber(error)).toBe(ER_DUP_ENTRY);
  expect([tries, await counted()]).toEqual([1, 1]);
  await getDb().models.Setting.destroy({ where: { name: "claim" } });
});

it("comes back to the first host when it was well for a while", async () => {
  one.goes("cut");
  expect(await read()).toBe(12);
  one.goes("through");
  expect(one.ends).toBe(0);
  // Two ends of the watcher's connection, and two of one that is worked with.
  for (let waited = 0; waited < 100 && one.ends < 4; waited++) {
    await new Promise((resolve) => setTimeout(resolve, 100));
    await read();
  }
  expect(one.ends).toBeGreaterThanOrEqual(4);
  two.goes("cut");
  expect(await read()).toBe(12);
});

it("with no host left it says so at once, and not that something is wrong with what was asked", async () => {
  for (const wire of [one, two]) wire.goes("cut");
  const began = Date.now();
  const error = await read().catch((fault: unknown) => fault);
  expect(isDatabaseAway(error)).toBe(true);
  expect(Date.now() - began).toBeLessThan(5000);
});
