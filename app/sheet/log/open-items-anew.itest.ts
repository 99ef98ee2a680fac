import { foldRun, must, openItems, type RunEvent, type RunEventBody, sheetEffects } from "@core";
import { getDb } from "@db";

import { openItemsOf } from "~/duties/left/open-items.server";
import { closeItem } from "~/sheet/left/change-items.server";
import { closeDatabase, dutyOf } from "~/testing/database";
import {
  ada,
  at,
  beginLeft,
  done,
  finding,
  fitted,
  lea,
  machine,
  read,
  REST,
  rowsOf,
  skipped,
  work,
} from "~/testing/left";

import { procedureOf, readEntries } from "./sheet-context.server";
import { correctFact } from "./sheets.server";

beforeAll(beginLeft);
afterAll(closeDatabase);

describe("what is open on a machine", () => {
  it("is the same as worked out anew from its signed sheets, whatever was logged and in whatever order", async () => {
    const random = draws(20261128);
    for (let round = 0; round < 8; round++) {
      const { tag, id } = await machine();
      const dutyId = await dutyOf(tag, "check");
      const worked: { sheetId: string; entries: RunEvent[] }[] = [];
      for (let day = 0, n = 3 + random(5); day < n; day++) {
        const said: RunEventBody[] = (await openItemsOf(id))
          .filter(() => random(4) === 0)
          .map((one) => ({ type: "put-right", item: one.name }));
        const bodies: RunEventBody[] = [
          read(random(2) === 0 ? 1.5 : 3),
          random(2) === 0 ? skipped("new") : fitted,
          random(3) === 0 ? skipped("wipe", "No time") : done("wipe"),
          random(3) === 0 ? skipped("grease", "No grease") : done("grease"),
          ...REST.slice(2),
          ...(random(3) === 0
            ? [finding(random(2) === 0 ? "Dent" : "Scratch", random(2) === 0 ? "minor" : "major")]
            : []),
          ...(random(5) === 0 ? [{ type: "interim", text: "Tied up", until: "a new hose" } as RunEventBody] : []),
          ...said,
        ];
        // A device that was away ends a visit that is older than what the server has by now.
        if (random(5) === 0) bodies.push({ type: "outcome", outcome: "no-access", reason: "Locked" });
        const late = random(4) === 0 ? -1.5 : 0;
        worked.push(await work(dutyId, at(Math.max(0, day + late), day), bodies));
        const open = await openItemsOf(id);
        if (random(6) === 0 && open[0])
          await closeItem(lea, { machineId: id, id: open[0].id, reason: "Seen" }, at(day, 45));
        const earlier = must(worked[random(worked.length)]);
        if (random(3) === 0)
          await correctFact(
            ada,
            earlier.sheetId,
            { ref: must(earlier.entries[0]).id, set: { value: random(2) === 0 ? 1.5 : 3 }, why: "slip" },
            at(day, 50),
          );
      }
      const anew = await workedOutAnew(id);
      const stored = (await rowsOf(id)).filter((row) => row.closedAt === null).map((row) => row.name);
      expect(stored.sort()).toEqual(anew);
      const carried = await getDb().models.OpenItem.count({
        where: { machineId: id, closedAt: null, workDutyId: null },
      });
      expect(carried).toBe(0);
    }
  });
});

/** From all closed sheets of the machine and what a lead has closed, with nothing of what the server keeps. */
async function workedOutAnew(machineId: string): Promise<string[]> {
  const sheets = await getDb().models.Sheet.findAll({
    where: { machineId, status: ["signed", "ended"] },
    raw: true,
  });
  const effects = await Promise.all(
    sheets.map(async (sheet) => {
      const procedure = await procedureOf(sheet);
      const state = foldRun(procedure, await readEntries(sheet.id));
      return sheetEffects({ id: sheet.id, closedAt: must(sheet.closedAt).toISOString() }, procedure, state, {
        options: [],
      });
    }),
  );
  const closings = (await rowsOf(machineId)).flatMap((row) =>
    row.closedBy === null ? [] : [{ item: row.name, at: must(row.closedAt).toISOString() }],
  );
  return openItems(effects, closings)
    .filter((one) => one.closed === null)
    .map((one) => one.id)
    .sort();
}

/** Whole numbers below a bound, the same each time. */
function draws(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
}
