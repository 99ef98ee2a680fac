/**
 * Copies the whole database of DATABASE_URL into a folder, as it is at one moment, while everybody works on.
 *
 *     npm run back-up -- FOLDER             writes hound-….sql.gz and, when that is whole, hound-….json beside it
 *     npm run back-up -- FOLDER --keep 14   and removes all but the last fourteen
 */
import { parseArgs } from "node:util";

import { chainEnd } from "../app/kit/server/record-chain.server";
import { backUp } from "../db/copies/back-up";
import { getDb } from "../db/index";

const { values, positionals } = parseArgs({ allowPositionals: true, options: { keep: { type: "string" } } });
const [folder] = positionals;
const keep = values.keep === undefined ? Infinity : Number(values.keep);
const url = process.env.DATABASE_URL;
if (!folder || !url || !(keep >= 1)) {
  process.stderr.write("Use: DATABASE_URL=mysql://… npm run back-up -- FOLDER [--keep N], N at least 1\n");
  process.exit(2);
}
const began = Date.now();
try {
  const chain = await chainEnd();
  await getDb().close();
  const copy = await backUp(url, folder, { chain, now: new Date(), keep });
  const mib = (copy.bytes / 1024 / 1024).toFixed(1);
  process.stdout.write(
    `${folder}/${copy.file}: ${mib} MiB in ${((Date.now() - began) / 1000).toFixed(1)} s, of ${copy.server}, schema ${copy.schema}` +
      `${copy.chain ? `, chain up to no. ${copy.chain.seq}` : ""}${copy.log ? `, log from ${copy.log.file} ${copy.log.position}` : ", the server keeps no log of changes"}\n`,
  );
} catch (error) {
  process.stderr.write(`Not backed up: ${(error as Error).message}\n`);
  process.exit(1);
}
