import { must } from "../core/must";
import { connect, type Db } from "./connect";
import { migrate } from "./migrate";

/** Who has written more is let go on: it is the other that the database ends. */
const WEIGHT = Array.from({ length: 40 }, (_, i) => `weight-${i}`);
let db: Db;
beforeAll(async () => {
  db = connect(must(process.env["DATABASE_URL"]), { poolSize: 4 });
  await migrate(db.sequelize);
});
beforeEach(async () => {
  await db.models.Setting.destroy({ where: { name: [...WEIGHT, "one", "two"] } });
  await db.models.Setting.bulkCreate(["one", "two"].map((name) => ({ name, value: { n: 0 } })));
});
afterAll(async () => {
  await db.models.Setting.destroy({ where: { name: [...WEIGHT, "one", "two"] } });
  await db.close();
});

/** Two writers who take two rows crosswise: the database ends one of them. @returns how often the first had to try */
async function crosswise(other: () => Promise<unknown>): Promise<number> {
  let tries = 0;
  let met: () => void = () => undefined;
  const meeting = new Promise<void>((resolve) => (met = resolve));
  const first = db.transact(async (tx) => {
    tries += 1;
    await db.models.Setting.bulkCreate(
      WEIGHT.map((name) => ({ name, value: {} })),
      { transaction: tx },
    );
    await db.models.Setting.update({ value: { n: 1 } }, { where: { name: "one" }, transaction: tx });
    met();
    // Until the other holds the second row and waits for the first.
    await new Promise((resolve) => setTimeout(resolve, 300));
    await db.models.Setting.update({ value: { n: 1 } }, { where: { name: "two" }, transaction: tx });
  });
  await meeting;
  await Promise.all([first, other()]);
  return tries;
}

const values = async (): Promise<unknown[]> =>
  (await db.models.Setting.findAll({ where: { name: ["one", "two"] }, order: ["name"], raw: true })).map(
    (row) => (row.value as { n: number }).n,
  );
const BACKWARDS =
  "UPDATE settings SET value = JSON_SET(value, '$.by', 'other') WHERE name IN ('one', 'two') ORDER BY name DESC";

it("two transactions that meet are both done in the end", async () => {
  let others = 0;
  const tries = await crosswise(() =>
    db.transact(async (tx) => {
      others += 1;
      await db.run(BACKWARDS, {}, tx);
    }),
  );
  expect(await values()).toEqual([1, 1]);
  expect([tries, others]).toEqual([1, 2]);
});

it("a statement by itself that meets a transaction is done all the same", async () => {
  expect(await crosswise(() => db.run(BACKWARDS))).toBe(1);
  expect(await values()).toEqual([1, 1]);
});
