/**
 * Run by bench.mjs against a real app process on the demo firm's year: records put together as one PDF and as a table, and
 * what pages take meanwhile.
 */
import { must } from "../core/must";
import { DEMO_PASSWORD } from "../db/demo/story";
import { getDb } from "../db/index";
import { print, quantile } from "./lib/bench";

const BASE = must(process.env.BASE_URL);
const RECORDS = 500;
const PAGES = ["/round", "/machines", "/book", "/ahead", "/stores", "/book?with=any"];

const db = getDb();
// From the day on which the book's newest five hundred begin.
const [start] = await db.select<{ onDay: string }>(
  `SELECT on_day AS onDay FROM records ORDER BY on_day DESC, closed_at DESC LIMIT 1 OFFSET ${RECORDS}`,
);
const from = must(start).onDay;
await db.close();

const cookie = await signIn("jonas");
process.stdout.write(`\nBundles (records from ${from} on)\n`);
const alone = await pageTimes(() => Promise.resolve(false), 6);
print("pages with nothing beside", times(alone));
for (const kind of ["records-pdf", "readings-csv"]) {
  const began = performance.now();
  const job = await ask(kind);
  const meanwhile = await pageTimes(async () => !(await isMade(job)));
  const seconds = (performance.now() - began) / 1000;
  const { records, files } = await look(job);
  print(`${kind}: ${records} (budget for 500: 60 s)`, `${seconds.toFixed(1)} s, ${files}`);
  print("pages meanwhile", times(meanwhile));
}

function times(taken: number[]): string {
  return `p50 ${quantile(taken, 0.5).toFixed(1)} ms, p95 ${quantile(taken, 0.95).toFixed(1)} ms, longest ${Math.max(...taken).toFixed(1)} ms of ${taken.length}`;
}

/** One page after the other, while something is so; without it, each so many times. */
async function pageTimes(going: () => Promise<boolean>, rounds = 0): Promise<number[]> {
  const taken: number[] = [];
  for (let i = 0; i < rounds * PAGES.length || (await going()); i++) {
    const at = performance.now();
    const response = await fetch(BASE + must(PAGES[i % PAGES.length]), { headers: { cookie } });
    await response.text();
    if (!response.ok) throw new Error(`${response.url}: ${response.status}`);
    taken.push(performance.now() - at);
  }
  return taken;
}

async function signIn(name: string): Promise<string> {
  const response = await post("/sign-in", { signIn: name, password: DEMO_PASSWORD }, "");
  return must(response.headers.get("set-cookie")).split(";")[0] ?? "";
}

function post(path: string, fields: Record<string, string>, withCookie: string): Promise<Response> {
  return fetch(BASE + path, {
    method: "POST",
    redirect: "manual",
    headers: { origin: BASE, ...(withCookie ? { cookie: withCookie } : {}) },
    body: new URLSearchParams(fields),
  });
}

/** Path of the bundle that was asked for. */
async function ask(intent: string): Promise<string> {
  const response = await post("/book", { intent, from }, cookie);
  return must(response.headers.get("location"));
}

async function isMade(job: string): Promise<boolean> {
  return (await (await fetch(BASE + job, { headers: { cookie } })).text()).includes("It is made.");
}

async function look(job: string): Promise<{ records: string; files: string }> {
  const page = await (await fetch(BASE + job, { headers: { cookie } })).text();
  const file = must(/href="(\/book\/bundles\/[^"]+\.(?:pdf|csv))"/.exec(page))[1];
  const bytes = (await (await fetch(BASE + must(file), { headers: { cookie } })).arrayBuffer()).byteLength;
  return {
    records: /([\d,]+) records/.exec(page)?.[0] ?? "",
    files: `${(bytes / 1_000_000).toFixed(1)} MB`,
  };
}
