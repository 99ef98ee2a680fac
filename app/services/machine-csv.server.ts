import { parse } from "csv-parse/sync";
import { stringify } from "csv-stringify/sync";
import * as yup from "yup";
import { isTimeZone } from "~/shared/site-day";

/** One machine with its site, as a row of the register. */
export interface MachineRecord {
  customer: string;
  site: string;
  address: string;
  time_zone: string;
  water_hardness_mg_l: number | null;
  access_hours: string;
  area: string;
  tag: string;
  name: string;
  family: string;
  maker: string;
  model: string;
  serial: string;
  commissioned_on: string | null;
  duties_from: string | null;
  options: string[];
  notes: string;
}

export const COLUMNS = [
  "customer",
  "site",
  "address",
  "time_zone",
  "water_hardness_mg_l",
  "access_hours",
  "area",
  "tag",
  "name",
  "family",
  "maker",
  "model",
  "serial",
  "commissioned_on",
  "duties_from",
  "options",
  "notes",
] as const satisfies readonly (keyof MachineRecord)[];

type Column = (typeof COLUMNS)[number];
const REQUIRED: Column[] = ["customer", "site", "time_zone", "tag", "name", "family"];
/** Columns that things are found by: stray spaces around them never mean anything. */
const KEYS = new Set<Column>(["customer", "site", "time_zone", "tag", "family", "serial", "commissioned_on", "duties_from", "options", "water_hardness_mg_l"]);

export interface RowFault {
  /** Line of the file, the header being line 1. */
  line: number;
  column: string;
  reason: string;
}

export interface ParsedRegister {
  good: { line: number; record: MachineRecord }[];
  faults: RowFault[];
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

const day = yup
  .string()
  .nullable()
  .test("day", "must be a day that exists, written YYYY-MM-DD", (value) => !value || (/^\d{4}-\d{2}-\d{2}$/.test(value) && realDay(value)));

function realDay(text: string): boolean {
  const date = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(date.getTime()) && date.toISOString().slice(0, 10) === text;
}

const slug = /^[a-z0-9]+(-[a-z0-9]+)*$/;
const max = (length: number) => yup.string().max(length, `is longer than ${length} characters`);
const required = (length: number) => max(length).required("is empty; every machine needs it");

const SCHEMA = yup.object({
  customer: required(160),
  site: required(160),
  address: max(300),
  time_zone: required(60).test("zone", "is no time zone; write a name such as Europe/Lisbon", (value) => isTimeZone(value ?? "")),
  water_hardness_mg_l: yup
    .number()
    .nullable()
    .typeError("must be a number in mg/L, or empty")
    .min(0, "must not be negative")
    .max(5000, "is more than 5000 mg/L; check the unit"),
  access_hours: max(200),
  area: max(120),
  tag: required(32).matches(/^[A-Za-z0-9][A-Za-z0-9-]*$/, { message: "may hold letters, digits and hyphens only", excludeEmptyString: true }),
  name: required(160),
  family: required(60).matches(slug, { message: "must be a family's short name, such as flake-ice-maker", excludeEmptyString: true }),
  maker: max(120),
  model: max(120),
  serial: max(120),
  commissioned_on: day,
  duties_from: day,
  options: yup.array(yup.string().defined().matches(slug, "holds something that is no option's short name")).max(30, "holds more than 30 options"),
  notes: max(4000),
});

/**
 * Reads a machine register: comma, semicolon or tab separated, with or without a byte order mark, quotes and any line
 * ends. Every bad cell is listed with its line and column; rows without a fault are good.
 */
export function parseMachineCsv(content: string): ParsedRegister {
  const faults: RowFault[] = [];
  const bytes = Buffer.from(content.replace(/^\uFEFF/, ""));
  let rows: { record: string[]; info: { bytes: number } }[];
  try {
    rows = parse(bytes, {
      delimiter: delimiterOf(content),
      relax_column_count: true,
      skip_empty_lines: true,
      info: true,
    }) as unknown as typeof rows;
  } catch (error) {
    const at = error as { lines?: number; message: string };
    return { good: [], faults: [{ line: at.lines ?? 1, column: "", reason: `The file cannot be read from here on: ${at.message}` }] };
  }
  const [header, ...body] = rows;
  if (!header) return { good: [], faults: [{ line: 1, column: "", reason: "The file is empty. Its first line must name the columns." }] };

  const names = header.record.map((name) => name.trim().toLowerCase());
  const position = new Map(names.map((name, i) => [name, i]));
  for (const column of REQUIRED) if (!position.has(column)) faults.push({ line: 1, column, reason: "This column is missing. The first line must name it." });
  names.forEach((name, i) => {
    if (!(COLUMNS as readonly string[]).includes(name))
      faults.push({ line: 1, column: name || `column ${i + 1}`, reason: `This column is not known. Known are: ${COLUMNS.join(", ")}.` });
    else if (position.get(name) !== i) faults.push({ line: 1, column: name, reason: "This column stands twice." });
  });
  if (faults.length > 0) return { good: [], faults };

  const good: ParsedRegister["good"] = [];
  const lineOfTag = new Map<string, number>();
  const lineOfSerial = new Map<string, number>();
  const sites = new Map<string, { line: number; record: MachineRecord }>();
  const lines = lineCounter(bytes);
  let end = header.info.bytes;
  for (const { record: cells, info } of body) {
    const line = lines(end);
    end = info.bytes;
    const rowFaults: RowFault[] = [];
    if (cells.length !== names.length) {
      rowFaults.push({
        line,
        column: "",
        reason: `This row has ${cells.length} cells, the first line names ${names.length}. A separator inside a cell needs quotes.`,
      });
    } else {
      const record = readRow(cells, position);
      try {
        SCHEMA.validateSync(record, { abortEarly: false, strict: true });
      } catch (error) {
        for (const inner of (error as yup.ValidationError).inner) {
          const column = (inner.path ?? "").replace(/\[.*$/, "");
          if (!rowFaults.some((fault) => fault.column === column)) rowFaults.push({ line, column, reason: inner.message });
        }
      }
      if (rowFaults.length === 0) {
        const complete = record as unknown as MachineRecord;
        rowFaults.push(...repeats(complete, line, lineOfTag, lineOfSerial, sites));
        if (rowFaults.length === 0) good.push({ line, record: complete });
      }
    }
    faults.push(...rowFaults);
  }
  return { good, faults };
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

function readRow(cells: string[], position: Map<string, number>): Record<Column, unknown> {
  const row = {} as Record<Column, unknown>;
  for (const column of COLUMNS) {
    const at = position.get(column);
    const raw = at === undefined ? "" : cells[at]!;
    const text = column === "water_hardness_mg_l" ? raw.trim() : KEYS.has(column) ? unguardText(raw.trim()).trim() : unguardText(raw);
    row[column] = text;
  }
  const hardness = row.water_hardness_mg_l as string;
  // A decimal comma is what a spreadsheet writes where semicolons separate.
  row.water_hardness_mg_l = hardness === "" ? null : Number(hardness.replace(",", "."));
  row.commissioned_on = row.commissioned_on === "" ? null : row.commissioned_on;
  row.duties_from = row.duties_from === "" ? null : row.duties_from;
  const options = row.options as string;
  row.options = options === "" ? [] : options.split("|").map((option) => option.trim());
  return row;
}

function repeats(
  record: MachineRecord,
  line: number,
  lineOfTag: Map<string, number>,
  lineOfSerial: Map<string, number>,
  sites: Map<string, { line: number; record: MachineRecord }>,
): RowFault[] {
  const faults: RowFault[] = [];
  const tag = record.tag.toLowerCase();
  if (lineOfTag.has(tag)) faults.push({ line, column: "tag", reason: `Line ${lineOfTag.get(tag)} has the same tag "${record.tag}".` });
  else lineOfTag.set(tag, line);
  if (record.serial !== "") {
    const serial = `${record.maker}\n${record.model}\n${record.serial}`.toLowerCase();
    if (lineOfSerial.has(serial))
      faults.push({ line, column: "serial", reason: `Line ${lineOfSerial.get(serial)} has the same maker, model and serial number.` });
    else lineOfSerial.set(serial, line);
  }
  const key = `${record.customer}\n${record.site}`.toLowerCase();
  const first = sites.get(key);
  if (!first) sites.set(key, { line, record });
  else {
    for (const column of ["address", "time_zone", "water_hardness_mg_l", "access_hours"] as const) {
      if (first.record[column] !== record[column]) {
        faults.push({ line, column, reason: `Line ${first.line} says otherwise for the same site: "${String(first.record[column] ?? "")}".` });
      }
    }
  }
  return faults;
}

/** The separator that the first line has most of, outside quotes. */
function delimiterOf(content: string): string {
  const counts = new Map([",", ";", "\t"].map((mark) => [mark, 0]));
  let quoted = false;
  for (const character of content) {
    if (character === '"') quoted = !quoted;
    else if ((character === "\n" || character === "\r") && !quoted) break;
    else if (!quoted && counts.has(character)) counts.set(character, counts.get(character)! + 1);
  }
  return [...counts].reduce((best, one) => (one[1] > best[1] ? one : best))[0];
}

/** Writes a register (RFC 4180: commas, CRLF, quotes where needed), ready to be imported again. */
export function writeMachineCsv(records: readonly MachineRecord[]): string {
  const rows = records.map((record) =>
    COLUMNS.map((column) => {
      const value = record[column];
      if (value === null) return "";
      if (typeof value === "number") return String(value);
      return guardText(Array.isArray(value) ? value.join("|") : value);
    }),
  );
  return stringify([[...COLUMNS], ...rows], { record_delimiter: "windows" });
}
