import { must } from "@core";
import { parse } from "csv-parse/sync";
import { stringify } from "csv-stringify/sync";

import { aside } from "./aside.server";

export interface RowFault {
  /** Line of the file, the header being line 1. */
  line: number;
  column: string;
  reason: string;
}

export interface TableRow<Column extends string> {
  line: number;
  /** Cells as they stand in the file; those of columns that the file does not have are not there. */
  cells: Partial<Record<Column, string>>;
}

/** Most rows of one file, and most faults that are listed: nobody reads more. */
export const MOST_ROWS = 20_000;
export const MOST_FAULTS = 1000;

/** Faults by line; of very many the first, and that there are more. */
export function listed(faults: readonly RowFault[]): RowFault[] {
  const sorted = [...faults].sort((a, b) => a.line - b.line);
  const last = sorted[MOST_FAULTS];
  if (!last) return sorted;
  const reason = `${(sorted.length - MOST_FAULTS).toLocaleString("en")} more faults follow. Mend these first.`;
  return [...sorted.slice(0, MOST_FAULTS), { line: last.line, column: "", reason }];
}

const SPREADSHEET_FORMULA = /^[=+\-@\t\r']/;

/**
 * Text that a spreadsheet would take for a formula gets one leading apostrophe, and so does text that starts with one,
 * so that reading back removes exactly one. Numbers never come here.
 */
export function guardText(text: string): string {
  return SPREADSHEET_FORMULA.test(text) ? `'${text}` : text;
}

export function unguardText(text: string): string {
  return text.startsWith("'") ? text.slice(1) : text;
}

/**
 * Reads a table with named columns: comma, semicolon or tab separated, with or without a byte order mark, quotes and
 * any line ends. Rows that cannot be read are faults; what their cells mean is the caller's business.
 */
export function readTable<Column extends string>(
  content: string,
  known: readonly Column[],
  required: readonly Column[],
): { rows: TableRow<Column>[]; faults: RowFault[] } {
  const faults: RowFault[] = [];
  const bytes = Buffer.from(content.replace(/^\uFEFF/, ""));
  // Names of columns are short: a first line without end is no table.
  if (firstLine(content).length > MOST_HEADER)
    return { rows: [], faults: [{ line: 1, column: "", reason: "The first line is too long to name the columns." }] };
  let parsed: { record: string[]; info: { bytes: number } }[];
  try {
    parsed = parse(bytes, {
      delimiter: delimiterOf(content),
      relax_column_count: true,
      skip_empty_lines: true,
      info: true,
      // One more than the header and what is taken tells that there are more.
      to: MOST_ROWS + 2,
    }) as unknown as typeof parsed;
  } catch (error) {
    const at = error as { lines?: number; message: string };
    return {
      rows: [],
      faults: [{ line: at.lines ?? 1, column: "", reason: `The file cannot be read from here on: ${at.message}` }],
    };
  }
  const [header, ...body] = parsed;
  if (!header)
    return {
      rows: [],
      faults: [{ line: 1, column: "", reason: "The file is empty. Its first line must name the columns." }],
    };

  const names = header.record.map((name) => name.trim().toLowerCase());
  const position = new Map(names.map((name, i) => [name, i]));
  for (const column of required)
    if (!position.has(column))
      faults.push({ line: 1, column, reason: "This column is missing. The first line must name it." });
  // A line of nothing but separators names a thousand columns.
  names.slice(0, MOST_FAULTS).forEach((name, i) => {
    if (!(known as readonly string[]).includes(name))
      faults.push({
        line: 1,
        column: name || `column ${i + 1}`,
        reason: `This column is not known. Known are: ${known.join(", ")}.`,
      });
    else if (position.get(name) !== i) faults.push({ line: 1, column: name, reason: "This column stands twice." });
  });
  if (body.length > MOST_ROWS) {
    const most = MOST_ROWS.toLocaleString("en");
    faults.push({ line: 1, column: "", reason: `The file has more than ${most} rows. Send it in parts.` });
  }
  if (faults.length > 0) return { rows: [], faults };

  const found = known.filter((column) => position.has(column));
  const rows: TableRow<Column>[] = [];
  const lines = lineCounter(bytes);
  let end = header.info.bytes;
  for (const { record: cells, info } of body) {
    const line = lines(end);
    end = info.bytes;
    if (cells.length === names.length)
      rows.push({
        line,
        cells: Object.fromEntries(found.map((column) => [column, cells[must(position.get(column))]])) as Partial<
          Record<Column, string>
        >,
      });
    else {
      faults.push({
        line,
        column: "",
        reason: `This row has ${cells.length} cells, the first line names ${names.length}. A separator inside a cell needs quotes.`,
      });
    }
  }
  return { rows, faults };
}

/** Reads a table in a worker thread. */
export function tableOf<Column extends string>(
  content: string,
  known: readonly Column[],
  required: readonly Column[],
): Promise<{ rows: TableRow<Column>[]; faults: RowFault[] }> {
  return aside("files", "readTable", readTable<Column>, content, known, required);
}

/**
 * Tells the line that a row begins on, given where the row before it ended; called with growing positions. Quoted cells
 * may span lines, and blank lines may stand between rows.
 */
function lineCounter(bytes: Buffer): (from: number) => number {
  const LF = 10;
  const CR = 13;
  let at = 0;
  let line = 1;
  const advance = (): void => {
    // CRLF is one line end.
    if (bytes[at] === LF || (bytes[at] === CR && bytes[at + 1] !== LF)) line += 1;
    at += 1;
  };
  return (from) => {
    while (at < from) advance();
    while (at < bytes.length && (bytes[at] === LF || bytes[at] === CR)) advance();
    return line;
  };
}

const MOST_HEADER = 20_000;

function firstLine(content: string): string {
  const end = content.search(/[\r\n]/);
  return end < 0 ? content : content.slice(0, end);
}

/** The separator that the first line has most of, outside quotes. */
function delimiterOf(content: string): string {
  const counts = new Map([",", ";", "\t"].map((mark) => [mark, 0]));
  let quoted = false;
  for (const character of content) {
    if (character === '"') quoted = !quoted;
    else if ((character === "\n" || character === "\r") && !quoted) break;
    else if (!quoted && counts.has(character)) counts.set(character, must(counts.get(character)) + 1);
  }
  return [...counts].reduce((best, one) => (one[1] > best[1] ? one : best))[0];
}

/** A table as RFC 4180 text; cells that a spreadsheet would take for a formula are guarded, numbers come as numbers. */
export function csvText(header: readonly string[], rows: readonly (readonly (string | number | null)[])[]): string {
  const guarded = rows.map((row) => row.map((cell) => (typeof cell === "string" ? guardText(cell) : cell)));
  return stringify([[...header], ...guarded], { record_delimiter: "\r\n" });
}
