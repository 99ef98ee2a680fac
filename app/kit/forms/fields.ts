import { type NumberFormat, readNumber } from "@core";
import * as yup from "yup";

import { isDay } from "~/kit/days/is-day";
import { isTimeZone } from "~/kit/days/site-day";

/**
 * The kinds of value that forms, parameters and files bring in, each with its limits in one place. Empty fields are left
 * out before a schema sees them, so every kind is optional until it says `required` in words for the person.
 */

/** Random or time-ordered UUID in small letters, as everything but procedures and items is named. */
export const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;
/** UUID version 7: time-ordered, so that ids made on devices sort as they were made. */
export const UUID_V7 = /^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/;
/** Short names of procedures, items, meters, events: plain ASCII, as their columns are. */
export const SLUG = /^[a-z0-9]+(-[a-z0-9]+)*$/;
export const KEY = /^[\x21-\x7e]+$/;
export const CLOCK = /^([01]\d|2[0-3]):[0-5]\d$/;
/** Control characters but tab and line ends, and halves of characters: no text that a person typed has them. */
const UNPRINTABLE =
  // eslint-disable-next-line no-control-regex -- that is what is looked for
  /[\0-\x08\x0b\x0c\x0e-\x1f\x7f]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/;

export const GONE = "This choice is not valid any more. Load the page again.";

export const isPrintable = (text: string): boolean => !UNPRINTABLE.test(text);

/** A list or a row where a text belongs is none: no form sends that. */
export function oneText() {
  return yup.string().transform((value: unknown) => (typeof value === "string" ? value : undefined));
}

/** Text of a person, without spaces at its ends, counted in characters as its column counts. */
export function text(max: number) {
  return oneText()
    .trim()
    .max(max, `Keep it under ${max.toLocaleString("en")} characters.`)
    .test(
      "printable",
      "It has signs in it that cannot be kept. Type it again.",
      (value) => !value || isPrintable(value),
    );
}

/** A short name of small letters, digits and hyphens. */
export function slug(example: string, max = 60) {
  return oneText()
    .trim()
    .matches(SLUG, { message: `Use small letters, digits and hyphens, such as ${example}.`, excludeEmptyString: true })
    .max(max, `Keep it under ${max} characters.`);
}

/** An e-mail address, as long as its columns. */
export function email(example = "desk@clinic.example") {
  return text(160).email(`Type an address such as ${example}.`);
}

/** The id of something chosen on the page: a fault means that the page is out of date. */
export function id() {
  return yup.string().matches(UUID, GONE);
}

/** An id that no field shows: what is wrong with it is said above the form. */
export function hiddenId() {
  return id().required(GONE).meta({ hidden: true });
}

/** What a form was filled from, as the server said it; hidden. */
export function seen() {
  return yup
    .string()
    .matches(/^[0-9a-f]{16}$/, GONE)
    .meta({ hidden: true });
}

/** The key of a procedure or an item. */
export function key(max = 80) {
  return oneText().trim().matches(KEY, GONE).max(max, GONE);
}

/** Where a page before ended, as the page's own link says it: names among it, so any printable text. */
export function cursor() {
  return yup
    .string()
    .max(400, "This page was reached by no link of ours.")
    .test(
      "printable",
      "This page was reached by no link of ours.",
      (value) => !value || isPrintable(value.replaceAll("\u001f", "")),
    );
}

/** A calendar day that exists, YYYY-MM-DD. */
export function day(words = "Choose a day that exists, written YYYY-MM-DD.") {
  return oneText()
    .trim()
    .test("day", words, (value) => value === undefined || isDay(value));
}

/** A time of day, HH:MM. */
export function clock(example = "07:30") {
  return oneText()
    .trim()
    .matches(CLOCK, { message: `Write a time such as ${example}.`, excludeEmptyString: true });
}

export function timeZone() {
  return oneText()
    .trim()
    .max(60, "Use a name such as Europe/Lisbon.")
    .test("zone", "Use a name such as Europe/Lisbon.", (value) => value === undefined || isTimeZone(value));
}

const LONGEST_NUMBER = 24;
const NUMBER = /^[-+\u2212]?(\d+([.,]\d*)?|[.,]\d+)$/;

/** A number as typed, with a decimal point or comma. */
export function number(words = "Type a number.") {
  return yup
    .number()
    .transform((value: number, raw: unknown) => {
      if (typeof raw !== "string") return value;
      const typed = raw.trim();
      if (typed.length > LONGEST_NUMBER || !NUMBER.test(typed)) return NaN;
      return Number(typed.replace("\u2212", "-").replace(",", "."));
    })
    .typeError(words);
}

/** A quantity in an item's unit: what the books can hold, to the thousandth. */
export function quantity() {
  return number("Type a number.").max(10_000_000, "That is more than the books can hold.");
}

export function whole(least: number, most: number, words = "Type a whole number.") {
  return number(words)
    .integer("Whole numbers only.")
    .min(least, `At least ${least.toLocaleString("en")}.`)
    .max(most, `At most ${most.toLocaleString("en")}.`);
}

/** Nobody's own: `85,000` may be either. */
const PLAIN: NumberFormat = { decimal: ".", group: null };

/** What a meter shows. */
export function meterValue(words = "Type the figure the meter shows.") {
  return number(words)
    .transform((value: number, raw: unknown) => {
      const read = typeof raw === "string" ? readNumber(raw, PLAIN) : null;
      return read?.kind === "number" && String(raw).length <= LONGEST_NUMBER ? read.value : value;
    })
    .test(
      "one way",
      "This can be meant in two ways: type it without a mark between the thousands.",
      (_, { originalValue }) =>
        typeof originalValue !== "string" || readNumber(originalValue, PLAIN).kind !== "ambiguous",
    )
    .min(0, "A meter shows zero or more.")
    .max(1e12, "That is more than a meter can show.");
}

/** A password: never sent back. */
export function password(words: string) {
  return yup.string().required(words).max(200, "That is longer than any password.").meta({ secret: true });
}

/** A ticked box is sent as "on", one that is not ticked is not sent. */
export function ticked() {
  return yup
    .boolean()
    .transform((_, raw: unknown) => raw === "on" || raw === "true" || raw === true)
    .default(false);
}

/** Several values of one name: a single one comes as a text, not as a list. */
export function listOf<Item>(inner: yup.ISchema<Item>, most = 500) {
  return yup
    .array(inner)
    .transform((value: unknown, raw: unknown) => (typeof raw === "string" ? [raw] : value))
    .max(most, `At most ${most} in one go.`);
}

/** An uploaded file. An empty one counts as none. */
export function file(maxBytes: number, tooLarge?: string) {
  const size = `${Math.round(maxBytes / 1024 / 1024)} MB`;
  return yup
    .mixed<File>((value): value is File => value instanceof File)
    .typeError("Choose a file.")
    .test(
      "size",
      tooLarge ?? `The file is larger than ${size}. Split it, each part with the first line.`,
      (value) => !value || value.size <= maxBytes,
    )
    .meta({ maxBytes });
}

export const MAX_PHOTO_BYTES = 10 * 1024 * 1024;

export function photo() {
  return file(MAX_PHOTO_BYTES, "The picture is too large. Take it again with less resolution. Nothing was changed.");
}

export const MAX_TABLE_BYTES = 8 * 1024 * 1024;

/** A table to be read in. */
export function csvFile(maxBytes = MAX_TABLE_BYTES) {
  return file(maxBytes).required("Choose a CSV file first. Nothing was changed.");
}
