import { must } from "@core";
import { getDb } from "@db";
import { parse } from "csv-parse/sync";

import type { Actor } from "~/kit/actor";
import { jobOf, readFile } from "~/kit/jobs/jobs.server";
import { runJobs } from "~/kit/jobs/run-jobs.server";
import { appendEntries } from "~/sheet/log/append-entries.server";
import { correctFact, openSheet } from "~/sheet/log/sheets.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { pagesOfPdf } from "~/testing/pdf";
import { entryOf, workAndSign } from "~/testing/sheets";

import type { BundleKind } from "./bundle-schemas";
import { askBundle, BUNDLES, MOST_RECORDS } from "./bundles.server";

const NOW = new Date("2026-06-10T09:00:00Z");
const later = (minutes: number): Date => new Date(NOW.getTime() + minutes * 60_000);
const DAILY = "ride-on-sweeper-daily";
const WORKED = 23;
let ada: Actor;
let lead: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  [ada, lead] = [await addActor("Ada"), await addActor("Lea", "lead")];
  await importLines(
    lead,
    Array.from(
      { length: WORKED + 1 },
      (_, n) => `Co,Yard,,Europe/Lisbon,,,Hall,S-${n},=Sweeper ${n},ride-on-sweeper,,2026-06-01`,
    ),
    NOW,
  );
  for (let n = 0; n < WORKED; n++) await workAndSign(ada, `S-${n}`, DAILY, later(n));
  const sheetId = await openSheet(ada, await dutyOf(`S-${WORKED}`, DAILY), "phone", later(60));
  const outcome = entryOf(ada, sheetId, later(61), { type: "outcome", outcome: "refused", reason: "Not today" });
  await appendEntries(ada, sheetId, [outcome], later(61));
});
afterAll(closeDatabase);

async function made(kind: BundleKind, narrowed: Parameters<typeof askBundle>[2], stopping?: () => boolean) {
  const id = await askBundle(ada, kind, narrowed, later(600));
  await runJobs(BUNDLES, "one", stopping);
  return id;
}

const fileOf = async (id: string, name: string): Promise<Buffer> =>
  Buffer.from(await new Response(readFile(id, name)).arrayBuffer());

/** The words of each page, as a reader sees them. */
const pagesOf = async (id: string): Promise<string[]> => pagesOfPdf(await fileOf(id, "records.pdf"));

describe("records as one PDF", () => {
  it("has an index whose page numbers are true, and every record", async () => {
    const id = await made("records-pdf", {});
    expect(await jobOf(ada, id)).toMatchObject({ state: "done", done: WORKED + 1, total: WORKED + 1 });
    const pages = await pagesOf(id);
    const index = must(pages[0]);
    expect(index).toContain(`${WORKED + 1} records, 1 with exceptions`);
    const lines = index.split("\n").flatMap((line) => {
      const found = /(S-\d+) .*?(\d+)$/.exec(line.trim());
      return found ? [{ tag: must(found[1]), page: Number(found[2]), line }] : [];
    });
    expect(lines.map((one) => one.tag).sort()).toEqual(Array.from({ length: WORKED + 1 }, (_, n) => `S-${n}`).sort());
    for (const { tag, page } of lines) expect(pages[page - 1]).toContain(`tag ${tag}`);
    expect(must(lines.find((one) => one.tag === `S-${WORKED}`)).line).toContain("Work not done");
    pages.forEach((page, i) => expect(page.trim().endsWith(`${i + 1} / ${pages.length}`)).toBe(true));
    // Each record counts its own pages too.
    expect(pages.filter((page) => page.includes("page 1 of"))).toHaveLength(WORKED + 1);
  });

  it("is narrowed as the book is, and says by what", async () => {
    const id = await made("records-pdf", { machine: "S-7", from: "2026-06-01", to: "2026-06-30" });
    const [index, ...records] = await pagesOf(id);
    expect(index).toContain("=Sweeper 7 S-7");
    expect(index).toContain("From Mon 1 Jun 2026 to Tue 30 Jun 2026");
    expect(records.length).toBeGreaterThan(0);
    expect(records.join("")).not.toMatch(/tag S-(?!7)/);
  });

  it("is the same after its process was stopped in between", async () => {
    let steps = 0;
    const id = await made("records-pdf", {}, () => ++steps > 2);
    expect(await jobOf(ada, id)).toMatchObject({ state: "running" });
    await runJobs(BUNDLES, "two");
    const whole = await made("records-pdf", {});
    expect(await pagesOf(id)).toEqual(await pagesOf(whole));
    expect(await getDb().models.JobPiece.count({ where: { name: "gathered" } })).toBe(0);
  });

  it("holds none that was signed after it was asked for", async () => {
    const id = await askBundle(ada, "records-pdf", { machine: "S-3" }, later(3));
    await runJobs(BUNDLES, "one");
    expect((await jobOf(ada, id)).done).toBe(0);
  });
});

describe("readings as CSV", () => {
  it("has every reading once, as it reads now, and what it was logged as", async () => {
    const sheet = must(
      await getDb().models.RecordSummary.findOne({ attributes: ["sheetId"], where: { tag: "S-5" }, raw: true }),
    );
    const readings = await getDb().models.LogEntry.findAll({
      where: { sheetId: sheet.sheetId, type: "reading" },
      order: ["seq"],
      raw: true,
    });
    const first = must(readings[0]);
    await correctFact(lead, sheet.sheetId, { ref: first.id, set: { value: 2.75 }, why: "=Wrong" }, later(500));
    const id = await made("readings-csv", {});
    const text = (await fileOf(id, "readings.csv")).toString("utf8");
    const rows = parse<Record<string, string>>(text, { columns: true });
    expect(rows).toHaveLength(await getDb().models.LogEntry.count({ where: { type: "reading" } }));
    expect(text.split("\r\n").filter((line) => line.startsWith("record_no"))).toHaveLength(1);
    const ours = rows.filter((row) => row.machine_tag === "S-5");
    expect(ours).toHaveLength(readings.length);
    const corrected = must(ours.find((row) => row.first_logged_as !== ""));
    const { value } = first.body as { value: number };
    // A name that a spreadsheet would work out is guarded.
    expect(corrected).toMatchObject({
      value: "2.75",
      first_logged_as: String(value),
      corrected_because: "'=Wrong",
      machine: "'=Sweeper 5",
      read_by: "Ada",
      customer: "Co",
    });
  });
});

describe("asking for a bundle", () => {
  const asked = (kind: BundleKind, narrowed: Parameters<typeof askBundle>[2]) => askBundle(ada, kind, narrowed, NOW);
  it("is refused where nothing fits, or what was typed means nothing", async () => {
    await expect(asked("records-pdf", { outcome: "no-access" })).rejects.toMatchObject({ status: 422 });
    await expect(asked("records-pdf", { machine: "Z-1" })).rejects.toThrow(/There is no machine/);
  });
  it("is refused where it is more than it can hold", async () => {
    const most = MOST_RECORDS["records-pdf"];
    MOST_RECORDS["records-pdf"] = 10;
    try {
      await expect(asked("records-pdf", {})).rejects.toThrow("These are more than 10 records. Narrow them");
    } finally {
      MOST_RECORDS["records-pdf"] = most;
    }
  });
});
