import * as yup from "yup";

import { isDay } from "~/kit/days/is-day";
import { day as dayField, GONE, id as idField, text, UUID } from "~/kit/forms/fields";
import { places } from "~/round/day/places-schema";

const id = idField();
const day = dayField("Choose a day.");

const duties = places("Choose at least one duty.");
export const putOnDaySchema = yup.object({ duties, on: day.required("Choose a day."), personId: id });
export const takeOffSchema = yup.object({ duties });

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
