import * as yup from "yup";

import { parseAccessHours } from "~/kit/access-hours";
import { isTimeZone } from "~/kit/site-day";

/** Shared places as people write them: `sink 2; hood 1`. A name alone is one of it. */
export function parseSharedPlaces(text: string): Record<string, number> {
  const places: Record<string, number> = {};
  for (const part of text
    .split(";")
    .map((one) => one.trim().toLowerCase())
    .filter(Boolean)) {
    const found = /^([a-z][a-z-]{0,39})(?:\s+(\d{1,2}))?$/.exec(part);
    if (!found) throw new Error(`"${part}" is not understood. Write for example: sink 2; hood 1.`);
    places[found[1]!] = Number(found[2] ?? 1);
  }
  return places;
}

export function sharedPlacesText(places: Record<string, number>): string {
  return Object.entries(places)
    .map(([name, count]) => `${name} ${count}`)
    .join("; ");
}

const text = (max: number) => yup.string().trim().max(max, `Keep it under ${max} characters.`).default("");
const number = (words: string) => yup.number().typeError(words);

/** Contacts are typed one a line: name; role; phone; e-mail. */
export function parseContacts(lines: string): { name: string; role: string; phone: string; email: string }[] {
  return lines
    .split("\n")
    .map((line) => line.split(";").map((part) => part.trim()))
    .filter((parts) => parts.some((part) => part !== ""))
    .map(([name = "", role = "", phone = "", email = ""]) => ({ name, role, phone, email }));
}

export const siteSchema = yup.object({
  name: yup.string().trim().required("Give the site a name.").max(160, "Keep the name under 160 characters."),
  address: text(300),
  timeZone: yup
    .string()
    .required("Give the time zone.")
    .test("zone", "Use a name such as Europe/Lisbon.", (value) => value === undefined || isTimeZone(value)),
  latitude: number("Type degrees, such as 38.53.").min(-90, "Latitude is −90 to 90.").max(90, "Latitude is −90 to 90."),
  longitude: number("Type degrees, such as -28.62.")
    .min(-180, "Longitude is −180 to 180.")
    .max(180, "Longitude is −180 to 180."),
  accessHours: text(200).test("hours", (value, context) => {
    try {
      parseAccessHours(value);
      return true;
    } catch (error) {
      return context.createError({ message: (error as Error).message });
    }
  }),
  waterHardness: number("Type mg/L as calcium carbonate.")
    .min(0, "Hardness is zero or more.")
    .max(2000, "That is more than any water has."),
  holidayRegion: yup
    .string()
    .trim()
    .uppercase()
    .matches(/^[A-Z]{2}(-[A-Z0-9]{1,3})?$/, {
      message: "Write a country's two letters, such as PT, or with a part of it, PT-30.",
      excludeEmptyString: true,
    }),
  sharedPlaces: text(300).test("places", (value, context) => {
    try {
      parseSharedPlaces(value);
      return true;
    } catch (error) {
      return context.createError({ message: (error as Error).message });
    }
  }),
  drainRules: text(2000),
  wasteRules: text(2000),
  contacts: text(4000),
  notes: text(4000),
});

const day = yup
  .string()
  .required("Choose a day.")
  .matches(/^\d{4}-\d{2}-\d{2}$/, "Choose a day.");

export const closureSchema = yup.object({
  fromOn: day,
  toOn: day,
  reason: yup.string().trim().required("Say why, such as winter break.").max(200, "Keep it under 200 characters."),
});
