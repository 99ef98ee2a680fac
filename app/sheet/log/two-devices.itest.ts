import type { RunEvent, RunEventBody } from "@core";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { entryOf } from "~/testing/sheets";

import { appendEntries } from "./append-entries.server";
import { loadSheet, openSheet } from "./sheets.server";

const NOW = new Date("2026-06-10T09:00:00Z");
const later = (minutes: number): Date => new Date(NOW.getTime() + minutes * 60_000);
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
      procedureVersion: 4,
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

describe("a wrong clock", () => {
  it("takes no time before its sheet was opened, nor one long gone, but from paper", async () => {
    const sheetId = await openSheet(bo, await dutyOf("T-5", "ride-on-sweeper-daily"), "phone", NOW);
    const note = (minutes: number, device = "phone") => ({
      ...entryOf(bo, sheetId, later(minutes), { type: "note", text: "x" }),
      device,
    });
    const long = 60 * 24 * 60 + 1;
    const { accepted, refused } = await appendEntries(
      bo,
      sheetId,
      [note(-11), note(-9), note(-24 * 60, "paper"), note(-long, "paper"), { ...note(0), at: "1970-01-01T00:00:00Z" }],
      NOW,
    );
    expect(accepted).toHaveLength(2);
    // Far off by itself twice, then the one before its sheet.
    expect(refused.map((one) => [one.code, one.notBefore])).toEqual([
      ["clock", undefined],
      ["clock", undefined],
      ["clock", NOW.toISOString()],
    ]);
    const right = { ...note(1), uncertain: true, deviceAt: "1970-01-01T00:00:00Z" };
    expect((await appendEntries(bo, sheetId, [right], later(2))).refused).toEqual([]);
    expect((await loadSheet(sheetId)).entries.at(-1)).toEqual(right);
  });
});
