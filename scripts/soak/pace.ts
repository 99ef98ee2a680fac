/**
 * `npm run soak -- pace`: what one machine holds, without faults. Twenty technicians without a pause on one process, then on two; two hundred
 * who do something every few seconds, as a large firm in its busiest hour; what a password costs; signatures one after the other at the chain;
 * and how much room it all takes. Reported, for docs/GROWTH.md; only what is lost is a fault.
 */
import { readFileSync, rmSync } from "node:fs";
import { cpus } from "node:os";

import { v7 as uuidv7 } from "uuid";

import { addToChain } from "../../app/kit/server/record-chain.server";
import { hashPassword, passwordMatches } from "../../app/people/passwords.server";
import { appendEntries } from "../../app/sheet/log/append-entries.server";
import { signSheet } from "../../app/sheet/log/sign-sheets.server";
import { must } from "../../core/must";
import { type Db, getDb } from "../../db/index";
import { quantile } from "../lib/bench";
import { startMariaDb } from "../lib/mariadb.mjs";
import { sleep } from "../lib/system.mjs";
import { beginFirm, type Firm, PASSWORD } from "./begin-firm";
import { endsWithUs, OwnServer, Visitor } from "./own-server";
import { say, Trial, workedSheet } from "./working-firm";

const HURRIED = 20;
const MANY = 200;
const SIGNING = 150;
const SECONDS = Number(process.env.HOUND_SECONDS ?? 40);
/** Everybody signs in first: that is not measured. */
const WARM_S = 8;
/** Two hundred sign in one after the other. */
const MANY_WARM_S = 25;
/** Somebody logs something every eight seconds or so: twenty times as much as is common. */
const BUSY_PAUSE = [4000, 12_000] as const;
const HASHES = 60;
const AT_ONCE = 16;
const LINKS = 2000;
const PAGES_S = 8;
const FOLDER = ".data/soak-pace";
/** The kernel counts hundredths of a second. */
const TICKS = 100;

interface Used {
  pid: number;
  name: string;
}

/** Seconds of work that a process has done so far, and the memory it holds now, MiB. */
function usedBy(pid: number): { seconds: number; mib: number } {
  // The name may hold anything, brackets too.
  const fields = readFileSync(`/proc/${pid}/stat`, "utf8")
    .replace(/^.*\) /su, "")
    .split(" ");
  const [, kib = "0"] = /VmRSS:\s+(\d+)/u.exec(readFileSync(`/proc/${pid}/status`, "utf8")) ?? [];
  return { seconds: (Number(fields[11]) + Number(fields[12])) / TICKS, mib: Number(kib) / 1024 };
}

async function measure(what: string, trial: Trial, used: readonly Used[], warmS: number): Promise<void> {
  const work = trial.begin();
  await sleep(warmS * 1000);
  trial.waits.clear();
  const { entries, signed, received } = trial.acknowledged;
  const before = [entries.size, signed.size, received.size];
  const began = used.map(({ pid }) => usedBy(pid).seconds);
  const own = process.cpuUsage();
  await sleep(SECONDS * 1000);
  const { user, system } = process.cpuUsage(own);
  const per = [entries.size, signed.size, received.size].map((now, i) => (now - must(before[i])) / SECONDS);
  say(
    `${what}: ${per.map((one, i) => `${one.toFixed(1)} ${["entries", "signatures", "receipts"][i]}`).join(", ")} a second`,
  );
  for (const [asked, waits] of [...trial.waits].sort())
    say(
      `  ${asked}: p50 ${quantile(waits, 0.5)} ms, p95 ${quantile(waits, 0.95)} ms, longest ${Math.max(...waits)} ms`,
    );
  for (const [i, { pid, name }] of used.entries()) {
    const { seconds, mib } = usedBy(pid);
    say(`  ${name}: ${percent(seconds - must(began[i]))} of a core, ${mib.toFixed(0)} MiB`);
  }
  say(`  the people of the trial: ${percent((user + system) / 1e6)} of a core`);
  trial.end();
  await work;
}

const percent = (seconds: number): string => `${Math.round((100 * seconds) / SECONDS)} %`;

/** Pages alone, as a phone opens them and as one that is open asks for what changed. */
async function pages(base: string, firm: Firm): Promise<void> {
  const machine = must(firm.duties[0]).machineId;
  const visitors = await Promise.all(
    firm.people.slice(0, AT_ONCE).map(async (one) => {
      const visitor = new Visitor(base);
      await visitor.signIn(one.name, PASSWORD);
      return visitor;
    }),
  );
  for (const path of ["/round", "/round.data", `/machines/${machine}`, `/machines/${machine}.data`]) {
    const until = Date.now() + PAGES_S * 1000;
    let count = 0;
    const opening = visitors.map(async (visitor) => {
      while (Date.now() < until) {
        const answer = await visitor.get(path);
        if (answer.status !== 200) throw new Error(`${path}: ${answer.status}`);
        await answer.text();
        count += 1;
      }
    });
    await Promise.all(opening);
    say(`${path.replace(machine, "…")}: ${(count / PAGES_S).toFixed(0)} a second from one process`);
  }
}

/** Some of a firm's people: nobody begins a sheet that somebody of another trial has open. */
const some = (firm: Firm, from: number, to: number): Firm => ({
  ...firm,
  people: firm.people.slice(from, to),
  duties: firm.duties.slice(from, to),
});

/** Signatures alone, without passwords and pages: each waits for the one before at the end of the chain. */
async function signaturesAlone(firm: Firm): Promise<void> {
  const sheets: { actor: Firm["lead"]; sheetId: string }[] = [];
  for (const [i, actor] of firm.people.entries()) {
    const { sheetId, log } = workedSheet(firm, actor, must(firm.duties[i]));
    await appendEntries(actor, sheetId, log, new Date());
    sheets.push({ actor, sheetId });
  }
  const began = performance.now();
  const count = sheets.length;
  const signing = Array.from({ length: AT_ONCE }, async () => {
    for (let next = sheets.pop(); next; next = sheets.pop())
      await signSheet(
        next.actor,
        next.sheetId,
        { customer: { method: "typed", name: "Desk" }, missingReason: "part of a trial", device: "trial" },
        new Date(),
      );
  });
  await Promise.all(signing);
  const seconds = (performance.now() - began) / 1000;
  say(`signatures alone, ${AT_ONCE} at once: ${(count / seconds).toFixed(0)} a second`);
}

/** The end of the chain alone, which one transaction holds at a time, until it is committed. */
async function chainAlone(): Promise<void> {
  const at = new Date();
  const began = performance.now();
  let left = LINKS;
  const adding = Array.from({ length: AT_ONCE }, async () => {
    for (; left > 0; left -= 1) {
      const subjectId = uuidv7();
      await getDb().transact((tx) => addToChain({ kind: "record", subjectId, content: {}, vouched: {}, at }, tx));
    }
  });
  await Promise.all(adding);
  say(`the chain alone, ${AT_ONCE} at once: ${(LINKS / ((performance.now() - began) / 1000)).toFixed(0)} a second`);
}

async function passwords(): Promise<void> {
  const stored = await hashPassword(PASSWORD);
  const one = performance.now();
  for (let i = 0; i < HASHES / 4; i++) await passwordMatches(stored, PASSWORD);
  const alone = (performance.now() - one) / (HASHES / 4);
  const all = performance.now();
  await Promise.all(Array.from({ length: HASHES }, () => passwordMatches(stored, PASSWORD)));
  const perSecond = HASHES / ((performance.now() - all) / 1000);
  say(`a password: ${alone.toFixed(0)} ms; ${perSecond.toFixed(0)} a second at most on ${cpus().length} cores`);
}

/** Bytes of each table with its indexes. */
async function sizesOf(db: Db): Promise<Map<string, number>> {
  const tables = await db.select<{ name: string }>(
    "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE()",
  );
  for (const { name } of tables) await db.select(`ANALYZE TABLE \`${name}\``);
  const sizes = await db.select<{ name: string; bytes: number }>(
    `SELECT table_name AS name, CAST(data_length + index_length AS UNSIGNED) AS bytes FROM information_schema.tables
     WHERE table_schema = DATABASE()`,
  );
  return new Map(sizes.map(({ name, bytes }) => [name, bytes]));
}

/** What the trial's work takes of the database, beside what the firm took before it. */
async function room(db: Db, before: Map<string, number>): Promise<void> {
  const [counted] = await db.select<{ entries: number; sheets: number }>(
    "SELECT (SELECT COUNT(*) FROM log_entries) AS entries, (SELECT COUNT(*) FROM sheets WHERE status = 'signed') AS sheets",
  );
  const { entries, sheets } = must(counted);
  const grown = [...(await sizesOf(db))]
    .map(([name, bytes]) => ({ name, bytes: bytes - (before.get(name) ?? 0) }))
    .sort((a, b) => b.bytes - a.bytes);
  const all = grown.reduce((sum, { bytes }) => sum + bytes, 0);
  say(
    `${entries} entries of ${sheets} signed sheets: ${(all / 2 ** 20).toFixed(1)} MiB, ${Math.round(all / entries)} bytes an entry, ${Math.round(all / sheets)} a sheet`,
  );
  for (const { name, bytes } of grown.slice(0, 8)) say(`  ${name}: ${(bytes / 2 ** 20).toFixed(1)} MiB`);
}

rmSync(FOLDER, { recursive: true, force: true });
const database = await startMariaDb(FOLDER, 33680, "hound_soak");
endsWithUs(() => database.pid);
process.env.DATABASE_URL = database.url();
/** Where those begin who are many, and those who only sign. */
const [OF_MANY, OF_SIGNING] = [2 * HURRIED, 2 * HURRIED + MANY];
const firm = await beginFirm(getDb(), OF_SIGNING + SIGNING);
const atFirst = await sizesOf(getDb());
const first = await OwnServer.start({ DATABASE_URL: database.url() });
const inDatabase = { pid: database.pid, name: "the database" };
const processOf = (server: OwnServer, n: number): Used => ({ pid: must(server.process.pid), name: `process ${n}` });
const trials: Trial[] = [];
const trial = (from: number, to: number, ways: ConstructorParameters<typeof Trial>[1]): Trial => {
  const one = new Trial(some(firm, from, to), ways);
  trials.push(one);
  return one;
};
const used = [inDatabase, processOf(first, 1)];
await measure(
  `${HURRIED} without a pause, one process`,
  trial(0, HURRIED, { bases: [first.base], pause: [0, 1] }),
  used,
  WARM_S,
);
await measure(
  `${MANY} who log something every eight seconds, one process`,
  trial(OF_MANY, OF_SIGNING, { bases: [first.base], pause: BUSY_PAUSE }),
  used,
  MANY_WARM_S,
);
await pages(first.base, firm);
const second = await OwnServer.start({ DATABASE_URL: database.url() });
await measure(
  `${HURRIED} without a pause, two processes`,
  trial(HURRIED, 2 * HURRIED, { bases: [first.base, second.base], pause: [0, 1] }),
  [...used, processOf(second, 2)],
  WARM_S,
);
for (const server of [first, second]) await server.end("SIGTERM");
await room(getDb(), atFirst);
await passwords();
await signaturesAlone(some(firm, OF_SIGNING, OF_SIGNING + SIGNING));
const last = must(trials.at(-1));
for (const one of trials) last.faults.push(...one.faults);
last.faults.push(...(await last.lostOrDoubled(getDb())));
// Of nothing that there is: after all that looks at the chain.
await chainAlone();
await getDb().close();
await database.stop();
rmSync(FOLDER, { recursive: true, force: true });
last.close("nothing lost");
