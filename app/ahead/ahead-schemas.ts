import * as yup from "yup";

import { isDay } from "~/kit/days/is-day";
import { day as dayField, GONE, id as idField, text, UUID } from "~/kit/forms/fields";

const id = idField();
const day = dayField("Choose a day.");

/** Most duties moved in one go. */
const MOST = 200;

/**
 * Duties, and where each was when the page showed it: one text, so that a form with two hundred of them stays one field, and
 * what somebody else has moved meanwhile is known.
 */
const places = (words: string) =>
  yup
    .array(
      yup.object({
        dutyId: id.required(GONE),
        on: yup
          .string()
          .nullable()
          .defined()
          .test("day", GONE, (value) => value === null || isDay(value)),
        personId: yup
          .string()
          .nullable()
          .defined()
          .test("id", GONE, (value) => value === null || UUID.test(value)),
      }),
    )
    .transform((value: unknown, raw: unknown) => {
      if (typeof raw !== "string") return value;
      try {
        const list = JSON.parse(raw) as unknown;
        // More than are taken are not looked at one by one.
        return Array.isArray(list) ? list.slice(0, MOST + 1) : null;
      } catch {
        return null;
      }
    })
    .typeError(GONE)
    .min(1, words)
    .max(MOST, `Put at most ${MOST} duties on a day in one go.`)
    .required(words);

const duties = places("Choose at least one duty.");
export const putOnDaySchema = yup.object({ duties, on: day.required("Choose a day."), personId: id });
export const takeOffSchema = yup.object({ duties });

/** Where duties are since the change, and where they were before it, as its answer said. */
export const undoSchema = yup.object({
  duties: places(GONE).meta({ hidden: true }),
  before: places(GONE).meta({ hidden: true }),
});
export const saveViewSchema = yup.object({
  name: text(80).required("Give the view a name."),
  query: text(1000).default(""),
});
export const dropViewSchema = yup.object({ view: id.required(GONE) });

const WHO = ["operator", "technician", "licensed"] as const;

/** Filters of Ahead as they stand in the address. What is not understood is left out, as an old link may hold it. */
export function aheadFilter(params: URLSearchParams) {
  const text = (name: string, max = 80): string | null => params.get(name)?.trim().slice(0, max) || null;
  const who = text("who");
  const after = text("after");
  return {
    q: text("q"),
    siteId: text("site"),
    family: text("family"),
    who: WHO.find((one) => one === who) ?? null,
    personId: text("for"),
    after:
      after !== null && isDay(after.slice(0, 10)) && UUID.test(after.slice(11)) && after[10] === "_" ? after : null,
  };
}
