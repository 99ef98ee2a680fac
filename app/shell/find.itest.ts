import { must } from "@core";
import { getDb } from "@db";

import type { Actor } from "~/kit/actor";
import { addActor, closeDatabase, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { workAndSign } from "~/testing/sheets";

import { findAnything } from "./find.server";

const NOW = new Date("2026-06-10T08:00:00Z");
let lead: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped("all");
  lead = await addActor("Lea Sandström", "lead");
  await addActor("Bo Sand");
  await importLines(
    lead,
    ['Co,Works,"7 Ring_Road, Port",Europe/Lisbon,,,Hall,M-1,Sweeper,ride-on-sweeper,,2026-06-01'],
    NOW,
  );
});
afterAll(closeDatabase);

const found = async (text: string, role: Actor["role"] = "lead") =>
  (await findAnything(text, role)).map((one) => `${one.kind}: ${one.title}`);

it("finds addresses by their beginning, procedures and people by the beginning of any word", async () => {
  expect(await found("7 Ring_")).toContain("Address: 7 Ring_Road, Port");
  // What stands for any sign in a pattern stands for itself.
  expect(await found("7 R_ng_")).not.toContain("Address: 7 Ring_Road, Port");
  expect(await found("walk-round")).toContain("Procedure: Walk-round and brooms");
  expect(await found("brooms")).toContain("Procedure: Walk-round and brooms");
  expect(await found("rooms")).not.toContain("Procedure: Walk-round and brooms");
  expect(await found("sand")).toEqual(expect.arrayContaining(["Person: Bo Sand", "Person: Lea Sandström"]) as string[]);
  expect((await found("sand", "technician")).filter((one) => one.startsWith("Person"))).toEqual([]);
});

it("finds a record by its number, and each procedure once, by its newest version", async () => {
  await workAndSign(lead, "M-1", "ride-on-sweeper-daily", NOW);
  const { seq } = must(await getDb().models.RecordChain.findOne({ where: { kind: "record" }, raw: true }));
  for (const text of [`${seq}`, `no. ${seq}`, `No ${seq}`])
    expect(await found(text)).toContain(`Record: No. ${seq}: Walk-round and brooms`);
  expect(await found("987654321")).toEqual([]);
  const titles = await found("clean");
  expect(new Set(titles).size).toBe(titles.length);
});

it("finds duties by the beginning of their title, and by a machine's tag beside a word of it, in either order", async () => {
  const dutyTitles = async (text: string) =>
    (await findAnything(text, "technician")).filter((one) => one.kind === "Duty").map((one) => one.title);
  expect(await dutyTitles("walk-r")).toEqual(["Walk-round and brooms"]);
  expect(await dutyTitles("M-1 brooms")).toEqual(["Walk-round and brooms"]);
  expect(await dutyTitles("brooms m-1")).toEqual(["Walk-round and brooms"]);
  expect(await dutyTitles("M-1 rooms")).toEqual([]);
  expect(await dutyTitles("%")).toEqual([]);
  expect(await found("m-1")).toContain("Record: All records of M-1");
});

it("finds no more than a few of many duties of one title, the soonest first", async () => {
  await importLines(
    lead,
    Array.from(
      { length: 30 },
      (_, n) =>
        `Co,Works,,Europe/Lisbon,,,Hall,N-${n},Sweeper ${n},ride-on-sweeper,,2026-05-${String(1 + ((n * 7) % 30)).padStart(2, "0")}`,
    ),
    NOW,
  );
  const duties = (await findAnything("Walk-round and brooms", "lead")).filter((one) => one.kind === "Duty");
  expect(duties.length).toBeLessThanOrEqual(6);
  const days = await getDb().select<{ id: string; dueOn: string }>(
    "SELECT id, due_on AS dueOn FROM duties WHERE title = 'Walk-round and brooms' AND active = 1 AND due_on IS NOT NULL ORDER BY due_on LIMIT 1",
  );
  expect(duties.map((one) => one.href)).toContain(`/duties/${must(days[0]).id}`);
});
