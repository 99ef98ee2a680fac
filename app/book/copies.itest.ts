import { mkdtempSync, readdirSync, readFileSync, rmSync, truncateSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

import { must } from "@core";
import { connect, type Db, getDb, setDb } from "@db";

import type { Actor } from "~/kit/actor";
import { chainEnd, lostSince, verifyChain } from "~/kit/server/record-chain.server";
import { verifyUses } from "~/sheet/log/verify-uses.server";
import { verifyCosts, verifyStock } from "~/stores/ledger/ledger.server";
import { addActor, closeDatabase, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { workAndSign } from "~/testing/sheets";

import { backUp } from "../../db/copies/back-up";
import { type Later, NotRestored, restore } from "../../db/copies/restore";

const NOW = new Date("2026-06-10T09:00:00Z");
const MACHINES = 12;
const CHARACTERS = "Grüße, Ærø — 🧊 'quoted' \\ \0";
/** Nothing outside of the folder of copies is theirs. */
let around: string;
let folder: string;
let url: string;
let empty: string;
let ada: Actor;
let firm: Db;
let copied: Db | null = null;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  ada = await addActor("Ada");
  const line = (_: unknown, i: number): string =>
    `Co,Yard,,Europe/Lisbon,,,Hall,V-${i},Sweeper ${i},ride-on-sweeper,,2026-06-01`;
  await importLines(await addActor("Lea", "lead"), Array.from({ length: MACHINES }, line), NOW);
  firm = getDb();
  url = must(process.env["DATABASE_URL"]);
  empty = `${new URL(url).pathname.slice(1)}_copy`;
  around = mkdtempSync(join(tmpdir(), "hound-copies-"));
  folder = join(around, "copies");
});
beforeEach(async () => {
  await firm.run(`DROP DATABASE IF EXISTS ${empty}`);
  await firm.run(`CREATE DATABASE ${empty}`);
});
afterEach(async () => {
  setDb(firm);
  await copied?.close();
  copied = null;
});
afterAll(async () => {
  await firm.run(`DROP DATABASE IF EXISTS ${empty}`);
  await closeDatabase();
  rmSync(around, { recursive: true, force: true });
});

const intoEmpty = (): string => url.replace(/\/[^/]*$/u, `/${empty}`);
const sign = (i: number) => workAndSign(ada, `V-${i}`, "ride-on-sweeper-daily", NOW);
const copy = async (now: string, keep?: number) =>
  backUp(url, folder, { chain: await chainEnd(), now: new Date(now), ...(keep ? { keep } : {}) });
const manifestOf = (file: string): string => join(folder, file.replace(".sql.gz", ".json"));

it("a copy that is made while all work shows one moment: read back, its records, its stock and its texts are whole", async () => {
  for (let i = 0; i < 4; i++) await sign(i);
  await firm.models.Setting.create({ name: "texts", value: { text: CHARACTERS } });
  // Others go on meanwhile.
  const working = (async () => {
    for (let i = 4; i < MACHINES; i++) await sign(i);
  })();
  const made = await copy("2026-06-10T10:00:00Z");
  await working;
  expect(made).toMatchObject({
    file: "hound-20260610T100000Z.sql.gz",
    schema: expect.stringMatching(/^\d{4}-/u),
    server: new URL(url).host,
    log: null,
  });
  expect(readdirSync(folder).filter((name) => name.endsWith(".part"))).toEqual([]);

  await restore(intoEmpty(), manifestOf(made.file));
  copied = connect(intoEmpty(), { poolSize: 4 });
  setDb(copied);
  const { entries, faults } = await verifyChain();
  expect(faults).toEqual([]);
  expect(entries).toBeGreaterThanOrEqual(4);
  expect(await lostSince(must(made.chain ?? undefined))).toEqual([]);
  expect([await verifyStock(), await verifyCosts(), await verifyUses()]).toEqual([[], [], []]);
  expect(await copied.models.Setting.findByPk("texts", { raw: true })).toMatchObject({ value: { text: CHARACTERS } });
  const tables = async (db: Db) => (await db.select("SHOW TABLES")).length;
  expect(await tables(copied)).toBe(await tables(firm));
  // The checks see what is not right in a copy, too.
  await copied.run("UPDATE log_entries SET body = JSON_SET(body, '$.device', 'another') ORDER BY id LIMIT 1");
  expect((await verifyChain()).faults).not.toEqual([]);
});

it("what was kept outside shows that a copy is an older one", async () => {
  const made = await copy("2026-06-10T11:00:00Z");
  await firm.models.Sheet.findAll({ limit: 1, raw: true });
  await importLines(
    await addActor("Leo", "lead"),
    ["Co,Yard,,Europe/Lisbon,,,Hall,V-99,Late,ride-on-sweeper,,2026-06-01"],
    NOW,
  );
  await sign(99);
  const later = must((await chainEnd()) ?? undefined);
  await restore(intoEmpty(), manifestOf(made.file));
  copied = connect(intoEmpty(), { poolSize: 2 });
  setDb(copied);
  expect(await lostSince(later)).toEqual([
    expect.objectContaining({ what: expect.stringMatching(/this is an older copy/u) }),
  ]);
});

it("nothing is overwritten, and what is no whole copy is not read", async () => {
  const made = await copy("2026-06-10T12:00:00Z");
  const manifest = manifestOf(made.file);
  const refused = async (where: string, what: string, words: RegExp, later: Later | null = null) => {
    const error = await restore(where, what, later).catch((one: unknown) => one);
    expect(error).toBeInstanceOf(NotRestored);
    expect((error as Error).message).toMatch(words);
  };
  await refused(url, manifest, /has \d+ tables\. Make an empty one/u);
  const before = readFileSync(manifest, "utf8");
  truncateSync(join(folder, made.file), made.bytes - 100);
  await refused(intoEmpty(), manifest, /was cut or changed/u);
  writeFileSync(manifest, before.slice(0, 40));
  await refused(intoEmpty(), manifest, /is no copy's description/u);
  await refused(intoEmpty(), join(folder, "hound-20200101T000000Z.json"), /could not be read: .* Nothing was done/u);
  // Whatever is written in it, no other file is read.
  const other = join(around, "other.sql.gz");
  writeFileSync(other, "somebody else's");
  writeFileSync(manifest, JSON.stringify({ ...made, file: "../other.sql.gz" }));
  await refused(intoEmpty(), manifest, /is no copy's description/u);
  const later = { folder, until: NOW };
  const whole = await copy("2026-06-10T13:00:00Z");
  await expect(restore(intoEmpty(), manifestOf(whole.file), later)).rejects.toThrow(/kept no log of changes/u);
  // Another node's log, which counts in its own way, is not taken for that of the node that was copied.
  writeFileSync(join(around, "hound-log-two.000004"), "");
  const ofOne = { ...whole, log: { file: "hound-log-one.000004", position: 962 } };
  writeFileSync(manifestOf(whole.file), JSON.stringify(ofOne));
  await refused(intoEmpty(), manifestOf(whole.file), /has no hound-log-one\.000004, .* of \S+:\d+\. Nothing/u, {
    ...later,
    folder: around,
  });
  expect(await firm.select(`SHOW TABLES IN ${empty}`)).toEqual([]);
});

it("only so many copies are kept, and a failed one takes no place", async () => {
  const other = join(around, "other.sql.gz");
  writeFileSync(other, "somebody else's");
  writeFileSync(join(folder, "hound-20260101T090000Z.json"), JSON.stringify({ file: "../other.sql.gz" }));
  for (let day = 1; day <= 3; day++) await copy(`2026-07-0${day}T09:00:00Z`, 2);
  // What a copy's description says does not lead out of the folder.
  expect(readFileSync(other, "utf8")).toBe("somebody else's");
  expect(readdirSync(folder).sort()).toEqual(
    ["hound-20260702T090000Z", "hound-20260703T090000Z"].flatMap((name) => [`${name}.json`, `${name}.sql.gz`]),
  );
  const nowhere = url.replace(/\/[^/]*$/u, "/hound_not_there");
  await expect(backUp(nowhere, folder, { chain: null, now: NOW, keep: 1 })).rejects.toThrow(/hound_not_there/u);
  expect(readdirSync(folder)).toHaveLength(4);
});
