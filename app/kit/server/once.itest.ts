import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import { closeDatabase, freshDatabase } from "~/testing/database";

import { once } from "./once.server";

const NOW = new Date("2026-06-10T09:00:00Z");
const ADA = uuidv7();
const BO = uuidv7();

beforeAll(freshDatabase);
afterAll(closeDatabase);

const keep = (said: string) => ({ said, redirect: null });
let count = 0;
const item = () => `item-${++count}`;

/** Books something in a transaction of its own, as a service does. */
function book(note: string): Promise<string> {
  return getDb().transact(async (tx) => {
    await getDb().models.Lease.create({ name: uuidv7(), holder: note, heldUntil: NOW }, { transaction: tx });
    return `Booked ${note}.`;
  });
}
const booked = (note: string) => getDb().models.Lease.count({ where: { holder: note } });

it("does what is sent again once, and says again what was said", async () => {
  const [key, note] = [uuidv7(), item()];
  const sent = { key, personId: ADA, now: NOW };
  expect(await once(sent, () => book(note), keep)).toEqual({ outcome: `Booked ${note}.` });
  expect(await once(sent, () => book(note), keep)).toEqual({
    before: true,
    answer: { said: `Booked ${note}.`, redirect: null },
  });
  expect(await booked(note)).toBe(1);
  // Another key is another thing, though it says the same.
  expect(await once({ ...sent, key: uuidv7() }, () => book(note), keep)).toEqual({ outcome: `Booked ${note}.` });
  expect(await booked(note)).toBe(2);
});

it("does it once when it is sent at the same time, twenty times", async () => {
  for (let i = 0; i < 20; i++) {
    const [key, note] = [uuidv7(), item()];
    const answers = await Promise.all(
      [1, 2, 3].map(() => once({ key, personId: ADA, now: NOW }, () => book(note), keep)),
    );
    expect(answers.filter((one) => "outcome" in one)).toHaveLength(1);
    expect(await booked(note)).toBe(1);
  }
});

it("does again what was refused, be it half-way", async () => {
  const [key, note] = [uuidv7(), item()];
  const sent = { key, personId: ADA, now: NOW };
  let refusals = 2;
  const work = async () => {
    if (refusals === 2) {
      refusals -= 1;
      await getDb().transact(() => Promise.reject(new Error("not now")));
    }
    const said = await book(note);
    if (refusals-- > 0) throw new Error("the second half failed");
    return said;
  };
  await expect(once(sent, work, keep)).rejects.toThrow("not now");
  expect(await booked(note)).toBe(0);
  await expect(once(sent, work, keep)).rejects.toThrow("the second half failed");
  expect(await once(sent, work, keep)).toEqual({ outcome: `Booked ${note}.` });
  expect(await once(sent, work, keep)).toMatchObject({ before: true });
});

it("is written together with what it is about, or not at all", async () => {
  const [key, note] = [uuidv7(), item()];
  const seen: number[] = [];
  await once(
    { key, personId: ADA, now: NOW },
    () =>
      getDb().transact(async (tx) => {
        seen.push(await getDb().models.Submission.count({ where: { id: key }, transaction: tx }));
        seen.push(await getDb().models.Submission.count({ where: { id: key } }));
        return note;
      }),
    keep,
  );
  expect(seen).toEqual([1, 0]);
});

it("keeps nothing of what only asks, and shows nobody another's answer", async () => {
  const key = uuidv7();
  const sent = { key, personId: ADA, now: NOW };
  expect(await once(sent, () => Promise.resolve("computed"), keep)).toEqual({ outcome: "computed" });
  expect(await getDb().models.Submission.count({ where: { id: key } })).toBe(0);
  await once(sent, () => book(item()), keep);
  expect(await once({ ...sent, personId: BO }, () => book("never"), keep)).toEqual({ before: true, answer: null });
  expect(await booked("never")).toBe(0);
});

it("is written once by work of several transactions, one within another and side by side", async () => {
  const [key, note] = [uuidv7(), item()];
  const sent = { key, personId: ADA, now: NOW };
  const work = async () => {
    await getDb().transact(() => book(note));
    await Promise.all([book(note), book(note)]);
    return "all of it";
  };
  expect(await once(sent, work, keep)).toEqual({ outcome: "all of it" });
  expect(await once(sent, work, keep)).toEqual({ before: true, answer: { said: "all of it", redirect: null } });
  expect(await booked(note)).toBe(3);
});
