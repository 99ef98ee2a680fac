import { CoreError } from "../errors";
import { requireRecord, requireText } from "../inputs";

/** How a person writes numbers: their decimal mark, and what they put between groups of three digits, if anything. */
export interface NumberFormat {
  decimal: "." | ",";
  group: "." | "," | " " | "'" | "\u202f" | null;
}

export type NumberRead =
  | { kind: "number"; value: number }
  /** `85,000`: both readings, the likelier one first. */
  | { kind: "ambiguous"; values: [number, number] }
  | { kind: "none" };

const NONE: NumberRead = { kind: "none" };
const MARKS: readonly string[] = [".", ",", " ", "'", "\u202f"];
/** Nobody writes decimals with these: blanks and apostrophes, plain and typographic. */
const BLANK = /[ \u00a0\u202f'\u2019]/g;
const SIGN = /^[-+\u2212]/;
const GROUPED = /^\d{1,3}(_\d{3})+$/;

/**
 * A number as a person typed it. What can only be meant in one way is read whatever the person's own format; one mark with
 * three digits behind it is told by that format, and is ambiguous when it is not their group mark.
 *
 * @param text without its unit
 * @param format the person's own
 * @returns `none` for what is no number; never infinite, never −0
 * @throws CoreError for a format whose marks are none, or are the same
 * @example readNumber('85,000', { decimal: ',', group: '.' }) // => { kind: 'ambiguous', values: [85, 85000] }
 */
export function readNumber(text: string, format: NumberFormat): NumberRead {
  const typed = requireText(text, "text").trim();
  const { decimal, group } = readFormat(format);
  const minus = SIGN.test(typed) && typed[0] !== "+" ? -1 : 1;
  const body = typed.replace(SIGN, "").replace(BLANK, "_");
  if (!/^[\d.,_]*\d$/.test(body)) return NONE;
  const marks = body.match(/[.,]/g) ?? [];
  const last = marks.at(-1);
  if (last === undefined) return number(minus, body, "");
  const at = body.lastIndexOf(last);
  const [whole, behind] = [body.slice(0, at), body.slice(at + 1)];
  // Two different marks: the last one is the decimal. So it is behind groups that are set off by blanks.
  if (new Set(marks).size > 1 || whole.includes("_")) return number(minus, whole, behind, last);
  if (marks.length > 1) return body.startsWith("0") ? NONE : number(minus, body, "");
  if (!/^[1-9]\d{0,2}$/.test(whole) || !/^\d{3}$/.test(behind)) return number(minus, whole, behind, last);
  const [asDecimal, asGrouped] = [minus * Number(`${whole}.${behind}`), minus * Number(whole + behind)];
  if (last === group) return { kind: "number", value: asGrouped };
  return { kind: "ambiguous", values: last === decimal ? [asDecimal, asGrouped] : [asGrouped, asDecimal] };
}

/**
 * @param whole digits before the decimal mark, perhaps in groups
 * @param mark the decimal mark, which does not group too
 */
function number(sign: number, whole: string, behind: string, mark: string | null = null): NumberRead {
  if (behind.includes("_")) return NONE;
  const groups = new Set(whole.replace(/\d/g, ""));
  if (groups.size > 1 || (mark !== null && groups.has(mark))) return NONE;
  if (groups.size === 1 && !GROUPED.test(whole.replace(/[.,]/g, "_"))) return NONE;
  const value = Number(`${whole.replace(/[._,]/g, "")}.${behind}`);
  if (!Number.isFinite(value)) return NONE;
  return { kind: "number", value: value === 0 ? 0 : sign * value };
}

function readFormat(format: NumberFormat): NumberFormat {
  const { decimal, group } = requireRecord(format, "format");
  if (![".", ","].includes(decimal))
    throw new CoreError(
      "bad-value",
      "format.decimal",
      `The decimal mark is "." or ",", not ${JSON.stringify(decimal)}.`,
    );
  const between = (group as NumberFormat["group"] | undefined) ?? null;
  if (between !== null && (!MARKS.includes(between) || between === decimal))
    throw new CoreError(
      "bad-value",
      "format.group",
      `Groups of digits are set off by a point, a comma, a blank or an apostrophe that is not the decimal mark, not by ${JSON.stringify(group)}.`,
    );
  return { decimal, group: between };
}
