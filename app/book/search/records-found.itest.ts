import { must } from "@core";
import { getDb, type RecordLinkRow, type RecordSummaryRow } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { bitsOf, type Exception, EXCEPTIONS } from "~/sheet/summaries/exceptions";
import { addActor, closeDatabase, freshDatabase, importLines, publishShipped } from "~/testing/database";

import { searchBook } from "./records-found.server";
import type { Narrowed } from "./search-schema";

/** Invented records, and what is found held against a walk over all of them. */
const NOW = new Date("2026-06-10T09:00:00Z");
const RECORDS = 700;
const WORDS = ["leak", "leaking", "leakage", "seal", "hose", "noise", "wet"];
const LOTS = ["l1", "l2", "l3", "l4"];

interface Invented extends RecordSummaryRow {
  machineName: string;
  siteName: string;
  links: Pick<RecordLinkRow, "kind" | "value">[];
}

let people: Actor[];
let book: Invented[];
let instruments: string[];

/** A small repeatable stream: a failing draw can be looked at again. */
function draws(seed: number) {
  let state = seed;
  const next = (): number => {
    state = (state * 1_664_525 + 1_013_904_223) % 2 ** 32;
    return state / 2 ** 32;
  };
  return {
    next,
    below: (n: number): number => Math.floor(next() * n),
    of: <T>(list: readonly T[]): T => must(list[Math.floor(next() * list.length)]),
  };
}

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  const lead = await addActor("Lea", "lead");
  people = [lead, await addActor("Ada"), await addActor("Bo")];
  await importLines(
    lead,
    Array.from(
      { length: 12 },
      (_, n) => `Customer ${n % 3},Site ${n % 4},,Europe/Lisbon,,,Hall,T-${n},Sweeper ${n},ride-on-sweeper,,2026-06-01`,
    ),
    NOW,
  );
  const { models } = getDb();
  instruments = [uuidv7(), uuidv7()];
  await models.Instrument.bulkCreate(
    instruments.map((id, i) => ({
      id,
      code: `I-${i}`,
      kind: "gauge",
      name: `Gauge ${i}`,
      calibrationDue: null,
      certificate: "",
      retiredAt: null,
    })),
  );
  await models.Item.bulkCreate(
    ["seal-a", "seal-b", "grease"].map((id) => ({ id, name: `Item ${id}`, kind: "part" as const, unit: "piece" })),
  );
  for (const { id, tag } of await models.Machine.findAll({ raw: true }))
    await models.Machine.update({ serial: tag.replace("T-", "S") }, { where: { id } });
  const machines = await models.Machine.findAll({ raw: true });
  const sites = await models.Site.findAll({ raw: true });
  const draw = draws(7);
  book = Array.from({ length: RECORDS }, (): Invented => {
    const machine = draw.of(machines);
    // Some were done before the machine moved to where it is now.
    const site = must(sites.find((one) => one.id === machine.siteId && draw.next() < 0.9) ?? draw.of(sites));
    const closedAt = new Date(Date.UTC(2025, 11, 1) + draw.below(120) * 3_600_000 * 24 + draw.below(3) * 60_000);
    const is = EXCEPTIONS.flatMap(([name]) => (draw.next() < 0.08 ? [name] : []));
    const some = <T>(list: readonly T[], share: number): T[] => list.filter(() => draw.next() < share);
    return {
      sheetId: uuidv7(),
      onDay: closedAt.toISOString().slice(0, 10),
      closedAt,
      closedBy: draw.of(people).id,
      machineId: machine.id,
      machineName: machine.name,
      siteId: site.id,
      siteName: site.name,
      customerId: site.customerId,
      family: draw.of(["ride-on-sweeper", "slide-stainer"]),
      procedureId: draw.of(["ride-on-sweeper-daily", "own-duty", "slide-stainer-weekly"]),
      title: "Service",
      tag: machine.tag,
      serial: machine.serial,
      outcome: draw.of(["signed", "signed", "signed", "no-access", "refused"]),
      exceptions: bitsOf(is),
      links: [
        ...some(people, 0.5).map((one) => ({ kind: "person" as const, value: one.id })),
        ...some(["seal-a", "seal-b", "grease"], 0.3).map((value) => ({ kind: "item" as const, value })),
        ...some(LOTS, 0.1).map((value) => ({ kind: "lot" as const, value })),
        ...some(instruments, 0.2).map((value) => ({ kind: "instrument" as const, value })),
        ...some(WORDS, 0.2).map((value) => ({ kind: "word" as const, value })),
        ...is.map((value) => ({ kind: "exception" as const, value })),
        ...(is.length > 0 ? [{ kind: "exception" as const, value: "any" }] : []),
      ],
    };
  });
  await models.RecordSummary.bulkCreate(book.map(({ links: _, machineName: __, siteName: ___, ...row }) => row));
  await models.RecordLink.bulkCreate(
    book.flatMap(({ links, sheetId, onDay, closedAt, exceptions }) =>
      links.map((link) => ({ ...link, sheetId, onDay, closedAt, exceptions })),
    ),
  );
});
afterAll(closeDatabase);

const NEWEST_FIRST = (a: Invented, b: Invented): number =>
  b.onDay.localeCompare(a.onDay) || b.closedAt.getTime() - a.closedAt.getTime() || (a.sheetId < b.sheetId ? 1 : -1);

const has = (one: Invented, kind: string, fits: (value: string) => boolean): boolean =>
  one.links.some((link) => link.kind === kind && fits(link.value));

/** One way of narrowing, by the rules and not by the code. */
const RULES: { [By in keyof Narrowed]-?: (one: Invented, value: string) => boolean } = {
  machine: (one, value) => one.tag === value || one.serial === value || one.machineName === value,
  site: (one, value) => one.siteName === value || one.siteId === value,
  customer: (one, value) => one.customerId === value,
  person: (one, value) => has(one, "person", (by) => by === value),
  family: (one, value) => one.family === value,
  procedure: (one, value) => one.procedureId === value,
  item: (one, value) => has(one, "item", (item) => item === value),
  lot: (one, value) => has(one, "lot", (lot) => lot === value.toLowerCase()),
  instrument: (one, value) => has(one, "instrument", (id) => id === value),
  outcome: (one, value) => one.outcome === value,
  from: (one, value) => one.onDay >= value,
  to: (one, value) => one.onDay <= value,
  with: (one, value) => has(one, "exception", (name) => name === value),
  q: (one, value) => value.split(" ").every((start) => has(one, "word", (word) => word.startsWith(start))),
};

const wanted = (narrowed: Narrowed): Invented[] =>
  book
    .filter((one) => Object.entries(narrowed).every(([by, value]) => RULES[by as keyof Narrowed](one, value as string)))
    .sort(NEWEST_FIRST);

/** Follows the pages to the end. */
async function all(narrowed: Narrowed, limit = 50) {
  const search = await searchBook(narrowed);
  const ids: string[] = [];
  let after: string | null = null;
  do {
    const page: Awaited<ReturnType<typeof search.page>> = await search.page(after, { limit });
    ids.push(...page.rows.map((row) => row.id));
    after = page.next;
  } while (after !== null && ids.length < 2 * RECORDS);
  return { ids, counted: await search.count(), problem: search.problem };
}

const ONE_EACH = (): [string, Narrowed][] => [
  ["nothing", {}],
  ["tag", { machine: "T-3" }],
  ["serial", { machine: "S3" }],
  ["name", { machine: "Sweeper 1" }],
  ["site", { site: "Site 1" }],
  ["person", { person: must(people[1]).id }],
  ["family", { family: "slide-stainer" }],
  ["procedure", { procedure: "own-duty" }],
  ["item", { item: "seal-a" }],
  ["lot", { lot: "L2" }],
  ["instrument", { instrument: must(instruments[0]) }],
  ["outcome", { outcome: "no-access" }],
  ["span", { from: "2025-12-20", to: "2026-01-10" }],
  ["one day", { from: "2026-01-10", to: "2026-01-10" }],
  ["exceptions", { with: "any" }],
  ["one exception", { with: "late" }],
  ["a word", { q: "hose" }],
  ["the beginning of several", { q: "leak" }],
  ["two words", { q: "leak seal" }],
];

it("finds by each way what a walk over all records finds, and nothing else", async () => {
  for (const [name, narrowed] of ONE_EACH()) {
    const { ids, counted } = await all(narrowed);
    const expected = wanted(narrowed);
    expect([name, ids]).toEqual([name, expected.map((one) => one.sheetId)]);
    expect([name, counted.total]).toEqual([name, expected.length]);
    expect([name, counted.any]).toEqual([name, expected.filter((one) => one.exceptions !== 0).length]);
    expect(expected.length).toBeGreaterThan(0);
  }
});

it("finds by any of them together, over pages of any length, and counts what is not as it should be", async () => {
  const draw = draws(11);
  for (let round = 0; round < 120; round++) {
    const parts = Array.from({ length: 1 + draw.below(4) }, () => draw.of(ONE_EACH())[1]);
    const narrowed = Object.assign({}, ...parts) as Narrowed;
    const { ids, counted } = await all(narrowed, 1 + draw.below(60));
    const expected = wanted(narrowed);
    expect([narrowed, ids]).toEqual([narrowed, expected.map((one) => one.sheetId)]);
    const each = Object.fromEntries(counted.each.map((one) => [one.name, one.count]));
    for (const [name] of EXCEPTIONS)
      expect([name, each[name] ?? 0]).toEqual([
        name,
        expected.filter((one) => has(one, "exception", (value) => value === (name satisfies Exception))).length,
      ]);
  }
});

it("says why nothing can be found, where that can be mended", async () => {
  const problem = async (narrowed: Narrowed) => (await searchBook(narrowed)).problem;
  expect(await problem({ from: "2026-02-01", to: "2026-01-01" })).toMatch(/last day comes before the first/);
  expect(await problem({ machine: "Z-99" })).toBe("There is no machine “Z-99”. Try the beginning of its name.");
  expect(await problem({ customer: "%" })).toMatch(/There is no customer/);
  expect(await problem({ q: "…" })).toMatch(/Type a word/);
  expect((await (await searchBook({ machine: "Z-99" })).page(null)).rows).toEqual([]);
  // What begins so is meant where nothing is called exactly so.
  expect((await searchBook({ machine: "Sweeper" })).said).toEqual([
    { by: "machine", words: "12 machines “Sweeper”", typed: "Sweeper" },
  ]);
  expect((await searchBook({ machine: "t-3" })).said).toEqual([
    { by: "machine", words: "Sweeper 3 T-3", typed: "T-3" },
  ]);
});

it("counts no further than it was asked to", async () => {
  const search = await searchBook({});
  expect((await search.count(101)).total).toBe(101);
  expect((await search.count()).total).toBe(RECORDS);
});

it("gives none that was closed after a moment", async () => {
  const until = must(wanted({})[300]).closedAt;
  const { rows } = await (await searchBook({})).page(null, { limit: RECORDS, until });
  expect(rows.map((row) => row.id)).toEqual(
    wanted({})
      .filter((one) => one.closedAt <= until)
      .map((one) => one.sheetId),
  );
});
