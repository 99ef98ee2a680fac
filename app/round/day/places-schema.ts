import * as yup from "yup";

import { isDay } from "~/kit/days/is-day";
import { GONE, id as idField, UUID } from "~/kit/forms/fields";

const id = idField();

/** Most duties moved in one go. */
const MOST = 200;

/**
 * Duties, and where each was when the page showed it: one text, so that a form with two hundred of them stays one field, and
 * what somebody else has moved meanwhile is known.
 */
export const places = (words: string, most = MOST) =>
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
        return Array.isArray(list) ? list.slice(0, most + 1) : null;
      } catch {
        return null;
      }
    })
    .typeError(GONE)
    .min(1, words)
    .max(most, `Put at most ${most} duties on a day in one go.`)
    .required(words);

/** Where duties are since a change, and where they were before it, as its answer said. */
export const undoSchema = yup.object({
  duties: places(GONE).meta({ hidden: true }),
  before: places(GONE).meta({ hidden: true }),
});
