import { stringify } from "csv-stringify/sync";
import * as yup from "yup";

import { type DayOrder, dayOrderOf, readDay } from "~/kit/days/read-day";
import { isHolidayRegion } from "~/kit/days/site-calendar.server";
import { isTimeZone } from "~/kit/days/site-day";
import { guardText, listed, MOST_ROWS, readTable, type RowFault, unguardText } from "~/kit/server/csv-table.server";
import { EVERY_FAMILY } from "~/machines/adding/new-machine-schemas";

export type { RowFault };

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
  /** From here on undefined where a file has no such column: the register then keeps its own. */
  latitude?: number | null;
  longitude?: number | null;
  holiday_region?: string;
  drain_rules?: string;
  waste_rules?: string;
  position?: string;
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
  "latitude",
  "longitude",
  "holiday_region",
  "drain_rules",
  "waste_rules",
  "position",
] as const satisfies readonly (keyof MachineRecord)[];

type Column = (typeof COLUMNS)[number];
const OPTIONAL = [
  "latitude",
  "longitude",
  "holiday_region",
  "drain_rules",
  "waste_rules",
  "position",
] as const satisfies readonly Column[];
const NUMBERS = ["water_hardness_mg_l", "latitude", "longitude"] as const satisfies readonly Column[];
const REQUIRED: Column[] = ["customer", "site", "time_zone", "tag", "name", "family"];
const DAYS = ["commissioned_on", "duties_from"] as const satisfies readonly Column[];
/** Columns that things are found by: stray spaces around them never mean anything. */
const KEYS = new Set<Column>([
  "customer",
  "site",
  "time_zone",
  "tag",
  "family",
  "serial",
  "commissioned_on",
  "duties_from",
  "options",
  "holiday_region",
]);

export interface ParsedRegister {
  good: { line: number; record: MachineRecord }[];
  faults: RowFault[];
  /** Columns that the file has: what it has none for stays as the register has it. */
  columns: string[];
  /** A day that may be meant in two ways, and both; null when all can be told. */
  unsureDay: { text: string; either: [string, string] } | null;
}

const day = yup
  .string()
  .nullable()
  .test(
    "day",
    "must be a day that exists, such as 2026-04-03",
    (value) => !value || (/^\d{4}-\d{2}-\d{2}$/.test(value) && realDay(value)),
  );

function realDay(text: string): boolean {
  const date = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(date.getTime()) && date.toISOString().slice(0, 10) === text;
}

const slug = /^[a-z0-9]+(-[a-z0-9]+)*$/;
const max = (length: number) => yup.string().max(length, `is longer than ${length} characters`);
const required = (length: number) => max(length).required("is empty; every machine needs it");

const degrees = (limit: number) =>
  yup
    .number()
    .nullable()
    .typeError("must be degrees, or empty")
    .min(-limit, `is below -${limit} degrees`)
    .max(limit, `is above ${limit} degrees`);

const SCHEMA = yup.object({
  customer: required(160),
  site: required(160),
  address: max(300),
  time_zone: required(60).test("zone", "is no time zone; write a name such as Europe/Lisbon", (value) =>
    isTimeZone(value),
  ),
  water_hardness_mg_l: yup
    .number()
    .nullable()
    .typeError("must be a number in mg/L, or empty")
    .min(0, "must not be negative")
    .max(5000, "is more than 5000 mg/L; check the unit"),
  access_hours: max(200),
  area: max(120),
  tag: required(32).matches(/^[A-Za-z0-9][A-Za-z0-9-]*$/, {
    message: "may hold letters, digits and hyphens only",
    excludeEmptyString: true,
  }),
  name: required(160),
  family: required(60)
    .matches(slug, { message: "must be a family's name, such as flake-ice-maker", excludeEmptyString: true })
    .notOneOf([EVERY_FAMILY], "must be one family, such as flake-ice-maker"),
  maker: max(120),
  model: max(120),
  serial: max(120),
  commissioned_on: day,
  duties_from: day,
  options: yup
    .array(yup.string().defined().matches(slug, "holds something that is no option's short name"))
    .max(30, "holds more than 30 options"),
  notes: max(4000),
  latitude: degrees(90),
  longitude: degrees(180),
  holiday_region: max(20).test(
    "region",
    "is no region with known holidays; write PT, or PT-30 for a part of a country",
    (value) => !value || isHolidayRegion(value),
  ),
  drain_rules: max(2000),
  waste_rules: max(2000),
  position: max(200),
});

/**
 * Reads a machine register: comma, semicolon or tab separated, with or without a byte order mark, quotes and any line
 * ends. Every bad cell is listed with its line and column; rows without a fault are good.
 */
export function parseMachineCsv(content: string, order: DayOrder | null = null): ParsedRegister {
  const { rows, faults } = readTable(content, COLUMNS, REQUIRED);
  const columns = COLUMNS.filter((column) => rows[0]?.cells[column] !== undefined);
  const told = order ?? dayOrderOf(rows.flatMap(({ cells }) => DAYS.map((column) => cells[column] ?? "")));
  let unsureDay: ParsedRegister["unsureDay"] = null;
  const unsure = new Map<string, string>();
  const read = rows.map(({ line, cells }) => {
    const record = readRow(cells);
    for (const column of DAYS) {
      const text = (record[column] as string | null) ?? "";
      const day = readDay(text, told);
      if (day === null) continue;
      if ("day" in day) record[column] = day.day;
      else {
        unsureDay ??= { text, either: day.either };
        unsure.set(`${line} ${column}`, `may be ${day.either.join(" or ")}: say which`);
      }
    }
    return { line, record };
  });
  const checked = checkRows(read, faults);
  const named = checked.faults.map((fault) => ({
    ...fault,
    reason: unsure.get(`${fault.line} ${fault.column}`) ?? fault.reason,
  }));
  return { good: checked.good, faults: named, columns, unsureDay };
}

/** Reads a register in either of its open forms: JSON when it begins like a list, else CSV. */
export function parseRegister(content: string, order: DayOrder | null = null): ParsedRegister {
  return /^\uFEFF?\s*\[/.test(content) ? parseMachineJson(content) : parseMachineCsv(content, order);
}

/** Reads a register as JSON (`schemas/machine-register.schema.json`); a fault's line is the machine's place in the list. */
function parseMachineJson(content: string): ParsedRegister {
  let list: unknown;
  try {
    list = JSON.parse(content.replace(/^\uFEFF/, ""));
  } catch (error) {
    return {
      good: [],
      faults: [{ line: 1, column: "", reason: `This is no valid JSON: ${(error as Error).message}` }],
      columns: [],
      unsureDay: null,
    };
  }
  if ((list as unknown[]).length > MOST_ROWS) {
    const reason = `The file has more than ${MOST_ROWS.toLocaleString("en")} machines. Send it in parts.`;
    return { good: [], faults: [{ line: 1, column: "", reason }], columns: [], unsureDay: null };
  }
  const faults: RowFault[] = [];
  const rows: { line: number; record: Record<string, unknown> }[] = [];
  (list as unknown[]).forEach((one, i) => {
    const line = i + 1;
    if (one === null || typeof one !== "object" || Array.isArray(one)) {
      faults.push({ line, column: "", reason: "Each entry must be an object, one a machine." });
      return;
    }
    const unknown = Object.keys(one).find((name) => !(COLUMNS as readonly string[]).includes(name));
    if (unknown !== undefined)
      faults.push({ line, column: unknown, reason: `This field is not known. Known are: ${COLUMNS.join(", ")}.` });
    else rows.push({ line, record: { ...EMPTY, ...one } });
  });
  const columns =
    rows.length === 0
      ? []
      : COLUMNS.filter((column) =>
          (list as unknown[]).some((one) => one !== null && typeof one === "object" && column in one),
        );
  return { ...checkRows(rows, faults), columns, unsureDay: null };
}

const EMPTY = {
  address: "",
  water_hardness_mg_l: null,
  access_hours: "",
  area: "",
  maker: "",
  model: "",
  serial: "",
  commissioned_on: null,
  duties_from: null,
  options: [],
  notes: "",
};

/** Checks each row by itself and against the others; rows without a fault are good. */
function checkRows(
  rows: readonly { line: number; record: Record<string, unknown> }[],
  faults: RowFault[],
): Pick<ParsedRegister, "good" | "faults"> {
  const good: ParsedRegister["good"] = [];
  const lineOfTag = new Map<string, number>();
  const lineOfSerial = new Map<string, number>();
  const sites = new Map<string, { line: number; record: MachineRecord }>();
  for (const { line, record } of rows) {
    const rowFaults: RowFault[] = [];
    try {
      SCHEMA.validateSync(record, { abortEarly: false, strict: true });
      const complete = record as unknown as MachineRecord;
      rowFaults.push(...repeats(complete, line, lineOfTag, lineOfSerial, sites));
      if (rowFaults.length === 0) good.push({ line, record: complete });
    } catch (error) {
      if (!(error instanceof yup.ValidationError)) throw error;
      for (const inner of error.inner) {
        const column = (inner.path ?? "").replace(/\[.*$/, "");
        if (!rowFaults.some((fault) => fault.column === column))
          rowFaults.push({ line, column, reason: inner.message });
      }
    }
    faults.push(...rowFaults);
  }
  return { good, faults: listed(faults) };
}

function readRow(cells: Partial<Record<Column, string>>): Record<Column, unknown> {
  const row = {} as Record<Column, unknown>;
  for (const column of COLUMNS) {
    const raw = cells[column];
    if (raw === undefined && (OPTIONAL as readonly Column[]).includes(column)) continue;
    const text = raw ?? "";
    row[column] = (NUMBERS as readonly Column[]).includes(column)
      ? text.trim()
      : KEYS.has(column)
        ? unguardText(text.trim()).trim()
        : unguardText(text);
  }
  for (const column of NUMBERS) {
    // A decimal comma is what a spreadsheet writes where semicolons separate.
    const text = row[column] as string | undefined;
    if (text !== undefined) row[column] = text === "" ? null : Number(text.replace(",", "."));
  }
  // "Flake ice maker" as well as its short name.
  row.family = (row.family as string).toLowerCase().replace(/\s+/g, "-");
  row.commissioned_on = row.commissioned_on === "" ? null : row.commissioned_on;
  row.duties_from = row.duties_from === "" ? null : row.duties_from;
  const options = row.options as string;
  row.options = options === "" ? [] : options.split("|").map((option) => option.trim());
  return row;
}

const SITE_COLUMNS = [
  "address",
  "time_zone",
  "water_hardness_mg_l",
  "access_hours",
  "latitude",
  "longitude",
  "holiday_region",
  "drain_rules",
  "waste_rules",
] as const;

function repeats(
  record: MachineRecord,
  line: number,
  lineOfTag: Map<string, number>,
  lineOfSerial: Map<string, number>,
  sites: Map<string, { line: number; record: MachineRecord }>,
): RowFault[] {
  const faults: RowFault[] = [];
  const tag = record.tag.toLowerCase();
  if (lineOfTag.has(tag))
    faults.push({ line, column: "tag", reason: `Line ${lineOfTag.get(tag)} has the same tag "${record.tag}".` });
  else lineOfTag.set(tag, line);
  if (record.serial !== "") {
    const serial = `${record.maker}\n${record.model}\n${record.serial}`.toLowerCase();
    if (lineOfSerial.has(serial))
      faults.push({
        line,
        column: "serial",
        reason: `Line ${lineOfSerial.get(serial)} has the same maker, model and serial number.`,
      });
    else lineOfSerial.set(serial, line);
  }
  const key = `${record.customer}\n${record.site}`.toLowerCase();
  const first = sites.get(key);
  if (!first) sites.set(key, { line, record });
  else {
    for (const column of SITE_COLUMNS) {
      if (first.record[column] !== record[column]) {
        faults.push({
          line,
          column,
          reason: `Line ${first.line} says otherwise for the same site: "${String(first.record[column] ?? "")}".`,
        });
      }
    }
  }
  return faults;
}

/** Writes a register (RFC 4180: commas, CRLF, quotes where needed), ready to be imported again. */
export function writeMachineCsv(records: readonly MachineRecord[]): string {
  const rows = records.map((record) =>
    COLUMNS.map((column) => {
      const value = record[column];
      if (value === null || value === undefined) return "";
      if (typeof value === "number") return String(value);
      return guardText(Array.isArray(value) ? value.join("|") : value);
    }),
  );
  return stringify([[...COLUMNS], ...rows], { record_delimiter: "windows" });
}

/** Writes a register as JSON, with the same fields as the CSV. */
export function writeMachineJson(records: readonly MachineRecord[]): string {
  return `${JSON.stringify(
    records.map((record) =>
      Object.fromEntries(
        COLUMNS.filter((column) => record[column] !== undefined).map((column) => [column, record[column]]),
      ),
    ),
    null,
    1,
  )}\n`;
}
