import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { readdir, readFile } from "node:fs/promises";
import { basename, dirname, join } from "node:path";
import { pipeline } from "node:stream/promises";
import { createGunzip } from "node:zlib";

import { must } from "../../core/must";
import { type Copy, OWN } from "./back-up";
import { ask, ended, type Place, placeOf, program } from "./client";

/** Why something was not restored, in words for who asked. */
export class NotRestored extends Error {}

/** Changes after a copy, from the server's own log. */
export interface Later {
  /** Folder of the log's files, as they lay in the server's data folder. */
  folder: string;
  /** Everything before this moment. */
  until: Date;
}

/**
 * Reads a copy into a database that is empty: nothing is overwritten.
 *
 * @param manifest the copy's .json
 * @throws {NotRestored} when the copy is not whole, or the database is not empty
 */
export async function restore(url: string, manifest: string, later: Later | null = null): Promise<Copy> {
  const copy = readManifest(await readFile(manifest, "utf8").catch(unread(manifest)), manifest);
  const path = join(dirname(manifest), copy.file);
  const sum = await sha256Of(path);
  if (sum !== copy.sha256)
    throw new NotRestored(
      `${path} is not what was written: it was cut or changed. Take another copy. Nothing was done.`,
    );
  if (later && !copy.log)
    throw new NotRestored(
      "The server kept no log of changes when this copy was made: only the copy itself can be restored.",
    );
  const logs = later ? await logsFrom(later.folder, copy) : [];
  const place = await placeOf(url);
  const tables = await ask(place, "SHOW TABLES");
  if (tables.length > 0)
    throw new NotRestored(
      `The database ${place.database} has ${tables.length} tables. Make an empty one and restore into that: nothing is overwritten.`,
    );
  await readIn(place, path);
  if (later) await replay(place, copy, logs, later.until);
  return copy;
}

function readManifest(text: string, path: string): Copy {
  try {
    const copy = JSON.parse(text) as Partial<Copy>;
    // The copy lies beside it under the same name, and nowhere else.
    const isNamed = OWN.test(basename(path)) && copy.file === basename(path).replace(/\.json$/u, ".sql.gz");
    if (isNamed && typeof copy.sha256 === "string") return copy as Copy;
  } catch {
    // Said below.
  }
  throw new NotRestored(`${path} is no copy's description. Name the .json that was written beside the copy.`);
}

async function sha256Of(path: string): Promise<string> {
  const hash = createHash("sha256");
  await pipeline(createReadStream(path), hash).catch(unread(path));
  return hash.digest("hex");
}

/** What to say of a file or a folder that is not there, or closed to who asks. */
function unread(path: string): (error: unknown) => never {
  return (error) => {
    throw new NotRestored(`${path} could not be read: ${(error as Error).message}. Nothing was done.`);
  };
}

async function readIn(place: Place, path: string): Promise<void> {
  const child = program("mariadb", place, ["--default-character-set=utf8mb4", place.database]);
  child.stdout?.resume();
  const end = ended(child, "mariadb");
  await Promise.all([pipeline(createReadStream(path), createGunzip(), must(child.stdin ?? undefined)), end]).catch(
    // That the program went says less than why it did.
    async (error: unknown) => {
      await end;
      throw error;
    },
  );
}

/** The log's files in their order, from the one in which the copy was made. */
async function logsFrom(folder: string, { log, server }: Copy): Promise<string[]> {
  const first = must(log ?? undefined).file;
  const [, base = first] = /^(.*)\.\d+$/u.exec(first) ?? [];
  const names = (await readdir(folder).catch(unread(folder)))
    .filter((name) => name.startsWith(`${base}.`) && /\.\d+$/u.test(name))
    .sort();
  if (!names.includes(first))
    throw new NotRestored(
      `${folder} has no ${first}, where the log goes on from the copy${server ? ` of ${server}` : ""}. Nothing was done.`,
    );
  return names.slice(names.indexOf(first)).map((name) => join(folder, name));
}

/** Does again what the server did after the copy, up to a moment. */
async function replay(place: Place, copy: Copy, logs: readonly string[], until: Date): Promise<void> {
  const stop = until.toISOString().replace("T", " ").slice(0, 19);
  const reader = program("mariadb-binlog", null, [
    `--start-position=${must(copy.log ?? undefined).position}`,
    `--stop-datetime=${stop}`,
    ...(place.database === copy.database ? [] : [`--rewrite-db=${copy.database}->${place.database}`]),
    `--database=${copy.database}`,
    ...logs,
  ]);
  const writer = program("mariadb", place, ["--binary-mode", "--default-character-set=utf8mb4", place.database]);
  writer.stdout?.resume();
  const [read, written] = [ended(reader, "mariadb-binlog"), ended(writer, "mariadb")];
  await Promise.all([pipeline(must(reader.stdout ?? undefined), must(writer.stdin ?? undefined)), read, written]).catch(
    async (error: unknown) => {
      await Promise.all([read, written]);
      throw error;
    },
  );
}
