import { getDb, setDbWatch } from "@db";
import { v7 as uuidv7 } from "uuid";

import { closeDatabase, freshDatabase } from "~/testing/database";

import { dbWatch } from "../../../db/watch";
import { addToChain, verifyChain } from "./record-chain.server";

const NOW = new Date("2026-06-10T09:00:00Z");
const AT_ONCE = 12;
const EACH = 8;

beforeEach(freshDatabase);
afterAll(closeDatabase);

const add = (): Promise<void> => {
  const link = { kind: "return-to-service", subjectId: uuidv7(), content: {}, vouched: {}, at: NOW } as const;
  return getDb().transact((tx) => addToChain(link, tx));
};
const addMany = (): Promise<unknown> =>
  Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      for (let i = 0; i < EACH; i++) await add();
    }),
  );

it("many who sign at once wait for each other at the end of the chain, and nobody has to begin anew", async () => {
  await add();
  const conflicts: number[] = [];
  const before = dbWatch();
  setDbWatch({ ...before, again: (number) => conflicts.push(number) });
  await addMany();
  setDbWatch(before);
  expect(conflicts).toEqual([]);
  const links = await getDb().models.RecordChain.findAll({ attributes: ["seq"], order: ["seq"], raw: true });
  expect(links.map(({ seq }) => seq)).toEqual(Array.from({ length: AT_ONCE * EACH + 1 }, (_, i) => i + 1));
  expect((await verifyChain()).entries).toBe(AT_ONCE * EACH + 1);
});

it("of many who are the first, one begins the chain", async () => {
  await Promise.all(Array.from({ length: AT_ONCE }, add));
  const links = await getDb().models.RecordChain.findAll({
    attributes: ["seq", "previousHash", "hash"],
    order: ["seq"],
    raw: true,
  });
  expect(links).toHaveLength(AT_ONCE);
  for (const [i, link] of links.entries())
    expect(link.previousHash).toBe(i === 0 ? "0".repeat(64) : links[i - 1]?.hash);
});
