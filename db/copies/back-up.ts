import { createHash } from "node:crypto";
import { createWriteStream } from "node:fs";
import { mkdir, open, readdir, rename, rm, stat } from "node:fs/promises";
import { join } from "node:path";
import { Transform } from "node:stream";
import { pipeline } from "node:stream/promises";
import { createGzip } from "node:zlib";

import { must } from "../../core/must";
import { ask, ended, type Place, placeOf, program } from "./client";

/** What is written beside a copy, when it is whole: a copy without it is none. */
export interface Copy {
  /** Name of the file beside it: SQL, compressed with gzip. */
  file: string;
  /** The moment that the copy shows is this one or a little after. */
  madeAt: string;
  bytes: number;
  sha256: string;
  /** Name of the database that was copied. */
  database: string;
  /** The schema's last change. */
  schema: string;
  /** The server that was copied: the log below is its own. Not in copies of older versions. */
  server?: string;
  /** Where the server's own log of changes went on from the copy; null when it keeps none. */
  log: { file: string; position: number } | null;
  /** Where the chain of records ended, at the latest when the copy was begun. */
  chain: { seq: number; hash: string } | null;
}

/** Gzip's quick end: three times as fast, and a tenth larger. */
const LEVEL = 3;
/** The dump says it in its first lines. */
const HEAD_BYTES = 64 * 1024;
/** Only what is named like this is ever read back, or removed. */
export const OWN = /^hound-\d{8}T\d{6}Z\.json$/u;

/**
 * Copies a whole database into a folder, as it is at one moment, while everybody works on. The server needs nothing of the app for it,
 * nor to read it back.
 *
 * @param keep how many whole copies stay in the folder, this one among them; the oldest of more are removed
 */
export async function backUp(
  url: string,
  folder: string,
  { chain, now, keep = Infinity }: { chain: Copy["chain"]; now: Date; keep?: number },
): Promise<Copy> {
  const place = await placeOf(url);
  const [migration] = await ask<{ name: string }>(place, "SELECT name FROM migrations ORDER BY name DESC LIMIT 1");
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const name = `hound-${now.toISOString().replaceAll(/[-:]|\.\d+/gu, "")}`;
  const file = `${name}.sql.gz`;
  const part = join(folder, `${file}.part`);
  try {
    const { head, sha256 } = await dump(place, part);
    const { size } = await stat(part);
    await rename(part, join(folder, file));
    const copy: Copy = {
      file,
      madeAt: now.toISOString(),
      bytes: size,
      sha256,
      database: place.database,
      schema: must(migration).name,
      server: `${place.host}:${place.port}`,
      log: logPosition(head),
      chain,
    };
    // Last: while it is not there, the copy is not one.
    await writeWhole(join(folder, `${name}.json`), `${JSON.stringify(copy, null, 2)}\n`);
    await prune(folder, keep);
    return copy;
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
}

async function dump(place: Place, path: string): Promise<{ head: string; sha256: string }> {
  const [server] = await ask<{ log: number }>(place, "SELECT @@log_bin AS log");
  const child = program("mariadb-dump", place, [
    // One moment for all tables, and nobody waits.
    "--single-transaction",
    "--skip-lock-tables",
    "--quick",
    "--hex-blob",
    "--no-tablespaces",
    "--default-character-set=utf8mb4",
    // Read back, it removes nothing that is there.
    "--skip-add-drop-table",
    ...(server?.log ? ["--master-data=2"] : []),
    place.database,
  ]);
  const end = ended(child, "mariadb-dump");
  const hash = createHash("sha256");
  let head = "";
  const readHead = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      if (head.length < HEAD_BYTES) head += chunk.toString("latin1");
      done(null, chunk);
    },
  });
  const sum = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      hash.update(chunk);
      done(null, chunk);
    },
  });
  const out = createWriteStream(path, { mode: 0o600, flush: true });
  await Promise.all([pipeline(must(child.stdout ?? undefined), readHead, createGzip({ level: LEVEL }), sum, out), end]);
  return { head, sha256: hash.digest("hex") };
}

function logPosition(head: string): Copy["log"] {
  const [, file, position] = /MASTER_LOG_FILE='([^']+)', MASTER_LOG_POS=(\d+)/u.exec(head) ?? [];
  return file === undefined ? null : { file, position: Number(position) };
}

async function writeWhole(path: string, text: string): Promise<void> {
  const handle = await open(`${path}.part`, "w", 0o600);
  await handle.writeFile(text);
  await handle.sync();
  await handle.close();
  await rename(`${path}.part`, path);
}

async function prune(folder: string, keep: number): Promise<void> {
  const names = (await readdir(folder)).filter((name) => OWN.test(name)).sort();
  for (const name of names.slice(0, Math.max(0, names.length - keep))) {
    // The word that it is whole goes first. What to remove is told by its own name alone, whatever is written in it.
    await rm(join(folder, name));
    await rm(join(folder, name.replace(/\.json$/u, ".sql.gz")), { force: true });
  }
}
