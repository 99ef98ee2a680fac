import { must } from "../core/must";
import { connect, type Db } from "./connect";
import { migrate } from "./migrate";
import { slotOf } from "./turns";

let db: Db;
let alone: Db;
beforeAll(async () => {
  const url = must(process.env["DATABASE_URL"]);
  [db, alone] = [connect(url, { poolSize: 2, cluster: true }), connect(url, { poolSize: 2, cluster: false })];
  await migrate(db.sequelize);
});
beforeEach(async () => {
  await db.models.Turn.destroy({ where: {} });
  await db.models.Setting.destroy({ where: { name: ["one", "two"] } });
  await db.models.Setting.bulkCreate(["one", "two"].map((name) => ({ name, value: {} })));
});
afterAll(async () => {
  await db.models.Setting.destroy({ where: { name: ["one", "two"] } });
  await db.close();
  await alone.close();
});

const turns = async () =>
  new Map((await db.models.Turn.findAll({ raw: true })).map(({ slot, n }) => [slot, n] as const));
const ONE = slotOf("settings one");
const TWO = slotOf("settings two");

it("whoever locks a row on a cluster writes its turn, whichever way the row is found, and gives the rows as asked", async () => {
  await db.transact(async (tx) => {
    const locked = { lock: tx.LOCK.UPDATE, raw: true, transaction: tx } as const;
    expect(await db.models.Setting.findByPk("one", { ...locked, attributes: ["value"] })).toMatchObject({ value: {} });
    expect(await db.models.Setting.findOne({ ...locked, where: { name: "one" } })).toMatchObject({ name: "one" });
    expect(await db.models.Setting.findByPk("none", locked)).toBeNull();
  });
  expect(await turns()).toEqual(new Map([[ONE, 2]]));
  await db.transact(async (tx) => {
    await db.models.Setting.findAll({
      where: { name: ["two", "one"] },
      lock: tx.LOCK.UPDATE,
      raw: true,
      transaction: tx,
    });
    await db.takeTurns(["settings two"], tx);
  });
  expect(await turns()).toEqual(new Map([ONE, TWO].map((slot) => [slot, slot === ONE ? 3 : 2])));
});

it("writes none for what is only read, none that was taken back, and none where there is no cluster", async () => {
  await db.transact(async (tx) => {
    await db.models.Setting.findAll({ where: { name: "one" }, raw: true, transaction: tx });
  });
  const failed = db.transact(async (tx) => {
    await db.models.Setting.findByPk("one", { lock: tx.LOCK.UPDATE, raw: true, transaction: tx });
    throw new Error("never mind");
  });
  await expect(failed).rejects.toThrow("never mind");
  await alone.transact(async (tx) => {
    await alone.models.Setting.findByPk("one", { lock: tx.LOCK.UPDATE, raw: true, transaction: tx });
    await alone.takeTurns(["settings one"], tx);
  });
  expect(await turns()).toEqual(new Map());
});

it("spreads what is locked over its slots", () => {
  const slots = new Set(Array.from({ length: 1000 }, (_, i) => slotOf(`sheets 0190aaaa-0000-7000-8000-${i}`)));
  expect(slots.size).toBeGreaterThan(900);
});
