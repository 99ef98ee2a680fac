import * as yup from "yup";

import { isDay } from "~/kit/days/is-day";
import { day as dayField, GONE, id as idField, text, UUID } from "~/kit/forms/fields";

const id = idField();
const day = dayField("Choose a day.");

/** Ids come as one text, so that a form with two hundred of them stays one field. */
const ids = yup
  .array(id.required(GONE))
  .transform((_, raw: unknown) => (typeof raw === "string" ? raw.split(",").filter((one) => one !== "") : raw))
  .min(1, "Choose at least one duty.")
  .max(200, "Put at most 200 duties on a day in one go.")
  .required("Choose at least one duty.");

export const putOnDaySchema = yup.object({ dutyIds: ids, on: day.required("Choose a day."), personId: id });
export const takeOffSchema = yup.object({ dutyIds: ids });

/** Where duties were before, as the answer to the change said it, sent back as one text. */
const before = yup
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
      return JSON.parse(raw) as unknown;
    } catch {
      return null;
    }
  })
  .max(200, GONE)
  .typeError(GONE)
  .required(GONE)
  .meta({ hidden: true });

export const undoSchema = yup.object({ before });
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
