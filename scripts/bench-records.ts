/** Run by bench.mjs: a book of 1,000,000 records, invented by the database itself, and every way of narrowing it. */
import { findAnything } from "~/shell/find.server";

import { searchBook, searchChoices } from "../app/book/search/records-found.server";
import type { Narrowed } from "../app/book/search/search-schema";
import { publishProcedures, readProcedureFiles, shippedFolder } from "../app/procedures/procedures.server";
import { migrate } from "../db/index";
import { ownSchema, print, report as timed } from "./lib/bench";

const RECORDS = Number(process.env.BENCH_RECORDS ?? 1_000_000);
const SITES = 5_000;
const MACHINES = 50_000;
const PEOPLE = 60;

process.stdout.write(
  `\nThe book (${RECORDS.toLocaleString("en")} records of ${MACHINES.toLocaleString("en")} machines)\n`,
);

/** BENCH_KEEP=1 goes on with the book of the last time. */
const keep = process.env.BENCH_KEEP === "1";
const db = await ownSchema("hound_records", keep);
const report = (name: string, work: () => Promise<string>): Promise<void> => timed(db, name, work, 40);
const id = (kind: number, number: string): string =>
  `CONCAT('0000000${kind}-0000-7000-8000-', LPAD(HEX(${number}), 12, '0'))`;
const idOf = (kind: number, number: number): string =>
  `0000000${kind}-0000-7000-8000-${number.toString(16).toUpperCase().padStart(12, "0")}`.toLowerCase();
if (!keep) await loadBook();

const FILTERS: [string, Narrowed][] = [
  ["nothing", {}],
  ["a machine", { machine: idOf(3, 4321) }],
  ["a tag", { machine: "B-4321" }],
  ["a serial number", { machine: "S30247" }],
  ["a machine's name", { machine: "Machine 4321" }],
  ["a site", { site: idOf(2, 43) }],
  ["a site's name", { site: "Site 43" }],
  ["a customer", { customer: idOf(1, 43) }],
  ["a person", { person: idOf(7, 3) }],
  ["a family", { family: "family-3" }],
  ["a procedure", { procedure: "procedure-7" }],
  ["a part", { item: "item-7" }],
  ["a part's name", { item: "Cartridge 129" }],
  ["a lot", { lot: "L76" }],
  ["an instrument", { instrument: idOf(9, 6) }],
  ["an outcome, most have it", { outcome: "signed" }],
  ["an outcome, few have it", { outcome: "no-access" }],
  ["a span of half a year", { from: "2024-01-01", to: "2024-06-30" }],
  ["with exceptions", { with: "any" }],
  ["out of limits", { with: "limit" }],
  ["entries that came late", { with: "late" }],
  ["a word", { q: "seal77" }],
  ["a word that a quarter has", { q: "leak" }],
  ["two words", { q: "leak seal77" }],
  ["a machine, half a year, with exceptions", { machine: "B-4321", from: "2024-01-01", to: "2024-06-30", with: "any" }],
  ["a customer, a year, findings", { customer: "Customer 43", from: "2024-01-01", to: "2024-12-31", with: "finding" }],
  ["a family and a person", { family: "family-3", person: idOf(7, 3) }],
  ["a family, a procedure and no access", { family: "family-3", procedure: "procedure-7", outcome: "no-access" }],
  ["a person and a common word, out of limits", { person: idOf(7, 3), q: "leak", with: "limit" }],
];
for (const [name, narrowed] of FILTERS) {
  await report(name, async () => {
    const search = await searchBook(narrowed);
    const [{ rows }, { total }] = await Promise.all([search.page(null), search.count()]);
    return `${rows.length} of ${total > 10_000 ? "more than 10,000" : total.toLocaleString("en")}`;
  });
}
const deep = await searchBook({ with: "limit" });
let cursor: string | null = null;
for (let page = 0; page < 200; page++) cursor = (await deep.page(cursor)).next;
await report("out of limits, page 200", async () => `${(await deep.page(cursor)).rows.length}`);
await report("what can be chosen from", async () => `${(await searchChoices()).procedures.length} procedures`);
await report("find anything", async () => `${(await findAnything("Site 43", "lead")).length}`);
await db.close();

async function loadBook(): Promise<void> {
  await migrate(db.sequelize);
  await publishProcedures(readProcedureFiles(shippedFolder()), new Date());

  const started = performance.now();
  await db.run(
    `INSERT INTO customers (id, name) SELECT LOWER(${id(1, "seq")}), CONCAT('Customer ', seq) FROM seq_1_to_500`,
  );
  await db.run(
    `INSERT INTO sites (id, customer_id, name, time_zone) SELECT LOWER(${id(2, "seq")}), LOWER(${id(1, "1 + seq MOD 500")}), CONCAT('Site ', seq), 'Europe/Lisbon' FROM seq_1_to_${SITES}`,
  );
  await db.run(
    `INSERT INTO machines (id, tag, site_id, name, family, serial, options, created_at) SELECT LOWER(${id(3, "seq")}), CONCAT('B-', seq), LOWER(${id(2, `1 + seq MOD ${SITES}`)}),
     CONCAT('Machine ', seq), CONCAT('family-', seq MOD 19), CONCAT('S', seq * 7), '[]', NOW() FROM seq_1_to_${MACHINES}`,
  );
  await db.run(
    `INSERT INTO persons (id, name, sign_in, password_hash, role, created_at) SELECT LOWER(${id(7, "seq")}), CONCAT('Person ', seq), CONCAT('p', seq), '', 'technician', NOW() FROM seq_1_to_${PEOPLE}`,
  );
  await db.run(
    `INSERT INTO items (id, name, kind, unit) SELECT CONCAT('item-', seq), CONCAT('Cartridge ', seq), 'part', 'piece' FROM seq_1_to_300`,
  );
  // A machine is worked on some twenty times; every fourth record has something that is not as it should be.
  const hash = (salt: number): string => `(CRC32(seq * 31 + ${salt}) MOD 1000)`;
  await db.run(
    `INSERT INTO records (sheet_id, on_day, closed_at, closed_by, machine_id, site_id, customer_id, family, procedure_id, title, tag, serial, outcome, exceptions)
   SELECT LOWER(${id(8, "seq")}), DATE(TIMESTAMP('2022-01-01') + INTERVAL seq * 150 SECOND), TIMESTAMP('2022-01-01') + INTERVAL seq * 150 SECOND,
     LOWER(${id(7, `1 + seq MOD ${PEOPLE}`)}), LOWER(${id(3, `1 + n`)}), LOWER(${id(2, `1 + (1 + n) MOD ${SITES}`)}), LOWER(${id(1, `1 + (1 + (1 + n) MOD ${SITES}) MOD 500`)}),
     CONCAT('family-', (1 + n) MOD 19), CONCAT('procedure-', n MOD 80), CONCAT('Service ', n MOD 80), CONCAT('B-', 1 + n), CONCAT('S', (1 + n) * 7),
     IF(${hash(1)} < 20, 'no-access', 'signed'),
     IF(${hash(1)} < 20, 128, 0) | IF(${hash(2)} < 120, 2, 0) | IF(${hash(3)} < 60, 4, 0) | IF(${hash(4)} < 40, 8, 0) | IF(${hash(5)} < 20, 32, 0) | IF(${hash(6)} < 5, 64, 0)
   FROM (SELECT seq, CRC32(seq) MOD ${MACHINES} AS n FROM seq_1_to_${RECORDS}) s`,
  );
  const link = (kind: string, value: string, where: string): Promise<number> =>
    db.run(
      `INSERT IGNORE INTO record_links (kind, value, on_day, closed_at, sheet_id, exceptions) SELECT '${kind}', ${value}, on_day, closed_at, sheet_id, exceptions
     FROM (SELECT r.*, CRC32(sheet_id) AS h FROM records r) r WHERE ${where}`,
    );
  await link("person", "closed_by", "1 = 1");
  await link("person", `LOWER(${id(7, `1 + h MOD ${PEOPLE}`)})`, "h MOD 7 = 0");
  await link("item", "CONCAT('item-', 1 + h MOD 300)", "h MOD 2 = 0");
  await link("lot", "CONCAT('l', h MOD 20000)", "h MOD 4 = 0");
  await link("instrument", `LOWER(${id(9, "1 + h MOD 40")})`, "h MOD 5 = 0");
  await link("exception", "'any'", "exceptions <> 0");
  for (const [name, bit] of [
    ["limit", 2],
    ["finding", 4],
    ["skipped", 8],
    ["corrected", 32],
    ["late", 64],
    ["ended", 128],
  ] as const)
    await link("exception", `'${name}'`, `exceptions & ${bit} <> 0`);
  for (const [salt, share] of [
    [1, 2],
    [2, 3],
    [3, 5],
  ] as const)
    await link("word", `CONCAT('seal', CRC32(h + ${salt}) MOD 3000)`, `h MOD ${share} = 0`);
  await link("word", "'leak'", "h MOD 4 = 0");
  await link("word", "'leaking'", "h MOD 16 = 1");
  await db.run("ANALYZE TABLE records, record_links, machines, sites, customers");
  const [{ links }] = (await db.select<{ links: number }>("SELECT COUNT(*) AS links FROM record_links")) as [
    { links: number },
  ];
  print("load them", `${((performance.now() - started) / 1000).toFixed(0)} s, ${links.toLocaleString("en")} links`);
}
