import { must } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { saveLetterhead } from "~/people/letterhead.server";
import { appendEntries } from "~/sheet/log/append-entries.server";
import { correctFact, openSheet } from "~/sheet/log/sheets.server";
import { signSheet } from "~/sheet/log/sign-sheets.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { pagesOfPdf } from "~/testing/pdf";
import { entryOf, workAndSign } from "~/testing/sheets";

import { printed as printOf } from "./print/printed.server";
import { recordPdf } from "./print/record-pdf.server";
import { loadRecord } from "./records.server";
import { searchBook } from "./search/records-found.server";

const NOW = new Date("2026-06-10T09:00:00Z");
const later = (minutes: number): Date => new Date(NOW.getTime() + minutes * 60_000);
const ICE = "flake-ice-maker-clean-sanitise";
const DAILY = "ride-on-sweeper-daily";
const LONG =
  "Flake ice maker of the great hall beside the ferry terminal, north wing, second floor, behind the counter";
let ada: Actor;
let lead: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  [ada, lead] = [await addActor("Ada Ávila"), await addActor("Lea", "lead")];
  await importLines(
    lead,
    [
      `Café Ōsaka Ελλάς 食,Søndre kai,Pier 1,Europe/Lisbon,,,Kitchen,ice,"${LONG}",flake-ice-maker,,2026-01-01`,
      "Co,Yard,,America/New_York,,,Yard,sweeper,Sweeper,ride-on-sweeper,,2026-06-01",
    ],
    NOW,
  );
});
afterAll(closeDatabase);

/** The words of a record's PDF, as a reader sees them. */
async function printed(sheetId: string): Promise<{ text: string; pages: number }> {
  const pages = pagesOfPdf(await recordPdf(printOf(await loadRecord(sheetId, later(600)))));
  return { text: pages.join("\f").replaceAll(/[ \n\f]+/g, " "), pages: pages.length };
}

/** Opens, notes, and ends a sheet without the work. */
async function endedAt(minutes: number, reason = "Shut"): Promise<string> {
  const sheetId = await openSheet(ada, await dutyOf("sweeper", DAILY), "phone", later(minutes));
  const outcome = entryOf(ada, sheetId, later(minutes), { type: "outcome", outcome: "no-access", reason });
  const { refused } = await appendEntries(ada, sheetId, [outcome], later(minutes));
  expect(refused).toEqual([]);
  return sheetId;
}

const listRecords = async (after: string | null) => (await searchBook({})).page(after);

describe("the book", () => {
  it("lists closed sheets alone, the newest first", async () => {
    const open = await openSheet(ada, await dutyOf("ice", ICE), "phone", later(1));
    const first = await endedAt(2);
    const second = await endedAt(3, "Nobody there");
    const { rows, next } = await listRecords(null);
    expect(rows.map((row) => row.id)).toEqual([second, first]);
    expect(rows[0]).toMatchObject({
      outcome: "no-access",
      onDay: "2026-06-10",
      machineTag: "sweeper",
      siteName: "Yard",
      personName: "Ada Ávila",
      closedAt: later(3),
    });
    expect(next).toBeNull();
    expect(rows.map((row) => row.id)).not.toContain(open);
  });

  it("loses none and repeats none over its pages, though many were closed at the same instant", async () => {
    for (let i = 0; i < 58; i++) await endedAt(i < 10 ? 10 + i : 30);
    const seen: string[] = [];
    const sizes: number[] = [];
    for (let after: string | null = null, first = true; first || after; first = false) {
      const page: Awaited<ReturnType<typeof listRecords>> = await listRecords(after);
      seen.push(...page.rows.map((row) => row.id));
      sizes.push(page.rows.length);
      after = page.next;
    }
    expect(sizes).toEqual([50, 10]);
    expect(new Set(seen).size).toBe(60);
  });

  it.each(["", "x", "1_", "NaN_a", "_", "1e999_b", "2026-06-10_x_y", "2026-06-10_1e3_y", "2026-06-10_5_"])(
    "takes the cursor %j, which no page makes, for the beginning",
    async (after) => {
      expect((await listRecords(after)).rows).toHaveLength(50);
    },
  );
});

describe("a record", () => {
  it("begins with the firm's letterhead and the time on site, and says what it has no letters for", async () => {
    await saveLetterhead(lead, { name: "Harbour Service", lines: "Quay 1\n+00 1" }, NOW);
    const sheetId = await endedAt(45, "食堂 closed");
    const { siteId } = await loadRecord(sheetId, later(600)).then((record) => record.duty);
    const dayId = uuidv7();
    await getDb().models.Day.create({
      id: dayId,
      personId: ada.id,
      onDay: "2026-06-10",
      startMinute: 480,
      endMinute: 1000,
    });
    for (const [type, minutes] of [
      ["arrived", 10],
      ["left", 20],
      ["arrived", 40],
      ["left", 55],
    ] as const)
      await getDb().models.DayEvent.create({
        id: uuidv7(),
        dayId,
        at: later(minutes),
        byPerson: ada.id,
        type,
        siteId,
        body: {},
      });
    const { text } = await printed(sheetId);
    expect(text).toMatch(/^ ?Harbour Service Quay 1 \+00 1 /);
    expect(text).toMatch(/Time: On site: \d\d:\d\d to \d\d:\d\d \(15 min\)/);
    expect(text).toContain("□ stands for 2 signs of a script");
    expect(text).not.toContain("食");
  });

  it("shows on paper what was done, measured, found and used, by whom and when at the site", async () => {
    const { sheetId, state } = await workAndSign(ada, "ice", ICE, later(60));
    const { text, pages } = await printed(sheetId);
    for (const words of [
      "Service record",
      LONG,
      "Café Ōsaka Ελλάς □, Søndre kai, Kitchen, Pier 1",
      "(Europe/Lisbon)",
      "Desk (typed)",
      "Ada Ávila, signed with password",
      "Next due",
    ])
      expect(text).toContain(words);
    // Lisbon is an hour ahead of UTC in June.
    expect(text).toContain("Started: 2026-06-10 10:01");
    expect(pages).toBeGreaterThan(1);
    for (let page = 1; page <= pages; page++) expect(text).toContain(`page ${page} of ${pages}`);
    expect(text).not.toMatch(/undefined|NaN|\[object/);
    const { steps } = await loadRecord(sheetId, later(600));
    const settled = steps.filter((one) => one.settled);
    expect(settled.length).toBeGreaterThan(10);
    for (const one of settled) expect(text.replaceAll(" ", "")).toContain(one.definition.title.replaceAll(" ", ""));
    expect(state.consumables.length).toBeGreaterThan(0);
    expect(text).toContain("Materials used");
  });

  it("keeps the old value readable beside the new one, with who, when and why", async () => {
    const { sheetId, entries } = await workAndSign(ada, "ice", ICE, later(700));
    const used = must(entries.find((one) => one.type === "consumable-used"));
    await correctFact(lead, sheetId, { ref: used.id, set: { qty: 333 }, why: "Read it from the can" }, later(900));
    const old = used.qty;
    const record = await loadRecord(sheetId, later(901));
    expect(record.state.consumables.find((one) => one.eventId === used.id)).toMatchObject({
      qty: 333,
      corrections: [{ old: { qty: old }, set: { qty: 333 }, why: "Read it from the can" }],
    });
    const { text } = await printed(sheetId);
    expect(text).toContain(`${old} became 333; Read it from the can`);
    expect(record.chain.map((one) => one.kind)).toEqual(["record", "addition"]);
    // The log itself still has what was logged.
    const body = await getDb().models.LogEntry.findOne({ where: { id: used.id }, raw: true });
    expect(JSON.stringify(body)).toContain(String(old));
  });

  it("of a visit without the work says so, and that the duty is still due", async () => {
    const { text } = await printed(await endedAt(960, "Yard flooded"));
    for (const words of ["Visit record", "work not done", "Reason: Yard flooded", "Still due", "did not sign"])
      expect(text).toContain(words);
    expect(text).not.toContain("Service record");
    // New York is four hours behind UTC in June.
    expect(text).toContain("2026-06-10 21:00");
  });

  it("says what was signed with steps missing, and counts what came after the signature apart", async () => {
    const sheetId = await openSheet(ada, await dutyOf("sweeper", DAILY), "phone", later(1000));
    const customer = { method: "not-present", reason: "Gone home" } as const;
    const refused = await signSheet(ada, sheetId, { customer, missingReason: null, device: "phone" }, later(1001));
    expect(refused).toMatchObject({ signed: false });
    await signSheet(ada, sheetId, { customer, missingReason: "Rain", device: "phone" }, later(1001));
    expect((await loadRecord(sheetId, later(1002))).cameLate).toEqual([]);
    // On its way when the sheet was signed: it arrives later and stands apart.
    const late = entryOf(ada, sheetId, later(1000.5), { type: "note", text: "Left brush worn" });
    expect((await appendEntries(ada, sheetId, [late], later(1010))).refused).toEqual([]);
    const record = await loadRecord(sheetId, later(1011));
    expect(record.cameLate).toMatchObject([{ words: "Left brush worn", by: ada.id }]);
    expect(record.state.notes).toEqual([]);
    const { text } = await printed(sheetId);
    for (const words of ["Signed with steps missing: Rain", "Customer not present: Gone home", "not settled"])
      expect(text).toContain(words);
  });
});
