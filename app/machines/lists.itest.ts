import { must } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import { searchBook } from "~/book/search/records-found.server";
import { listDue } from "~/duties/due.server";
import type { Actor } from "~/kit/actor";
import { listSites } from "~/machines/sites/sites.server";
import {
  checkedProcedure,
  getProcedure,
  listProcedures,
  newestProcedures,
  publishProcedures,
  readProcedureFiles,
} from "~/procedures/procedures.server";
import { appendEntries } from "~/sheet/log/append-entries.server";
import { recentValues } from "~/sheet/log/past-values.server";
import { openSheet } from "~/sheet/log/sheets.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";

import { EARLIER } from "../../core/sheet/testing/shipped";
import { getMachine, listFamilies, listMachines, logOccurrence } from "./machines.server";
import { logMeterReading, meterQuestion } from "./meters.server";

const NOW = new Date("2026-06-10T10:00:00Z");
const MACHINES = 130;
let lead: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  lead = await addActor("Lea", "lead");
  // Daily duties that count from different days: some overdue, one due, some not yet.
  const start = (n: number): string => new Date(NOW.getTime() - (n % 10) * 86_400_000).toISOString().slice(0, 10);
  await importLines(
    lead,
    Array.from(
      { length: MACHINES },
      (_, n) =>
        `Co,Site ${n % 3},,Europe/Lisbon,,,Hall ${n},L-${n},Sweeper ${String(n).padStart(3, "0")},ride-on-sweeper,,${start(n)}`,
    ),
    NOW,
  );
});
afterAll(closeDatabase);

/** Follows the pages to the end. */
async function all<Row>(
  page: (after: string | null) => Promise<{ rows: Row[]; next: string | null }>,
): Promise<{ rows: Row[]; pages: number }> {
  const rows: Row[] = [];
  let pages = 0;
  for (let after: string | null = null; pages === 0 || after !== null; pages++) {
    const got = await page(after);
    rows.push(...got.rows);
    after = got.next;
    if (pages > 20) throw new Error("no end");
  }
  return { rows, pages };
}

describe("pages", () => {
  it("of the round hold every duty once, the longest due first", async () => {
    const { rows, pages } = await all((after) => listDue({ after }, NOW));
    // Counted from today (n % 10 = 0) a daily duty is due tomorrow and has no notice before its day.
    expect(rows).toHaveLength(MACHINES - MACHINES / 10);
    expect(pages).toBe(3);
    expect(new Set(rows.map((row) => row.dutyId)).size).toBe(rows.length);
    const days = rows.map((row) => must(row.dueOn));
    expect([...days].sort()).toEqual(days);
    expect(new Set(rows.map((row) => row.state))).toEqual(new Set(["overdue", "due"]));
  });

  it("of the round can be one site's alone", async () => {
    const site = must((await listSites()).find((one) => one.name === "Site 1"));
    const { rows } = await all((after) => listDue({ siteId: site.id, after }, NOW));
    expect(new Set(rows.map((row) => row.siteName))).toEqual(new Set(["Site 1"]));
    expect(rows.length).toBeGreaterThan(30);
  });

  it("of the register hold every machine once, by name", async () => {
    const { rows, pages } = await all((after) => listMachines({ after }));
    expect(pages).toBe(3);
    expect(rows.map((row) => row.name)).toEqual(
      Array.from({ length: MACHINES }, (_, n) => `Sweeper ${String(n).padStart(3, "0")}`),
    );
  });

  it("of the book hold every record once, the newest first", async () => {
    for (let n = 0; n < 60; n++) {
      const at = new Date(NOW.getTime() + Math.floor(n / 2) * 60_000); // two at a time
      const sheetId = await openSheet(lead, await dutyOf(`L-${n}`, "ride-on-sweeper-daily"), "test", at);
      await appendEntries(
        lead,
        sheetId,
        [
          {
            id: uuidv7(),
            runId: sheetId,
            at: at.toISOString(),
            by: lead.id,
            device: "test",
            type: "outcome",
            outcome: "refused",
            reason: `Reason ${n}`,
          },
        ],
        at,
      );
    }
    const { rows, pages } = await all(async (after) => (await searchBook({})).page(after));
    expect(pages).toBe(2);
    expect(new Set(rows.map((row) => row.id)).size).toBe(60);
    const times = rows.map((row) => row.closedAt.getTime());
    expect([...times].sort((a, b) => b - a)).toEqual(times);
    expect(await (await searchBook({})).page("nonsense")).toMatchObject({ rows: expect.arrayContaining([]) });
  });
});

describe("finding a machine", () => {
  it.each([
    ["Sweeper 01", 10],
    ["L-12", 11], // L-12 and L-120 to L-129
    ["hall", 50],
    ["Site 2", 43],
    ["nothing such", 0],
    ["%", 0],
    ["'; DROP TABLE machines; --", 0],
  ])("by %j", async (q, expected) => {
    expect((await listMachines({ q })).rows).toHaveLength(expected);
  });
  it("by family", async () => {
    expect(await listFamilies()).toEqual(["ride-on-sweeper"]);
    expect((await listMachines({ family: "cnc-lathe" })).rows).toEqual([]);
  });
});

describe("a machine", () => {
  it("has its last meter values, events and sheets", async () => {
    const [row] = (await listMachines({ q: "L-77" })).rows;
    await logMeterReading(lead, must(row).id, { meter: "running-hours", value: 10 }, new Date("2026-06-01T10:00:00Z"));
    await logMeterReading(lead, must(row).id, { meter: "running-hours", value: 25 }, NOW);
    await logOccurrence(lead, must(row).id, { event: "warning-light", on: "2026-06-12", note: "amber" }, NOW);
    const view = await getMachine(must(row).id);
    expect(view.meters).toMatchObject([{ meter: "running-hours", value: 25 }]);
    expect(view.occurrences).toEqual([{ event: "warning-light", on: "2026-06-12", note: "amber" }]);
    expect(view.site).toMatchObject({ customerName: "Co", timeZone: "Europe/Lisbon" });
    expect(await recentValues(must(row).id)).toEqual({
      "running-hours": [
        { on: "2026-06-01", value: 10 },
        { on: "2026-06-10", value: 25 },
      ],
    });
  });
  it("asks about a value that may be a slip, and about no other", async () => {
    const id = must((await listMachines({ q: "L-77" })).rows[0]).id; // last value 25
    const asked = await Promise.all([24, 25, 26, 1000].map((value) => meterQuestion(id, "running-hours", value, NOW)));
    expect(asked.map((question) => question !== null)).toEqual([true, false, false, true]);
    expect(asked[0]).toEqual(
      expect.stringMatching(/^The last value was 25 on \S+, this one is 24\. A meter does not run backwards/),
    );
    expect(await meterQuestion(id, "never-read", 1e9, NOW)).toBeNull();
  });
  it("that does not exist is refused in words", async () => {
    await expect(getMachine(uuidv7())).rejects.toMatchObject({ status: 404 });
    await expect(logMeterReading(lead, uuidv7(), { meter: "h", value: 1 }, NOW)).rejects.toMatchObject({ status: 404 });
  });
});

describe("procedures", () => {
  it("are published once; the same version with other content is refused, a new version is taken", async () => {
    const first = readProcedureFiles(EARLIER).find((one) => one.id === "flake-ice-maker-clean-sanitise");
    expect(await publishProcedures([must(first)], NOW)).toEqual([]);
    await expect(publishProcedures([{ ...must(first), title: "Other" }], NOW)).rejects.toMatchObject({ status: 409 });
    expect(await publishProcedures([{ ...must(first), version: 9, title: "Second" }], NOW)).toEqual([must(first).id]);
    expect(await getProcedure(must(first).id)).toMatchObject({ version: 9, title: "Second" });
    expect((await listProcedures()).filter((one) => one.id === must(first).id)).toMatchObject([{ version: 9 }]);
    expect((await newestProcedures([must(first).family])).filter((one) => one.id === must(first).id)).toHaveLength(1);
    await expect(getProcedure("no-such")).rejects.toMatchObject({ status: 404 });
  });
  it("all or none: a batch with one that is refused publishes nothing", async () => {
    const shipped = readProcedureFiles(EARLIER);
    const first = shipped.find((one) => one.id === "flake-ice-maker-clean-sanitise");
    const second = shipped.find((one) => one.id === "ride-on-sweeper-daily");
    await expect(
      publishProcedures(
        [
          { ...must(second), version: 8 },
          { ...must(first), title: "Other" },
        ],
        NOW,
      ),
    ).rejects.toMatchObject({ status: 409 });
    const [row] = await getDb().select<{ total: number }>("SELECT COUNT(*) AS total FROM procedures WHERE version = 8");
    expect(must(row).total).toBe(0);
  });
  it("with references that do not hold are refused, naming them", () => {
    const first = readProcedureFiles(EARLIER).find((one) => one.id === "flake-ice-maker-clean-sanitise");
    expect(() => checkedProcedure({ ...first, materials: [] })).toThrow(/not on the material list/);
  });
});
