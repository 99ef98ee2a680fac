import * as yup from "yup";

import { clock, day, GONE, hiddenId, id, key, listOf, number, seen, UUID, whole } from "~/kit/forms/fields";
import { places } from "~/round/day/places-schema";

/** What the forms of the week may send. */

const from = day("The week's first day is missing. Load the page again.")
  .required("The week's first day is missing. Load the page again.")
  .meta({ hidden: true });

/** Which week, as the address says. */
export const weekSearchSchema = yup.object({ from: day() });

export const weekSchema = yup.object({ from });

/** A route as the page sends it: person, number of the day, duties, with spaces between. */
const ROUTE = /^[0-9a-f-]{36} [0-6]( [0-9a-f-]{36}){0,200}$/;

export const putWeekSchema = yup.object({
  from,
  route: listOf(yup.string().matches(ROUTE, GONE).required(), 700)
    .required("There is no proposal to put on the days. Propose the week first.")
    .meta({ hidden: true }),
});

/** Most duties of a week: what undoes all of it is one text. */
const MOST_DUTIES = 1500;

/** Where the duties of a week are since it was put on people's days, and where they were before. */
export const undoWeekSchema = yup.object({
  duties: places(GONE, MOST_DUTIES).meta({ hidden: true }),
  before: places(GONE, MOST_DUTIES).meta({ hidden: true }),
});

/** How often a proposed day has to hold, percent. */
export const chanceSchema = yup.object({
  percent: yup
    .number()
    .typeError("Write a whole number of percent, such as 80.")
    .integer("Write a whole number of percent, such as 80.")
    .min(0, "Between 0 and 99 percent.")
    .max(99, "No day holds for certain: 99 percent at most.")
    .required("Write a whole number of percent, such as 80."),
});

/** A route as it was proposed. */
export function parseRoute(text: string): { person: string; day: number; duties: string[] } {
  const [person = "", day = "", ...duties] = text.split(" ");
  return { person, day: Number(day), duties: duties.filter((one) => UUID.test(one)) };
}

const hours = () =>
  number("Type hours after the start, such as 3.")
    .min(0, "0 to 16 hours after the start.")
    .max(16, "0 to 16 hours after the start.")
    .default(0);

const breakMinutes = () => whole(0, 240, "Type minutes; 0 for no break.").default(0);

/** By when a break begins: not before it may. */
const breakBy = (from: string) =>
  hours().test(
    "after",
    "It begins by this hour: not before the other.",
    (value, context) => value >= ((context.parent as Record<string, number | undefined>)[from] ?? 0),
  );

export const workerSchema = yup.object({
  person: hiddenId(),
  seen: seen().required(GONE),
  dayFrom: clock("07:00").required("Write times such as 07:00."),
  dayTo: clock("16:00").required("Write times such as 16:00."),
  break1Minutes: breakMinutes(),
  break1From: hours(),
  break1By: breakBy("break1From"),
  break2Minutes: breakMinutes(),
  break2From: hours(),
  break2By: breakBy("break2From"),
  family: listOf(key().required(), 100).default([]),
  site: listOf(id().required(), 2000).default([]),
});
