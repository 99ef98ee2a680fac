import { promisify } from "node:util";
import { gunzip, gzip } from "node:zlib";

import { getDb } from "@db";

import { printed } from "~/book/print/printed.server";
import { loadRecord } from "~/book/records.server";
import { type RecordRow, searchBook } from "~/book/search/records-found.server";
import type { Narrowed } from "~/book/search/search-schema";
import type { Actor } from "~/kit/actor";
import { capital } from "~/kit/capital";
import { shortDay } from "~/kit/days/day-time";
import { firmDay } from "~/kit/days/firm-day.server";
import { askFor } from "~/kit/jobs/jobs.server";
import type { JobKind } from "~/kit/jobs/run-jobs.server";
import { Refusal } from "~/kit/refusal";
import { aside } from "~/kit/server/aside.server";
import { csvText } from "~/kit/server/csv-table.server";
import { letterheadOfFirm } from "~/people/letterhead.server";
import { exceptionWords } from "~/sheet/summaries/exceptions";

import type { BundledRecord, BundleHead } from "./bundle-page";
import { BUNDLE_KINDS, type BundleKind } from "./bundle-schemas";
import { drawBundle } from "./draw-bundle.server";
import { READING_COLUMNS, readingRows } from "./reading-rows.server";

/** Most records of one bundle: what one document can hold and somebody can read, and what a table can. */
export const MOST_RECORDS: Record<BundleKind, number> = { "records-pdf": 2000, "readings-csv": 20_000 };

/** What a bundle is made of, as it is kept. */
interface Bundle {
  narrowed: Narrowed;
  /** What it is narrowed by, in words. */
  said: string[];
  counted: string;
}

/** From where it goes on; null at the beginning. */
type Kept = { after: string | null; seq: number; gathered: boolean } | null;

const AT_ONCE = 20;
const PIECE_BYTES = 1024 * 1024;
const GATHERED = "gathered";
const zip = promisify(gzip);
const unzip = promisify(gunzip);

/**
 * Asks for what was found as one PDF with an index, or for its readings as a table.
 *
 * @throws Refusal 422 when nothing was found, or more than a bundle can hold
 */
export async function askBundle(actor: Actor, kind: BundleKind, narrowed: Narrowed, now: Date): Promise<string> {
  const search = await searchBook(narrowed);
  if (search.problem !== null) throw new Refusal(422, "nothing", search.problem);
  const most = MOST_RECORDS[kind];
  const { total, any } = await search.count(most + 1);
  if (total === 0) throw new Refusal(422, "nothing", "No record fits, so there is nothing to put together.");
  if (total > most)
    throw new Refusal(
      422,
      "too-many",
      `These are more than ${most.toLocaleString("en")} records. Narrow them, by a span of days for example, and make one after the other.`,
    );
  const said = search.said.map((one) => one.words);
  const span = spanWords(narrowed);
  const what: Bundle = {
    narrowed,
    said: span ? [...said, span] : said,
    counted: `${total.toLocaleString("en")} ${total === 1 ? "record" : "records"}, ${any === 0 ? "none" : any.toLocaleString("en")} with exceptions`,
  };
  return askFor(actor, { kind, title: BUNDLE_KINDS[kind].words, what, total }, now);
}

/** A day with its year, whatever today is: a document is read later. */
const dayOf = (on: string): string => shortDay(on, "");

function spanWords({ from, to }: Narrowed): string {
  return capital([from ? `from ${dayOf(from)}` : "", to ? `to ${dayOf(to)}` : ""].filter(Boolean).join(" "));
}

/** Kinds of job, for whoever runs them. */
export const BUNDLES: Record<BundleKind, JobKind> = { "records-pdf": recordsStep, "readings-csv": readingsStep };

/** The next records of a bundle, none that was closed after it was asked for. */
async function nextOf(job: Parameters<JobKind>[0]): Promise<{ rows: RecordRow[]; next: string | null; seq: number }> {
  const { narrowed } = job.what as Bundle;
  const kept = job.kept as Kept;
  const search = await searchBook(narrowed);
  const { rows, next } = await search.page(kept?.after ?? null, { limit: AT_ONCE, until: job.askedAt });
  return { rows, next, seq: kept?.seq ?? 0 };
}

async function recordsStep(job: Parameters<JobKind>[0]): ReturnType<JobKind> {
  if ((job.kept as Kept)?.gathered) return drawStep(job);
  const { rows, next, seq } = await nextOf(job);
  const records: BundledRecord[] = [];
  for (const row of rows) records.push({ line: lineOf(row), printed: printed(await loadRecord(row.id, job.askedAt)) });
  const done = job.done + rows.length;
  return {
    kept: { after: next, seq: seq + 1, gathered: next === null } satisfies Kept,
    done,
    total: Math.max(job.total, done),
    pieces: [{ name: GATHERED, seq, bytes: await zip(JSON.stringify(records)) }],
    message: next === null ? "Drawing the pages" : "",
    finished: false,
  };
}

/** Draws what was gathered, in a thread aside. */
async function drawStep(job: Parameters<JobKind>[0]): ReturnType<JobKind> {
  const { said, counted } = job.what as Bundle;
  const pieces = await getDb().models.JobPiece.findAll({
    attributes: ["bytes"],
    where: { jobId: job.id, name: GATHERED },
    order: ["seq"],
    raw: true,
  });
  const gathered: string[] = [];
  for (const { bytes } of pieces) gathered.push((await unzip(bytes)).toString("utf8"));
  const { on } = await firmDay(job.askedAt);
  const head: BundleHead = {
    title: "Records",
    letterhead: await letterheadOfFirm(),
    lines: [...said, counted, `Put together on ${dayOf(on)}`],
    madeAt: job.askedAt.toISOString(),
  };
  const file = Buffer.from(await aside("bundles", "drawBundle", drawBundle, head, gathered));
  return {
    kept: null,
    done: job.done,
    total: job.done,
    pieces: slices(BUNDLE_KINDS["records-pdf"].file, file),
    drop: [GATHERED],
    finished: true,
  };
}

function slices(name: string, file: Buffer): { name: string; seq: number; bytes: Buffer }[] {
  return Array.from({ length: Math.ceil(file.length / PIECE_BYTES) }, (_, seq) => ({
    name,
    seq,
    bytes: file.subarray(seq * PIECE_BYTES, (seq + 1) * PIECE_BYTES),
  }));
}

function lineOf(row: RecordRow): BundledRecord["line"] {
  return {
    // What was ended without the work has none.
    number: row.number === null ? "–" : String(row.number),
    day: dayOf(row.onDay),
    machine: `${row.machineTag} ${row.machineName}`,
    work: row.title,
    exceptions: exceptionWords(row.exceptions),
  };
}

async function readingsStep(job: Parameters<JobKind>[0]): ReturnType<JobKind> {
  const { rows, next, seq } = await nextOf(job);
  const lines = [];
  for (const row of rows) lines.push(...(await readingRows(row)));
  const text = csvText(READING_COLUMNS, lines);
  const done = job.done + rows.length;
  return {
    kept: { after: next, seq: seq + 1, gathered: false } satisfies Kept,
    done,
    total: next === null ? done : Math.max(job.total, done),
    // The first line names the columns, once.
    pieces: [
      {
        name: BUNDLE_KINDS["readings-csv"].file,
        seq,
        bytes: Buffer.from(seq === 0 ? text : text.slice(text.indexOf("\r\n") + 2)),
      },
    ],
    finished: next === null,
  };
}
