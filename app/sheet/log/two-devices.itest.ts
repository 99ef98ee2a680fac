import type { RunEvent, RunEventBody } from "@core";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { entryOf } from "~/testing/sheets";

import { appendEntries } from "./append-entries.server";
import { loadSheet } from "./sheets.server";

const NOW = new Date("2026-06-10T09:00:00Z");
let bo: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped("all");
  bo = await addActor("Bo");
  const lead = await addActor("Lea", "lead");
  await importLines(lead, ["Co,Yard,,Europe/Lisbon,,,Hall,T-5,Sweeper,ride-on-sweeper,,2026-06-01"], NOW);
});
afterAll(closeDatabase);

const entry = (actor: Actor, sheetId: string, body: RunEventBody): RunEvent => entryOf(actor, sheetId, NOW, body);

describe("two devices at once", () => {
  it("opens one sheet when two devices' batches begin it at the same time, and keeps both", async () => {
    const dutyId = await dutyOf("T-5", "ride-on-sweeper-daily");
    const begun = {
      type: "started",
      planId: dutyId,
      procedureId: "ride-on-sweeper-daily",
      procedureVersion: 2,
    } as const;
    for (let i = 0; i < 5; i++) {
      const sheetId = uuidv7();
      const started = entry(bo, sheetId, begun);
      const notes = [1, 2, 3].map((n) => entry(bo, sheetId, { type: "note", text: `From device ${n}` }));
      const results = await Promise.all(notes.map((note) => appendEntries(bo, sheetId, [started, note], NOW)));
      expect(results.map((one) => [one.accepted.length, one.refused])).toEqual([
        [2, []],
        [2, []],
        [2, []],
      ]);
      expect(new Set((await loadSheet(sheetId)).entries.map((one) => one.id))).toEqual(
        new Set([started.id, ...notes.map((note) => note.id)]),
      );
    }
  });
});
