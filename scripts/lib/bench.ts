import { must } from "../../core/must";
import { type Db, getDb } from "../../db/index";

/** A line of a bench. */
export const print = (name: string, value: string): void => void process.stdout.write(`${name.padEnd(66)} ${value}\n`);

/** The value that a share of all does not pass. */
export const quantile = (values: readonly number[], share: number): number =>
  must([...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.ceil(share * values.length) - 1)]);

/** The process's pool on a schema of this bench's own: an empty one, or with `keep` the one of the last time. */
export async function ownSchema(name: string, keep = false): Promise<Db> {
  if (!keep) {
    const first = getDb();
    await first.run(`DROP DATABASE IF EXISTS ${name}`);
    await first.run(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
    await first.close();
    (globalThis as { houndDb?: unknown }).houndDb = undefined;
  }
  const url = new URL(must(process.env.DATABASE_URL));
  url.pathname = `/${name}`;
  process.env.DATABASE_URL = url.toString();
  return getDb();
}

/** Times something warm, one after the other, with its statements; what it came to is said behind. */
export async function report(db: Db, name: string, work: () => Promise<unknown>, times = 60): Promise<void> {
  for (let i = 0; i < 5; i++) await work();
  db.takeQueryCount();
  const found = await work();
  const queries = db.takeQueryCount();
  const taken: number[] = [];
  for (let i = 0; i < times; i++) {
    const at = performance.now();
    await work();
    taken.push(performance.now() - at);
  }
  const said = typeof found === "string" ? `, ${found}` : "";
  print(
    name,
    `p50 ${quantile(taken, 0.5).toFixed(1)} ms, p95 ${quantile(taken, 0.95).toFixed(1)} ms, ${queries} queries${said}`,
  );
}
