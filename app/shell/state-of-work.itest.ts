import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { addActor, closeDatabase, freshDatabase, importLines, publishShipped } from "~/testing/database";

import { stateOfWork } from "./state-of-work.server";

const NOW = new Date("2026-06-10T09:00:00Z");
let lea: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  lea = await addActor("Lea", "lead");
});
afterAll(closeDatabase);

it("of an empty firm says that nothing waits", async () => {
  expect(await stateOfWork(NOW)).toEqual({
    jobs: { waiting: 0, running: 0 },
    oldestJobSeconds: 0,
    messages: { waiting: 0, failed: 0 },
    oldestMessageSeconds: 0,
    duties: { overdue: 0, stopped: 0, active: 0 },
  });
});

it("counts what waits, since when, and what is overdue", async () => {
  const { models } = getDb();
  const line = (n: number): string => `Co,Yard,,Europe/Lisbon,,,Hall,V-${n},Sweeper,ride-on-sweeper,,2026-06-01`;
  await importLines(lea, [1, 2, 3, 4].map(line), NOW);
  const ago = (seconds: number): Date => new Date(NOW.getTime() - seconds * 1000);
  const message = (state: "waiting" | "failed" | "sent", seconds: number) => ({
    ...{ id: uuidv7(), kind: "digest" as const, onceKey: null, toName: "Desk", toAddress: "desk@yard.example" },
    ...{
      subject: "s",
      body: "b",
      siteId: null,
      sheetId: null,
      onDay: null,
      madeBy: null,
      nextTryAt: null,
      sentAt: null,
    },
    ...{ state, madeAt: ago(seconds) },
  });
  await models.Message.bulkCreate([
    message("waiting", 60),
    message("waiting", 300),
    message("failed", 900),
    message("sent", 9),
  ]);
  const job = { id: uuidv7(), kind: "bundle", title: "t", askedBy: lea.id, what: {}, kept: null, endedAt: null };
  await models.Job.create({ ...job, askedAt: ago(20), state: "running" });
  const duties = await models.Duty.findAll({ attributes: ["id"], raw: true });
  const [first, second, third] = duties.map((duty) => duty.id);
  await models.Duty.update({ dueOn: "2026-07-01" }, { where: {} });
  const late = { dueOn: "2026-06-09", projected: false };
  await models.Duty.update(late, { where: { id: [first, second].map(String) } });
  await models.Duty.update({ hardStop: true }, { where: { id: String(second) } });
  await models.Duty.update({ ...late, projected: true }, { where: { id: String(third) } });
  expect(await stateOfWork(NOW)).toEqual({
    jobs: { waiting: 0, running: 1 },
    oldestJobSeconds: 20,
    messages: { waiting: 2, failed: 1 },
    oldestMessageSeconds: 300,
    duties: { overdue: 2, stopped: 1, active: duties.length },
  });
});
