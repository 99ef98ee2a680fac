/**
 * `npm run soak -- hostile`: ten thousand requests that no page sends, as a technician, a lead and nobody, and the heaviest
 * bodies that each address takes. None may be answered with a fault or with where in the code it was; how long the process
 * was held by each of the heavy ones is said.
 */
import { execFileSync } from "node:child_process";
import { rmSync } from "node:fs";

import { v7 as uuidv7 } from "uuid";

import { must } from "../../core/must";
import { getDb } from "../../db/index";
import { drawnFrom, type Letter, malformed, showsCode } from "../../e2e/helpers/malformed";
import { startMariaDb } from "../lib/mariadb.mjs";
import { endsWithUs, OwnServer, Visitor } from "./own-server";

const REQUESTS = Number(process.env.HOUND_REQUESTS ?? 10_000);
const AT_ONCE = 6;
const FOLDER = ".data/soak-hostile";
const HELD_MS = 100;
const DEMO_PASSWORD = "harbour-demo-1";
const seed = Number(process.env.HOUND_SEED ?? Date.now() % 1_000_000_000);
const say = (text: string): void => void process.stdout.write(`${text}\n`);

rmSync(FOLDER, { recursive: true, force: true });
const database = await startMariaDb(FOLDER, 33695, "hound_soak");
process.env.DATABASE_URL = database.url();
endsWithUs(() => database.pid);
execFileSync(process.execPath, ["--import", "tsx", "scripts/load-demo.ts"], {
  env: { ...process.env, HOUND_DEMO: "1" },
});
const server = await OwnServer.start({ DATABASE_URL: database.url(), HOUND_DEMO: "1" }, [
  "--import",
  "./scripts/soak/loop-delay.mjs",
]);
const technician = new Visitor(server.base);
const lead = new Visitor(server.base);
await technician.signIn("mira", DEMO_PASSWORD);
await lead.signIn("jonas", DEMO_PASSWORD);
const real = await realThings();
const faults = new Map<string, number>();
const statuses = new Map<number, number>();
await drawn();
await heavy();
await getDb().close();
await server.end("SIGTERM");
await database.stop();
rmSync(FOLDER, { recursive: true, force: true });
for (const [fault, times] of faults) say(`${times} x ${fault}`);
const counts = [...statuses].sort(([a], [b]) => a - b).map(([status, times]) => `${status}: ${times}`);
say(`${REQUESTS} requests (seed ${seed}): ${counts.join(", ")}; ${faults.size === 0 ? "no fault" : "FAULTS"}`);
process.exit(faults.size === 0 ? 0 : 1);

/** Ids that are there, and an entry as a device sends it. */
async function realThings() {
  const db = getDb();
  const ids: string[] = [];
  for (const table of ["sheets", "machines", "duties", "sites", "persons", "orders", "places"])
    ids.push(...(await db.select<{ id: string }>(`SELECT id FROM ${table} LIMIT 12`)).map((row) => row.id));
  const [sheet] = await db.select<{ id: string; by: string }>(
    "SELECT id, held_by AS `by` FROM sheets WHERE status = 'open' LIMIT 1",
  );
  const [mira] = await db.select<{ id: string }>("SELECT id FROM persons WHERE sign_in = 'mira'");
  const entry = {
    id: uuidv7(),
    runId: sheet?.id ?? must(ids[0]),
    at: new Date().toISOString(),
    by: must(mira).id,
    device: "phone",
    type: "note",
    text: "A note",
  };
  return { ids: [...(sheet ? [sheet.id] : []), ...ids], entry };
}

async function drawn(): Promise<void> {
  const random = drawnFrom(seed);
  const letters = Array.from({ length: REQUESTS }, () => malformed(random, real))
    // Who signs out cannot go on.
    .filter((letter) => !/sign-out/i.test(letter.path));
  let sent = 0;
  await Promise.all(
    Array.from({ length: AT_ONCE }, async (_, lane) => {
      for (let letter = letters.pop(); letter; letter = letters.pop()) {
        await judge(letter, must([technician, lead, lead, technician, lead, new Visitor(server.base)][lane]));
        if (++sent % 500 === 0) await stillSignedIn(sent);
      }
    }),
  );
}

/** What is sent may end sessions too: signed in again, it goes on meaning something. */
async function stillSignedIn(sent: number): Promise<void> {
  let anew = 0;
  for (const [name, who] of [
    ["mira", technician],
    ["jonas", lead],
  ] as const) {
    const answer = await fetch(`${server.base}/round`, { headers: { Cookie: who.cookie }, redirect: "manual" });
    if (answer.status === 200) continue;
    anew += 1;
    await who.signIn(name, DEMO_PASSWORD);
  }
  say(`${sent} sent${anew > 0 ? `, ${anew} signed in anew` : ""}`);
}

async function judge(letter: Letter, who: Visitor): Promise<void> {
  const answer = await send(letter, who).catch((error: unknown) => String((error as Error).cause ?? error));
  const where = `${letter.what}: ${letter.method} ${letter.path.replace(/[0-9a-f]{8}-[0-9a-f-]{27}/g, ":id").slice(0, 90)}`;
  const fault = (what: string): void =>
    void faults.set(`${where}: ${what}`, (faults.get(`${where}: ${what}`) ?? 0) + 1);
  if (typeof answer === "string") {
    fault(answer);
    return;
  }
  const body = await answer.text();
  statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
  // 502: a service outside did not answer, as it should say.
  if (answer.status >= 500 && answer.status !== 502)
    fault(`answered ${answer.status}: ${String(letter.body).slice(0, 300)}`);
  if (showsCode(body)) fault("shows where in the code it failed");
}

function send({ method, path, headers, body }: Letter, who: Visitor): Promise<Response> {
  return fetch(server.base + path, {
    method,
    redirect: "manual",
    signal: AbortSignal.timeout(60_000),
    headers: { Cookie: who.cookie, Origin: server.base, ...headers },
    ...(method === "POST" ? { body } : {}),
  });
}

/** For how long at most the app was held since it was last asked, in ms. */
function held(): Promise<number> {
  return new Promise((resolve) => {
    server.process.once("message", (answer) => resolve((answer as { held: number }).held));
    server.process.send("held");
  });
}

/** The most that each address takes, one after the other. */
async function heavy(): Promise<void> {
  const file = (text: string): Letter["body"] =>
    new TextEncoder().encode(
      `--x\r\nContent-Disposition: form-data; name="file"; filename="a.csv"\r\nContent-Type: text/csv\r\n\r\n${text}\r\n--x--\r\n`,
    );
  const MULTIPART = "multipart/form-data; boundary=x";
  const FORM = "application/x-www-form-urlencoded";
  const register = "customer,site,time_zone,tag,name,family\n";
  const good = Array.from({ length: 19_900 }, (_, i) => `C,S,Europe/Lisbon,T-${i},N,flake-ice-maker`).join("\n");
  const batch = (list: unknown[]): string => JSON.stringify({ entries: list });
  const entries = `/api/sheets/${must(real.ids[0])}/entries`;
  const draft = '{"format":"humble-hound/procedure","steps":[';
  const all: [what: string, path: string, type: string, body: Letter["body"]][] = [
    ["rows that are none, 1 MB", "/machines/import", MULTIPART, file("x\n".repeat(500_000))],
    ["rows that are none, 8 MB", "/machines/import", MULTIPART, file("x\n".repeat(4_000_000))],
    ["rows with faults", "/machines/import", MULTIPART, file(`${register}${"C,S,x,T T,,F F\n".repeat(19_900)}`)],
    ["as many good rows as are taken", "/machines/import", MULTIPART, file(register + good)],
    ["one line of commas", "/machines/import", MULTIPART, file(",".repeat(7_900_000))],
    ["quotes without end", "/machines/import", MULTIPART, file('"'.repeat(7_900_000))],
    ["a list of ones", "/machines/import", MULTIPART, file(`[${"1,".repeat(3_900_000)}1]`)],
    ["brackets without end", "/machines/import", MULTIPART, file("[".repeat(3_900_000))],
    ["readings", "/machines/readings", MULTIPART, file(`tag,meter,value,read_at\n${"a,b,c,d\n".repeat(19_900)}`)],
    ["ways", "/ways", MULTIPART, file(`from,to,minutes\n${"a,b,c\n".repeat(19_900)}`)],
    ["stock", "/stores/import", MULTIPART, file(`place,item,quantity\n${"a,b,c\n".repeat(19_900)}`)],
    ["a procedure of ones", "/book/procedures", MULTIPART, file(`${draft}${"1,".repeat(195_000)}1]}`)],
    ["a procedure of nothing", "/book/procedures", MULTIPART, file(`${draft}${"{},".repeat(9000)}{}]}`)],
    ["a batch of ones", entries, "application/json", `{"entries":[${"1,".repeat(120_000)}1]}`],
    ["a batch of brackets", entries, "application/json", "[".repeat(250_000)],
    [
      "a batch of spoiled entries",
      entries,
      "application/json",
      batch(Array(1000).fill({ ...real.entry, step: 1, x: [] })),
    ],
    ["an entry of lists", entries, "application/json", batch([{ ...real.entry, text: Array(60_000).fill([1]) }])],
    ["twenty thousand fields", "/sign-in", FORM, Array.from({ length: 20_000 }, (_, i) => `f${i}=`).join("&")],
    ["rows of a form", "/round/day", FORM, Array.from({ length: 1500 }, (_, i) => `duty[${i}]=x`).join("&")],
    ["a long text", "/sign-in", FORM, `signIn=${"x".repeat(1_600_000)}`],
    [
      "duties without end",
      "/ahead",
      FORM,
      `intent=put&on=2026-06-01&duties=${encodeURIComponent(`[${"{},".repeat(60_000)}{}]`)}`,
    ],
    ["marks without end", "/sign-in", FORM, `signIn=${"%41".repeat(500_000)}`],
  ];
  const longest: string[] = [];
  for (const [what, path, type, body] of all) {
    await held();
    await judge({ what, method: "POST", path, headers: { "Content-Type": type }, body }, lead);
    const ms = Math.round(await held());
    say(`held for ${String(ms).padStart(4)} ms at most: ${what} to ${path}`);
    if (ms > HELD_MS) longest.push(`${what} (${ms} ms)`);
  }
  say(
    longest.length === 0
      ? `Nothing held the process for more than ${HELD_MS} ms.`
      : `More than ${HELD_MS} ms: ${longest.join(", ")}`,
  );
}
