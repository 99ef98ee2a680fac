import * as yup from "yup";

const id = yup.string().length(36, "This choice is not valid any more. Load the page again.");
const day = yup.string().matches(/^\d{4}-\d{2}-\d{2}$/, "Choose a day.");

/** Ids come as one text, so that a form with two hundred of them stays one field. */
const ids = yup
  .array(id.required())
  .transform((_, raw: unknown) => (typeof raw === "string" ? raw.split(",").filter((one) => one !== "") : raw))
  .min(1, "Choose at least one duty.")
  .max(200, "Put at most 200 duties on a day in one go.")
  .required();

export const putOnDaySchema = yup.object({ planIds: ids, on: day.required("Choose a day."), personId: id });
export const takeOffSchema = yup.object({ planIds: ids });
export const undoPlanSchema = yup.object({
  before: yup
    .array(yup.object({ planId: id.required(), on: day.nullable().defined(), personId: id.nullable().defined() }))
    .max(200)
    .required(),
});
export const saveViewSchema = yup.object({
  name: yup.string().trim().required("Give the view a name.").max(80, "Keep the name under 80 characters."),
  query: yup.string().max(1000).defined().default(""),
});
export const dropViewSchema = yup.object({ view: id.required() });

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
    after: after !== null && /^\d{4}-\d{2}-\d{2}_[0-9a-f-]{36}$/.test(after) ? after : null,
  };
}
